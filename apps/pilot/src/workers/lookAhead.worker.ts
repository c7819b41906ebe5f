import { learnFromRecords } from '@yare/core/learn';
import { expose, transfer } from 'comlink';
import {
  lookAheadRun,
  stoppingOptions,
  whatIf,
  whatIfs,
  type DriveRecord,
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
  stopping: (...a: Parameters<typeof stoppingOptions>): StoppingOptions => stoppingOptions(...a),
  whatIf: (spec: MachineSpec, reference: number, power: number): Array<{ question: WhatIf; ahead: LookAhead }> =>
    whatIfs.map((question) => ({ question, ahead: whatIf(spec, question, reference, power) })),
  learn: (spec: MachineSpec, records: readonly DriveRecord[], options: LearnOptions): LearnResult => learnFromRecords(spec, records, options),
};
export type LookAheadWork = typeof work;

expose(work);
