import type { StepTestProgress } from '@yare/contract';

interface Seen {
  /** s */
  time: number;
  /** % of the range */
  feedback: number;
}

/** s of each of the two stretches that are compared, and s a speed has to have been held before anything is believed. */
const stretch = 4;
const least = 2 * stretch;
/** Standard errors, and % of the range, within which two stretches are the same. */
const errors = 3;
const same = 0.15;
/** % of the range in which a test may move the feedback: at its ends nothing is measured any more, and something may run over or dry. */
export const stepBand = { low: 3, high: 97 } as const;

/** Tells of a feedback, as it comes in, when it stands: two stretches of it that follow each other have the same mean. */
export class SteadyWatch {
  private readonly seen: Seen[] = [];
  private began: number | null = null;

  /** @param time s @param feedback % of the range */
  add(time: number, feedback: number): boolean {
    const { seen } = this;
    if (seen.length > 0 && time <= seen[seen.length - 1]!.time) return false;
    this.began ??= time;
    seen.push({ time, feedback });
    while (seen[0]!.time < time - 2 * stretch) seen.shift();
    if (time - this.began < least) return false;
    const older = seen.filter((s) => s.time < time - stretch).map((s) => s.feedback);
    const newer = seen.filter((s) => s.time >= time - stretch).map((s) => s.feedback);
    if (older.length < 5 || newer.length < 5) return false;
    const mean = (a: readonly number[]) => a.reduce((x, y) => x + y, 0) / a.length;
    const [a, b] = [mean(older), mean(newer)];
    const spread = Math.sqrt(newer.reduce((x, y) => x + (y - b) ** 2, 0) / newer.length);
    return Math.abs(b - a) < Math.max(same, errors * spread * Math.sqrt(1 / older.length + 1 / newer.length));
  }
}

/** The guide of one test. Advanced with every sample; says when to step and when it is over. */
export class StepGuide {
  private standing = new SteadyWatch();
  progress: StepTestProgress;

  constructor(by: number) {
    this.progress = { by, state: 'settling' };
  }

  /**
   * One sample of the drive.
   * @param time s @param reached the output stands at what was asked for @param feedback % of the range
   * @returns whether the state changed
   */
  look(time: number, reached: boolean, feedback: number): boolean {
    const { state } = this.progress;
    if (state === 'stands' || !reached) return false;
    if (!this.standing.add(time, feedback)) return false;
    this.standing = new SteadyWatch();
    this.progress = { ...this.progress, state: state === 'settling' ? 'stepped' : 'stands' };
    return true;
  }

  /** Hz on top of the speed it began at. */
  get added(): number {
    return this.progress.state === 'settling' ? 0 : this.progress.by;
  }
}

/** Whether the feedback has come so near an end of its range that the test has to stop. */
export const leavesBand = (feedback: number): boolean => feedback < stepBand.low || feedback > stepBand.high;
