import { expose, transfer } from 'comlink';
import { lookAheadRun, shortestStop, type LookAhead, type MachineSpec, type RunPlan } from '@yare/core';

/** The core's look-ahead off the main thread. */
const work = {
  run(spec: MachineSpec, plan: RunPlan): LookAhead {
    const result = lookAheadRun(spec, plan);
    return transfer(
      result,
      Object.values(result.series).map((a: Float64Array) => a.buffer),
    );
  },
  shortestStop: (spec: MachineSpec, reference: number): number => shortestStop(spec, reference),
};
export type LookAheadWork = typeof work;

expose(work);
