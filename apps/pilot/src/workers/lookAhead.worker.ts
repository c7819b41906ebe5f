import { learnFromRecords } from '@yare/core/learn';
import { expose, transfer } from 'comlink';
import {
  lookAheadRun,
  hardToStop,
  stoppingOptions,
  whatIf,
  whatIfs,
  type DriveRecord,
  type Learned,
  type LearnOptions,
  type LearnResult,
  type LookAhead,
  type MachineSpec,
  type RunPlan,
  type StoppingOptions,
  type WhatIf,
} from '@yare/core';

/** The core's look-ahead off the main thread. */
const work = {
  run(spec: MachineSpec, plan: RunPlan): LookAhead {
    const result = lookAheadRun(spec, plan);
    return transfer(
      result,
      Object.values(result.series).map((a: Float64Array) => a.buffer),
    );
  },
  /** @param learned what a recording has narrowed, and is in `spec` */
  stopping: (spec: MachineSpec, reference: number, every: number, learned?: Learned): StoppingOptions =>
    stoppingOptions(spec, reference, every, hardToStop(spec, learned)),
  whatIf: (spec: MachineSpec, reference: number, power: number): Array<{ question: WhatIf; ahead: LookAhead }> =>
    whatIfs.map((question) => ({ question, ahead: whatIf(spec, question, reference, power) })),
  learn: (spec: MachineSpec, records: readonly DriveRecord[], options: LearnOptions): LearnResult => learnFromRecords(spec, records, options),
};
export type LookAheadWork = typeof work;

expose(work);
