import type { GuideProgress, RunGuide } from '@yare/contract';
import { nth } from '@yare/core';

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
/** s an output has to stand before it counts as reached. */
const held = 1;
/** % of the range a level is let go before it is brought back, s at most each way, and s seen of it before. */
const levelMoves = 8;
const longestWay = 120;
const seenBefore = 10;

const mean = (a: readonly number[]): number => a.reduce((x, y) => x + y, 0) / a.length;

/** Tells of a feedback, as it comes in, when it stands: two stretches of it that follow each other have the same mean. */
export class SteadyWatch {
  private readonly seen: Seen[] = [];
  private began: number | null = null;

  /** Whether a sample is one that was not seen yet. */
  private isNew(time: number): boolean {
    return this.seen.length === 0 || time > nth(this.seen, this.seen.length - 1).time;
  }

  /** @param time s @param feedback % of the range */
  add(time: number, feedback: number): boolean {
    const { seen } = this;
    if (!this.isNew(time)) return false;
    this.began ??= time;
    seen.push({ time, feedback });
    while (nth(seen, 0).time < time - 2 * stretch) seen.shift();
    if (time - this.began < least) return false;
    const older = seen.filter((s) => s.time < time - stretch).map((s) => s.feedback);
    const newer = seen.filter((s) => s.time >= time - stretch).map((s) => s.feedback);
    if (older.length < 5 || newer.length < 5) return false;
    const [a, b] = [mean(older), mean(newer)];
    const spread = Math.sqrt(newer.reduce((x, y) => x + (y - b) ** 2, 0) / newer.length);
    return Math.abs(b - a) < Math.max(same, errors * spread * Math.sqrt(1 / older.length + 1 / newer.length));
  }

  /** % of the range, mean of the newer stretch */
  get mean(): number {
    const { seen } = this;
    const last = seen[seen.length - 1]?.time ?? 0;
    return mean(seen.filter((s) => s.time >= last - stretch).map((s) => s.feedback));
  }
}

/** What a look at a led run came to: nothing new, one on, or an end of the sensor's range. */
export type Looked = 'as before' | 'on' | 'out of band';

/** Leads a run while a hand holds it: a step, a level there and back, or one speed after another. Told of every sample; says what to run at. */
export class GuidedRun {
  private standing = new SteadyWatch();
  progress: GuideProgress;
  /** of a level: s and % of the range at which the way in hand began */
  private way: Seen | null = null;
  private wayTook = 0;
  /** s since when the output stands where it was asked to; null while it does not */
  private since: number | null = null;

  /** @param frequency Hz it begins at */
  constructor(
    private readonly begins: number,
    guide: RunGuide,
  ) {
    this.progress = { guide, state: 'settling', points: [] };
  }

  /** Hz it should run at now, signed. */
  get frequency(): number {
    const { guide, state, points } = this.progress;
    if (guide.kind === 'speeds') return guide.speeds[Math.min(points.length, guide.speeds.length - 1)] ?? this.begins;
    if (state === 'settling') return this.begins;
    return this.begins + (guide.kind === 'there and back' && state !== 'stepped' ? -guide.by : guide.by);
  }

  /** It has come to something since it was begun. */
  get hasBegun(): boolean {
    return this.progress.state !== 'settling' || this.progress.points.length > 0;
  }

  /**
   * One sample of the drive.
   * @param time s @param reached the output stands at what was asked for @param feedback % of the range
   */
  look(time: number, reached: boolean, feedback: number): Looked {
    const { state, guide } = this.progress;
    if (!reached) {
      this.since = null;
      return 'as before';
    }
    this.since ??= time;
    // a drive that looks for a turning shaft passes every speed on its way
    if (time - this.since < held) return 'as before';
    if (leavesBand(feedback, guide.kind)) return 'out of band';
    if (state === 'stands') return 'as before';
    if (guide.kind === 'there and back') return this.lookAtLevel(time, feedback) ? 'on' : 'as before';
    if (!this.standing.add(time, feedback)) return 'as before';
    if (guide.kind === 'speeds') this.note(guide.speeds);
    else this.turn(state === 'settling' ? 'stepped' : 'stands');
    return 'on';
  }

  private turn(state: GuideProgress['state']): void {
    this.standing = new SteadyWatch();
    this.since = null;
    this.progress = { ...this.progress, state };
  }

  /** Notes where the feedback stands at a speed, and goes on to the next. */
  private note(speeds: readonly number[]): void {
    const points = [...this.progress.points, { frequency: this.frequency, feedback: this.standing.mean }];
    this.progress = { ...this.progress, points };
    this.turn(points.length < speeds.length ? 'settling' : 'stands');
  }

  /** A level never stands: it is seen for a while, let go by some percent, and brought back. */
  private lookAtLevel(time: number, feedback: number): boolean {
    const { state } = this.progress;
    this.way ??= { time, feedback };
    const took = time - this.way.time;
    const moved = Math.abs(feedback - this.way.feedback);
    const next = { settling: 'stepped', stepped: 'back', back: 'stands', stands: 'stands' } as const;
    const over = state === 'settling' ? took >= seenBefore : moved >= levelMoves || took >= (state === 'back' ? this.wayTook : longestWay);
    if (!over) return false;
    this.wayTook = took;
    this.way = null;
    this.turn(next[state]);
    return true;
  }
}

/** Whether the feedback has come so near an end of its range that the run has to stop; a pump that is run through its speeds may make nothing at first. */
export const leavesBand = (feedback: number, kind: RunGuide['kind'] = 'step'): boolean =>
  feedback > stepBand.high || (kind !== 'speeds' && feedback < stepBand.low);
