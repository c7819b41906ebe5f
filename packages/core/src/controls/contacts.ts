import { InputJob } from '../drive';
import type { CommandSettings } from './command';

/** The contacts of a drive's inputs by their jobs. Jobs are fewer than the bits of a word: the terminals are read a hundred times a second. */
export class Contacts {
  private wiredJobs = 0;
  private closedJobs = 0;
  private pressedJobs = 0;
  /** a stop that opens is open: two of them are in series */
  readonly stopped: boolean;

  constructor(
    private readonly jobs: readonly InputJob[],
    private readonly now: readonly boolean[],
    before: readonly boolean[] | null,
  ) {
    let stopped = false;
    for (let n = 0; n < jobs.length; n++) {
      const job = jobs[n] ?? InputJob.notUsed;
      const bit = 1 << job;
      this.wiredJobs |= bit;
      if (now[n] === true) {
        this.closedJobs |= bit;
        if (before !== null && before[n] !== true) this.pressedJobs |= bit;
      } else if (job === InputJob.stopOpens) stopped = true;
    }
    this.stopped = stopped;
  }

  wired(job: InputJob): boolean {
    return (this.wiredJobs & (1 << job)) !== 0;
  }

  closed(job: InputJob): boolean {
    return (this.closedJobs & (1 << job)) !== 0;
  }

  /** closed now and open in the scan before */
  pressed(job: InputJob): boolean {
    return (this.pressedJobs & (1 << job)) !== 0;
  }

  /** input that is closed with a job, or the first that has it, counted from 0; null when none has */
  at(job: InputJob): number | null {
    if (!this.wired(job)) return null;
    const first = this.jobs.indexOf(job);
    if (!this.closed(job) || this.now[first] === true) return first;
    return this.jobs.findIndex((j, n) => j === job && this.now[n] === true);
  }

  /** a hand-off-auto selector has a job at the inputs */
  get selector(): boolean {
    return this.wired(InputJob.hand) || this.wired(InputJob.auto);
  }

  /** number the preset contacts make, 0 with all open */
  get preset(): number {
    return (
      (this.closed(InputJob.presetBit0) ? 1 : 0) +
      (this.closed(InputJob.presetBit1) ? 2 : 0) +
      (this.closed(InputJob.presetBit2) ? 4 : 0) +
      (this.closed(InputJob.presetBit3) ? 8 : 0)
    );
  }
}

/** A hand-off-auto selector has a job at the inputs. */
export const selectorWired = ({ jobs }: Pick<CommandSettings, 'jobs'>): boolean => jobs.includes(InputJob.hand) || jobs.includes(InputJob.auto);

/** Number the preset contacts of some jobs make, 0 with all open. */
export const presetOf = (jobs: readonly InputJob[], closed: readonly boolean[]): number => new Contacts(jobs, closed, null).preset;
