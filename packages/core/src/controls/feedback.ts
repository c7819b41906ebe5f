/** What a drive makes of its feedback: straight = gain · (raw + offset), both in % of the sensor's range. */
export interface Straight {
  gain: number;
  /** % of the range */
  offset: number;
}

/** What a raw feedback in % of the range becomes; a drive keeps it between 0 and 100. */
export const straightenedOf = ({ gain, offset }: Straight, raw: number): number => Math.max(0, Math.min(100, gain * (raw + offset)));

/** The raw feedback that a straightened one stands for, in % of the range. */
export const rawOf = ({ gain, offset }: Straight, straight: number): number => straight / gain - offset;

/** A feedback after the drive's own filter, one lag. @param lag s @param dt s */
export const smoothed = (before: number, now: number, lag: number, dt: number): number => before + (now - before) * (lag > dt ? dt / lag : 1);
