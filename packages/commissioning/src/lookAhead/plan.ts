import type { MachineSpec, RunPlan } from '@yare/core';

/** s between stops when nobody has said how often the machine stops: a stop every ten minutes. */
export const usualCycle = 600;

/** The longest a look-ahead runs: both ramps, the run between, and room for the current limit. */
export const planFor = (spec: MachineSpec, reference: number): RunPlan => {
  const { accelerationTime, decelerationTime } = spec.drive;
  return {
    reference,
    runTime: Math.min(5, 1 + 0.3 * (accelerationTime + decelerationTime)),
    longest: 20 + 3 * accelerationTime + 2 * decelerationTime,
  };
};
