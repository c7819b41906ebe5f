import { limits } from '@yare/contract/limits';
import { drivenFromMotor, type Driven, type DrivenKind, type StampedPlate } from '@yare/core';

export const kindNames: Readonly<Record<DrivenKind, string>> = {
  pump: 'Pump',
  fan: 'Fan',
  conveyor: 'Conveyor',
  hoist: 'Hoist',
  agitator: 'Agitator',
};

/** A figure of a driven machine as it is asked for. */
export interface DrivenField {
  key: string;
  label: string;
  second: string;
  unit: string;
  min: number;
  max: number;
  decimals: number;
  /** may be missing, which means that there is none */
  optional?: true;
}

const inertia: DrivenField = { key: 'inertia', label: 'Inertia', second: 'at the motor shaft', unit: 'kg·m²', ...limits.inertia, decimals: 3 };
const efficiency: DrivenField = {
  key: 'efficiency',
  label: 'Efficiency',
  second: 'at the rated point',
  unit: '%',
  ...limits.efficiency,
  decimals: 0,
};
const torqueShare: DrivenField = {
  key: 'torqueShare',
  label: 'Torque',
  second: 'of the motor’s rated torque, at rated speed',
  unit: '%',
  ...limits.torqueShare,
  decimals: 0,
};

const holdingBrake: DrivenField = {
  key: 'brakeShare',
  label: 'Holding brake',
  second: 'of rated torque; not given: none fitted',
  unit: '%',
  ...limits.brakeShare,
  decimals: 0,
  optional: true,
};

/** What is asked of each kind of machine, in the order of its own plate. */
export const drivenFields: Readonly<Record<DrivenKind, readonly DrivenField[]>> = {
  pump: [
    { key: 'flow', label: 'Rated flow', second: 'on the pump’s plate', unit: 'm³/h', ...limits.pumpFlow, decimals: 1 },
    { key: 'head', label: 'Rated head', second: 'at that flow', unit: 'm', ...limits.head, decimals: 1 },
    { ...efficiency, second: 'of the pump at that flow' },
    { key: 'staticHead', label: 'Static head', second: 'lifted before anything flows', unit: 'm', ...limits.staticHead, decimals: 1 },
    inertia,
  ],
  fan: [
    { key: 'flow', label: 'Rated flow', second: 'on the fan’s plate', unit: 'm³/h', ...limits.fanFlow, decimals: 0 },
    { key: 'pressure', label: 'Rated pressure', second: 'at that flow', unit: 'Pa', ...limits.fanPressure, decimals: 0 },
    { ...efficiency, second: 'of the fan at that flow' },
    { key: 'volume', label: 'Air in the ducts', second: 'that is pressed and let go', unit: 'm³', ...limits.volume, decimals: 1 },
    inertia,
  ],
  conveyor: [
    { ...torqueShare, ...limits.beltTorqueShare, second: 'of the motor’s, with its feed; below zero the load drives it' },
    { key: 'feed', label: 'Feed', second: 'at rated speed', unit: 't/h', ...limits.feed, decimals: 1 },
    { key: 'beltSpeed', label: 'Belt speed', second: 'at rated motor speed', unit: 'm/s', ...limits.beltSpeed, decimals: 2 },
    { key: 'length', label: 'Length', second: 'from feed to drop', unit: 'm', ...limits.beltLength, decimals: 1 },
    { key: 'slope', label: 'Slope', second: 'upwards; downwards below zero', unit: '°', ...limits.slope, decimals: 0 },
    { key: 'ratio', label: 'Gear', second: 'motor turns for one of the drum', unit: ': 1', ...limits.ratio, decimals: 1 },
    inertia,
    holdingBrake,
  ],
  hoist: [
    { key: 'lifts', label: 'Rated load', second: 'on the hoist’s plate', unit: 'kg', ...limits.lifts, decimals: 0 },
    { key: 'hook', label: 'Hook or bucket', second: 'its own weight', unit: 'kg', ...limits.hook, decimals: 0 },
    { key: 'hoistSpeed', label: 'Hoisting speed', second: 'at rated motor speed', unit: 'm/s', ...limits.hoistSpeed, decimals: 3 },
    { ...efficiency, second: 'of gear and rope' },
    inertia,
    holdingBrake,
  ],
  agitator: [torqueShare, inertia],
};

/** One of those figures; null where there is none. */
export function drivenFigure(driven: Driven, key: string): number | null {
  const figure = Object.entries(driven).find(([name]) => name === key)?.[1];
  return typeof figure === 'number' ? figure : null;
}

/** What the motor alone suggests of a driven machine; null where its plate makes no motor. */
function suggested(kind: DrivenKind, plate: StampedPlate): Driven | null {
  try {
    return drivenFromMotor(kind, plate);
  } catch {
    return null;
  }
}

/**
 * A driven machine once its motor's plate was corrected: every figure that still is what the old plate suggested becomes what the new one does; what
 * somebody typed stays.
 */
export function drivenAnew(driven: Driven, before: StampedPlate, now: StampedPlate): Driven {
  const [was, is] = [suggested(driven.kind, before), suggested(driven.kind, now)] as Array<Record<string, unknown> | null>;
  if (!was || !is) return driven;
  return Object.fromEntries(
    Object.entries(driven).map(([key, value]) => [key, key in was && was[key] === value ? is[key] : value]),
  ) as unknown as Driven;
}
