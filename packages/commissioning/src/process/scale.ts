import type { DriveSettings, SettingChange } from '@yare/books';
import { AnalogueSignal, formatFigure, rawOf, type Driven, type ProcessSensor, type SettingRole, type Straight } from '@yare/core';

/** A process value said every way somebody may read it: at the terminal, in % of the range, in the sensor's own unit. */
export interface Reading {
  /** mA or V at the drive's terminal */
  signal: number;
  signalUnit: 'mA' | 'V';
  percent: number;
  figure: number;
  unit: string;
  decimals: number;
}

/** Signal at 0 and at 100 % of the range, by how the input is wired. */
const ends: Record<AnalogueSignal, { low: number; high: number; unit: 'mA' | 'V' }> = {
  [AnalogueSignal.liveZero]: { low: 4, high: 20, unit: 'mA' },
  [AnalogueSignal.zeroTo20]: { low: 0, high: 20, unit: 'mA' },
  [AnalogueSignal.volts]: { low: 0, high: 10, unit: 'V' },
  [AnalogueSignal.bothWays]: { low: 0, high: 10, unit: 'V' },
};
const isSignal = (x: number): x is AnalogueSignal => x in ends;
export const signalEnds = (signal: number): { low: number; high: number; unit: 'mA' | 'V' } =>
  ends[isSignal(signal) ? signal : AnalogueSignal.liveZero];

/** The process sensor of a machine; null where none is recorded. */
export const sensorOf = (driven: Driven): ProcessSensor | null => ('sensor' in driven ? driven.sensor : null);

/** As many decimals as a thousandth of the range needs. */
export const sensorDecimals = ({ low, high }: Pick<ProcessSensor, 'low' | 'high'>): number =>
  Math.max(0, Math.min(3, Math.ceil(2 - Math.log10(Math.max(1e-9, Math.abs(high - low))))));

export function readingOf(sensor: ProcessSensor, signal: number, percent: number): Reading {
  const { low, high, unit } = signalEnds(signal);
  return {
    ...{ percent, unit: sensor.unit, signalUnit: unit, decimals: sensorDecimals(sensor) },
    signal: low + (percent / 100) * (high - low),
    figure: sensor.low + (percent / 100) * (sensor.high - sensor.low),
  };
}

/** % of the range for a figure in the sensor's unit, and for a signal at the terminal. */
export const percentOf = ({ low, high }: Pick<ProcessSensor, 'low' | 'high'>, figure: number): number => (100 * (figure - low)) / (high - low);
export function percentOfSignal(signal: number, value: number): number {
  const { low, high } = signalEnds(signal);
  return (100 * (value - low)) / (high - low);
}

/** Settings that are said in % of the feedback as the loop sees it, straightened or not. */
export const heldRoles = ['setpoint', 'secondSetpoint', 'setpointLow', 'setpointHigh'] as const satisfies readonly SettingRole[];

/** What the drive makes of its feedback; null while it takes it as it comes. */
export const straightIn = (settings: DriveSettings): Straight | null => settings.controls().process.straight;

/** % of the sensor's range for a % of the feedback as the loop sees it, and the way back; the loop's scale is not held to 0 to 100 here. */
export const sensorPercent = (straight: Straight | null, percent: number): number => (straight ? rawOf(straight, percent) : percent);
export const loopPercent = (straight: Straight | null, percent: number): number => (straight ? straight.gain * (percent + straight.offset) : percent);

/** The same of a difference, which an offset does not touch. */
export const sensorSpan = (straight: Straight | null, difference: number): number => (straight ? difference / straight.gain : difference);

/** A setting that is said in % of the feedback as the loop sees it, in the sensor's own unit; null for any other. @param value in the setting's own unit, % */
export function inSensorUnit(settings: DriveSettings, sensor: ProcessSensor | null, role: SettingRole | undefined, value: number): string | null {
  if (!sensor || !role) return null;
  const straight = straightIn(settings);
  const span = sensor.high - sensor.low;
  const level = (heldRoles as readonly SettingRole[]).includes(role);
  if (!level && role !== 'wakeFall' && role !== 'sleepBoost') return null;
  const figure = level ? sensor.low + (sensorPercent(straight, value) / 100) * span : sensorSpan(straight, value / 100) * span;
  return `${formatFigure(figure, sensorDecimals(sensor) + 1)} ${sensor.unit}`;
}

/** % of the sensor's range by which a figure may come out otherwise in another scale: a setting's own steps. */
const keptWithin = 0.5;

/**
 * Whether everything that is held can be said in a straightened scale, so that it stays the same pressure: a setting that ends at 100 % cannot hold what
 * would be more.
 */
export function straightenKeeps(settings: DriveSettings, to: Straight | null): boolean {
  const changes = straightenChanges(settings, to);
  const after = settings.with({ ...settings.values, ...Object.fromEntries(changes.map((c) => [c.code, c.value])) });
  const off = (role: (typeof heldRoles)[number] | 'wakeFall'): number => {
    const [a, b] = [settings.role(role), after.role(role)];
    // ends that are no limit stay none
    if (a === null || b === null || (role === 'setpointLow' && a <= 0) || (role === 'setpointHigh' && a >= 1)) return 0;
    const span = role === 'wakeFall';
    const said = (s: DriveSettings, x: number) => (span ? 100 * sensorSpan(straightIn(s), x) : sensorPercent(straightIn(s), 100 * x));
    return Math.abs(said(after, b) - said(settings, a));
  };
  return [...heldRoles, 'wakeFall' as const].every((role) => off(role) <= keptWithin);
}

/**
 * Changes that put a straightening into force, or take it out (null): gain, offset and their enable, and with them everything that is said in the old
 * scale, so that the same pressure is held, as firmly. Empty where the family cannot.
 */
export function straightenChanges(settings: DriveSettings, to: Straight | null): SettingChange[] {
  const from = straightIn(settings);
  if (!settings.find('straightening') || !settings.find('feedbackGain') || !settings.find('feedbackOffset')) return [];
  // as the drive rounds it: everything else is said in the scale that comes of that
  const held: Straight | null = to && {
    gain: settings.heldOf('feedbackGain', to.gain),
    offset: 100 * settings.heldOf('feedbackOffset', to.offset / 100),
  };
  const times = (held?.gain ?? 1) / (from?.gain ?? 1);
  const again = heldRoles.flatMap((role) => {
    const now = settings.role(role);
    // ends that are no limit stay none
    if (now === null || (role === 'setpointLow' && now <= 0) || (role === 'setpointHigh' && now >= 1)) return [];
    return settings.change(role, loopPercent(held, sensorPercent(from, 100 * now)) / 100);
  });
  const gain = settings.role('proportionalGain');
  const wakes = settings.role('wakeFall');
  const boost = settings.role('sleepBoost');
  return [
    ...(held ? [...settings.change('feedbackGain', held.gain), ...settings.change('feedbackOffset', held.offset / 100)] : []),
    ...settings.change('straightening', held ? 1 : 0, 'chosen'),
    ...again,
    ...(gain !== null ? settings.change('proportionalGain', gain / times) : []),
    ...(wakes !== null ? settings.change('wakeFall', wakes * times) : []),
    ...(boost !== null ? settings.change('sleepBoost', boost * times) : []),
  ].filter((c) => settings.values[c.code] !== c.value);
}
