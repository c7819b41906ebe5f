import { OutputJob } from '../drive';

/** What relays and transistor outputs are worked from. */
export interface OutputFacts {
  running: boolean;
  /** neither tripped nor held by safe torque off */
  ready: boolean;
  tripped: boolean;
  atSpeed: boolean;
  /** Hz, without sign, where the output stands */
  frequency: number;
  /** Hz */
  minimum: number;
  brakeOpens: boolean;
  /** numbers of the pumps on contactors that are to run */
  pumps: readonly number[];
  warns: boolean;
  emergency: boolean;
}

/** Hz at which an output pulls in, and by how much less it lets go again. */
export interface Threshold {
  frequency: number;
  hysteresis: number;
}

/** Whether an output with a job has pulled in. @param was whether it had before: a threshold lets go below where it pulled in */
export function outputOn(job: OutputJob, f: OutputFacts, t: Threshold, was: boolean): boolean {
  switch (job) {
    case OutputJob.running:
      return f.running;
    case OutputJob.ready:
      return f.ready;
    case OutputJob.tripped:
      return f.tripped;
    case OutputJob.atSpeed:
      return f.atSpeed;
    case OutputJob.underMinimum:
      return f.running && f.frequency < f.minimum;
    case OutputJob.holdingBrake:
      return f.brakeOpens;
    case OutputJob.aboveThreshold:
      return f.running && f.frequency >= (was ? t.frequency - t.hysteresis : t.frequency);
    case OutputJob.pump2:
    case OutputJob.pump3:
    case OutputJob.pump4:
      return f.pumps.includes(job - OutputJob.pump2 + 2);
    case OutputJob.guardWarns:
      return f.warns;
    case OutputJob.emergency:
      return f.emergency;
    default:
      return false;
  }
}
