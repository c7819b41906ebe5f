import { skipToken, useQuery } from '@tanstack/react-query';
import { wrap, type Remote } from 'comlink';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { useMemo } from 'react';
import type { MachineModel } from '@yare/commissioning';
import { dayProfiles, type DayProfile } from '@yare/commissioning/days';
import { toSi, type MachineSpec, type ProcessSensor } from '@yare/core';
import type { DayPlan, SleepAhead, SleepCure, StationPlan } from '@yare/core/days';
import { say } from '@yare/words/pages/data';
import { computed } from './client';
import type { DaysWork, StationAhead } from '../workers/days.worker';

let remote: Remote<DaysWork> | undefined;
/** The one worker that runs days and years ahead. */
function daysWorker(): Remote<DaysWork> {
  remote ??= wrap<DaysWork>(new Worker(new URL('../workers/days.worker', import.meta.url)));
  return remote;
}

/** A day ahead; null before the first answer, or where there is none to ask. */
export function useSleepAhead(
  spec: MachineSpec | null,
  plan: DayPlan | null,
  power: number,
  can: readonly SleepCure[],
): { ahead: SleepAhead | null; busy: boolean } {
  const { data, isPlaceholderData, isError } = useQuery({
    queryKey: ['days', 'sleep', spec, plan, power, can],
    queryFn: spec && plan ? () => daysWorker().day(spec, plan, power, can) : skipToken,
    ...computed,
  });
  return { ahead: (spec && plan && data) ?? null, busy: spec !== null && plan !== null && !isError && (data === undefined || isPlaceholderData) };
}

/** A station on a ramp of demand and over a year. */
export function useStationAhead(
  spec: MachineSpec | null,
  plan: StationPlan | null,
  peak: number,
  lasts: number,
): { ahead: StationAhead | null; busy: boolean } {
  const { data, isPlaceholderData, isError } = useQuery({
    queryKey: ['days', 'station', spec, plan, peak, lasts],
    queryFn: spec && plan ? () => daysWorker().station(spec, plan, peak, lasts) : skipToken,
    ...computed,
  });
  return { ahead: (spec && plan && data) ?? null, busy: spec !== null && plan !== null && !isError && (data === undefined || isPlaceholderData) };
}

/** One speed of a run that was led: Hz, % of the sensor's range, % of rated torque. */
export interface LoadPoint {
  frequency: number;
  feedback: number;
  torque: number;
}

/** What somebody found out about a machine at the machine, kept on this device. */
export interface Found {
  /** a run against the shut valve, and one with the usual load */
  shut?: LoadPoint[] | undefined;
  usual?: LoadPoint[] | undefined;
  /** a draw it may sleep through: m³/h, Hz that on average, and at most, hold the feedback in % of the range, and % of the range a second by which it falls at rest */
  draw?: { flow: number; frequency: number; highest: number; feedback: number; falls: number | null } | undefined;
  /** a day to live through: one of the profiles, or m³/h by even times of the day */
  profile?: DayProfile | 'own' | undefined;
  own?: number[] | undefined;
}

const useStore = create<{ at: Record<string, Found | undefined> }>()(
  persist((): { at: Record<string, Found | undefined> } => ({ at: {} }), { name: say.yareFound }),
);

const nothing: Found = {};
export const useFound = (tag: string): Found => useStore((s) => s.at[tag] ?? nothing);
export function noteFound(tag: string, found: Found): void {
  useStore.setState((s) => ({ at: { ...s.at, [tag]: { ...s.at[tag], ...found } } }));
}

/** Rated flow of the pump in m³/h; null for another machine. */
const ratedOf = ({ machine: { driven } }: MachineModel): number | null => (driven.kind === 'pump' ? driven.flow : null);

/** m³/h by even times of the day, as chosen at this machine. */
export function useDemand(model: MachineModel): number[] | null {
  const { profile = 'leak', own } = useFound(model.machine.tag);
  const rated = ratedOf(model);
  return useMemo(() => {
    if (rated === null) return null;
    return profile === 'own' && own ? own : dayProfiles[profile === 'own' ? 'leak' : profile].shares.map((x) => x * rated);
  }, [profile, own, rated]);
}

/** What a sensor sees in SI at both ends of its range; null for one that sees nothing a day is worked out for. */
export function siSensor(sensor: ProcessSensor | null): DayPlan['sensor'] | null {
  if (!sensor || (sensor.measures !== 'pressure' && sensor.measures !== 'level')) return null;
  return { measures: sensor.measures, low: toSi(sensor.low, sensor.unit), high: toSi(sensor.high, sensor.unit) };
}
