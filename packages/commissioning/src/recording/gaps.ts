/** Where samples are missing in a recording: said by a mark, which is no event of the machine's. */
export const gapLabel = (seconds: number): string => `No sample for ${seconds.toFixed(2)} s`;
export const gapsLabel = (count: number, seconds: number): string => `In all ${count} gaps, ${seconds.toFixed(1)} s without a sample`;
export const isGap = (label: string): boolean => /^No sample for |^In all \d+ gaps, /.test(label);

/** What the end of something that lasts is called, after its name. */
export const markEnds = ' ends';
