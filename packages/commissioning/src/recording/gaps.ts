import { say } from '@yare/words/recording';
/** Where samples are missing in a recording: said by a mark, which is no event of the machine's. */
export const gapLabel = (seconds: number): string => say.noSampleForS({ seconds: seconds.toFixed(2) });
export const gapsLabel = (count: number, seconds: number): string => say.inAllGapsSWithout({ count, seconds: seconds.toFixed(1) });
export const isGap = (label: string): boolean => /^No sample for |^In all \d+ gaps, /.test(label);

/** What the end of something that lasts is called, after its name. */
export const markEnds = ' ends';
