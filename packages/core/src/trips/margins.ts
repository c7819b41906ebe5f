import { busAtRest, type DriveRating, type Supply } from '../drive';

/** What a machine may trip by while it runs, each on its own scale from how it rests to its trip level. */
export const marginKinds = ['busHigh', 'busLow', 'current', 'motorHeat', 'driveTemperature'] as const;
export type MarginKind = (typeof marginKinds)[number];

export interface Margin {
  kind: MarginKind;
  /** 0 as at rest, 1 at the trip */
  used: number;
  /** as told, and where it trips; V, A, % of the trip point, °C */
  value: number;
  level: number;
}

/** Figures of a machine as its link tells them. V, A, % of the overload's trip point, °C */
export interface MarginFacts {
  busVoltage: number;
  motorCurrent: number;
  motorHeat: number;
  /** null where it is not recorded */
  driveTemperature: number | null;
}

/** °C a drive that rests is taken to have. */
const restTemperature = 25;

const share = (value: number, rest: number, level: number): number => Math.max(0, (value - rest) / (level - rest));

/** How near a machine is to every trip level, the nearest first. The bus rests at √2·U of its supply. */
export function marginsOf(f: MarginFacts, rating: DriveRating, supply: Pick<Supply, 'voltage' | 'rectifier'>): Margin[] {
  const rest = busAtRest(supply);
  const all: Margin[] = [
    { kind: 'busHigh', used: share(f.busVoltage, rest, rating.overvoltageTrip), value: f.busVoltage, level: rating.overvoltageTrip },
    { kind: 'busLow', used: share(-f.busVoltage, -rest, -rating.undervoltageTrip), value: f.busVoltage, level: rating.undervoltageTrip },
    { kind: 'current', used: share(f.motorCurrent, 0, rating.overcurrentTrip), value: f.motorCurrent, level: rating.overcurrentTrip },
    { kind: 'motorHeat', used: share(f.motorHeat, 0, 100), value: f.motorHeat, level: 100 },
  ];
  const { driveTemperature: value } = f;
  const level = rating.temperatureTrip;
  if (value !== null) all.push({ kind: 'driveTemperature', used: share(value, restTemperature, level), value, level });
  return all.sort((a, b) => b.used - a.used);
}

/** Over the samples of a recording: for each kind the nearest it came. @param at facts of each sample */
export function nearestOf(at: readonly MarginFacts[], rating: DriveRating, supply: Pick<Supply, 'voltage' | 'rectifier'>): Margin[] {
  const nearest = new Map<MarginKind, Margin>();
  for (const facts of at) for (const m of marginsOf(facts, rating, supply)) if (m.used > (nearest.get(m.kind)?.used ?? -1)) nearest.set(m.kind, m);
  return [...nearest.values()].sort((a, b) => b.used - a.used);
}
