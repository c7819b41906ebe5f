import { expose } from 'comlink';
import type { MachineSpec } from '@yare/core';
import {
  sleepAhead,
  stationRamp,
  stationYear,
  type DayPlan,
  type SleepAhead,
  type SleepCure,
  type StationCount,
  type StationPlan,
  type StationSeries,
} from '@yare/core/days';

/** What the pumps of a station do on a ramp of demand, with all of them and with one lost half-way, and over a year. */
export interface StationAhead {
  ramp: StationSeries & { count: StationCount };
  lost: StationSeries & { count: StationCount };
  year: StationCount;
}

/** Days and years of pumps off the main thread. */
const work = {
  day: (spec: MachineSpec, plan: DayPlan, power: number, can: readonly SleepCure[]): SleepAhead => sleepAhead(spec, plan, power, can),
  station: (spec: MachineSpec, plan: StationPlan, peak: number, lasts: number): StationAhead => ({
    ramp: stationRamp(spec, plan, peak, lasts),
    lost: stationRamp(spec, { ...plan, lost: { number: 1, at: 0.5 * lasts } }, peak, lasts),
    year: stationYear(spec, plan),
  }),
};
export type DaysWork = typeof work;

expose(work);
