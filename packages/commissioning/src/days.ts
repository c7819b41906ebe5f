import type { DriveSettings, SettingChange } from '@yare/books';
import { formatFigure, fromSi, toSi, type ProcessSensor, type SettingRole, type SleepSettings } from '@yare/core';
import type { SleepAhead, SleepCure, StationCount } from '@yare/core/days';
import { say } from '@yare/words/commissioning';
import { sensorPercent, straightIn } from './process/scale';

/** A day of demand somebody may begin from: shares of the rated flow by the hour. */
export const dayProfiles = {
  shifts: {
    name: say.twoShifts,
    shares: [0, 0, 0, 0, 0.05, 0.3, 0.7, 0.8, 0.6, 0.4, 0.3, 0.3, 0.5, 0.7, 0.8, 0.6, 0.4, 0.6, 0.7, 0.4, 0.2, 0.1, 0, 0],
  },
  leak: {
    name: say.aLeakAtNight,
    shares: [0.02, 0.02, 0.02, 0.02, 0.05, 0.3, 0.7, 0.8, 0.6, 0.4, 0.3, 0.3, 0.5, 0.4, 0.3, 0.3, 0.4, 0.6, 0.7, 0.4, 0.2, 0.1, 0.02, 0.02],
  },
  burst: {
    name: say.aBurst,
    shares: [0, 0, 0, 0, 0.05, 0.3, 0.5, 0.5, 0.4, 0.4, 1.6, 1.6, 0.4, 0.4, 0.3, 0.3, 0.4, 0.5, 0.5, 0.3, 0.2, 0.1, 0, 0],
  },
} as const satisfies Record<string, { name: string; shares: readonly number[] }>;
export type DayProfile = keyof typeof dayProfiles;
export const dayProfileNames = Object.keys(dayProfiles) as DayProfile[];

/** m³/h by the hour of a profile that a person typed or pasted: 2 to 96 figures, parted by anything but a point. */
export function readDemand(text: string): { ok: true; demand: number[] } | { ok: false; sentence: string } {
  const cells = text
    .trim()
    .split(/[;\s|]+|,\s+/)
    .filter((c) => c !== '');
  const demand = cells.map((c) => Number(c.replace(',', '.')));
  const wrong = cells[demand.findIndex((x) => !Number.isFinite(x) || x < 0)];
  if (wrong !== undefined) return { ok: false, sentence: say.isNoFlowEnterFigures({ wrong: wrong.slice(0, 20) }) };
  if (demand.length < 2 || demand.length > 96)
    return {
      ok: false,
      sentence: say.figuresWereFoundEnterTo({ demand: demand.length }),
    };
  return { ok: true, demand };
}

const cureNames: Record<SleepCure, string> = {
  boost: say.aBoostBeforeSleep,
  delay: say.aLongerSleepDelay,
  'wake fall': say.aLowerWakeLevel,
  'boost and wake fall': say.aBoostAndALower,
  'least rest': say.aBoostALowerWake,
};
export const cureName = (cure: SleepCure): string => cureNames[cure];

/** Cures against hunting that a family has settings for. */
export const curesOf = (settings: DriveSettings): SleepCure[] => {
  const boost = settings.find('sleepBoost') !== undefined;
  return [...(boost ? (['boost'] as const) : []), 'delay', 'wake fall', ...(boost ? (['boost and wake fall', 'least rest'] as const) : [])];
};

/** Changes of the draft that put a cure into it. */
export function cureChanges(settings: DriveSettings, s: SleepSettings): SettingChange[] {
  const roles: Array<[SettingRole, number]> = [
    ['sleepDelay', s.delay],
    ['wakeFall', s.wakeFall / 100],
    ['sleepBoost', s.boost / 100],
    ['sleepBoostTime', s.boostTime],
    ['leastRun', s.leastRun],
  ];
  return roles.flatMap(([role, x]) => settings.change(role, x, 'worked out')).filter((c) => c.value !== settings.values[c.code]);
}

const said = (sensor: ProcessSensor, si: number): string => {
  const value = fromSi(si, sensor.unit);
  return `${formatFigure(value, Math.abs(sensor.high - sensor.low) > 50 ? 0 : 2)} ${sensor.unit}`;
};

/** A kept pressure that falls this share of the range below where the pump is to wake was not kept. */
const belowWake = 0.05;
/** The same for a cure that is offered: what is foretold may be off by some. */
const belowWakeCured = 0.03;
/** Wakes a day from which what is saved is worn off again at valve, seal and coupling (common practice). */
const mostWakes = 150;

/** What helps a sleep that does not pay, in words. */
const instead = say.aLargerPressureVesselHelps;

/** What is kept: the set point, and where the pump is to wake, in SI of the sensor. */
export interface Kept {
  setpoint: number;
  wakes: number;
}

/** Set point and wake level in SI of the sensor, straightened or not. */
export function keptOf(settings: DriveSettings, sensor: ProcessSensor): Kept {
  const { setpoint, sleep } = settings.controls().process;
  const straight = straightIn(settings);
  const inSi = (percent: number) => toSi(sensor.low + (sensorPercent(straight, percent) / 100) * (sensor.high - sensor.low), sensor.unit);
  return { setpoint: inSi(setpoint.stored), wakes: inSi(setpoint.stored - sleep.wakeFall) };
}

/** Whether a pump that keeps a pressure keeps it: it may fall a little below where it wakes. */
const keeps = ({ wakes }: Kept, lowest: number, sensor: ProcessSensor, below = belowWake): boolean =>
  sensor.measures !== 'pressure' || lowest >= wakes - below * (toSi(sensor.high, sensor.unit) - toSi(sensor.low, sensor.unit));

/** The cure of a day that hunts; null where none was found, or the pressure would not be kept with it. */
export function cureOffered({ cure }: SleepAhead, settings: DriveSettings, sensor: ProcessSensor): SleepAhead['cure'] {
  if (!cure) return null;
  const after = settings.with({ ...settings.values, ...Object.fromEntries(cureChanges(settings, cure.sleep).map((c) => [c.code, c.value])) });
  return keeps(keptOf(after, sensor), cure.lowest, sensor, belowWakeCured) ? cure : null;
}

/** What the day ahead comes to, in one sentence, and how grave it is. @param kept of a pump that keeps a pressure; null of any other */
export function sleepAnswer(
  a: SleepAhead,
  sensor: ProcessSensor,
  sleeps: boolean,
  kept: Kept | null = null,
): { severity: 'good' | 'warning' | 'error'; sentence: string } {
  const { day } = a;
  const worst =
    sensor.measures === 'level' ? say.highestLevel({ said: said(sensor, day.highest) }) : say.lowestPressure({ said: said(sensor, day.lowest) });
  if (!sleeps) return { severity: 'good', sentence: say.itNeverSleepsKwhA({ energy: day.energy, worst }) };
  const saved = a.awake - day.energy;
  const energy = say.kwhADayKwhLess({ energy: day.energy, abs: Math.abs(saved), saved: saved >= 0 });
  if (day.asleepHours < 0.05)
    return {
      severity: 'warning',
      sentence: say.itNeverFallsAsleepOn({ energy, worst }),
    };
  const often = day.wakes.length === 1 ? 'once' : say.timesInTheWorstHour({ wakes: day.wakes.length, wakesPerHour: day.wakesPerHour });
  const wakes = say.wakes({ often });
  if (kept && !keeps(kept, day.lowest, sensor))
    return {
      severity: 'error',
      sentence: say.thePressureFallsToWhere({ said: said(sensor, day.lowest), said2: said(sensor, kept.setpoint), wakes, instead }),
    };
  if (day.wakes.length > mostWakes || (!a.hunts && saved <= 0))
    return {
      severity: 'error',
      sentence: say.sleepDoesNotPayOn({ wakes, energy, instead }),
    };
  if (a.hunts)
    return {
      severity: 'warning',
      sentence: say.itHuntsItMotorAnd({ wakes, allowed: a.allowed, asleepHours: day.asleepHours, worst }),
    };
  return {
    severity: 'good',
    sentence: say.asleepHAnHourAre({ asleepHours: day.asleepHours, wakes, allowed: a.allowed, energy, worst }),
  };
}

/** What a year of a station comes to. */
export function yearAnswer(y: StationCount, allowed: number): { severity: 'good' | 'warning'; sentence: string } {
  const most = Math.max(...y.startsPerHour);
  const short = y.short > 1 ? say.forHAllOfThem({ short: y.short }) : '';
  const hunts = most > allowed ? say.thatIsMoreThanThe({ allowed }) : '';
  return {
    severity: most > allowed || y.short > 24 ? 'warning' : 'good',
    sentence: say.overAYearMwhOne({ energy: y.energy / 1000, most, hunts, short }),
  };
}
