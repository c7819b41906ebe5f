import { expose } from 'comlink';
import { shortestStop, stopFrom, type MachineSpec, type Stop } from '@yare/core';
import { diagnose, type Diagnosis, type TripCase } from '@yare/core/trips';

/** Causes of trips, and stops that are to cure them, off the main thread. */
const work = {
  diagnose: (c: TripCase): Diagnosis => diagnose(c),
  /** shortest stop from a frequency in Hz, s */
  shortest: (spec: MachineSpec, from: number): number => shortestStop(spec, from),
  stop: (spec: MachineSpec, from: number): Stop => stopFrom(spec, from, Math.min(200, 1.3 * spec.drive.decelerationTime + 5)),
};
export type TripsWork = typeof work;

expose(work);
