import { limits } from '@yare/contract/limits';
import { drivenFromMotor, type Driven, type DrivenKind, type StampedPlate } from '@yare/core';
import { say } from '@yare/words/commissioning';

export const kindNames: Readonly<Record<DrivenKind, string>> = {
  pump: say.pump,
  fan: say.fan,
  conveyor: say.conveyor,
  hoist: say.hoist,
  agitator: say.agitator,
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

const inertia: DrivenField = { key: 'inertia', label: say.inertia, second: say.atTheMotorShaft, unit: 'kg·m²', ...limits.inertia, decimals: 3 };
const efficiency: DrivenField = {
  key: 'efficiency',
  label: say.efficiency,
  second: say.atTheRatedPoint,
  unit: '%',
  ...limits.efficiency,
  decimals: 0,
};
const torqueShare: DrivenField = {
  key: 'torqueShare',
  label: say.torque,
  second: say.ofTheMotorsRatedTorque,
  unit: '%',
  ...limits.torqueShare,
  decimals: 0,
};

const holdingBrake: DrivenField = {
  key: 'brakeShare',
  label: say.holdingBrake,
  second: say.ofRatedTorqueNotGiven,
  unit: '%',
  ...limits.brakeShare,
  decimals: 0,
  optional: true,
};

/** What is asked of each kind of machine, in the order of its own plate. */
export const drivenFields: Readonly<Record<DrivenKind, readonly DrivenField[]>> = {
  pump: [
    { key: 'flow', label: say.ratedFlow, second: say.onThePumpsPlate, unit: 'm³/h', ...limits.pumpFlow, decimals: 1 },
    { key: 'head', label: say.ratedHead, second: say.atThatFlow, unit: 'm', ...limits.head, decimals: 1 },
    { ...efficiency, second: say.ofThePumpAtThat },
    { key: 'staticHead', label: say.staticHead, second: say.liftedBeforeAnythingFlows, unit: 'm', ...limits.staticHead, decimals: 1 },
    inertia,
  ],
  fan: [
    { key: 'flow', label: say.ratedFlow, second: say.onTheFansPlate, unit: 'm³/h', ...limits.fanFlow, decimals: 0 },
    { key: 'pressure', label: say.ratedPressure, second: say.atThatFlow, unit: say.pa, ...limits.fanPressure, decimals: 0 },
    { ...efficiency, second: say.ofTheFanAtThat },
    { key: 'volume', label: say.airInTheDucts, second: say.thatIsPressedAndLet, unit: 'm³', ...limits.volume, decimals: 1 },
    inertia,
  ],
  conveyor: [
    { ...torqueShare, ...limits.beltTorqueShare, second: say.ofTheMotorsWithIts },
    { key: 'feed', label: say.feed, second: say.atRatedSpeed, unit: 't/h', ...limits.feed, decimals: 1 },
    { key: 'beltSpeed', label: say.beltSpeed, second: say.atRatedMotorSpeed, unit: 'm/s', ...limits.beltSpeed, decimals: 2 },
    { key: 'length', label: say.length, second: say.fromFeedToDrop, unit: 'm', ...limits.beltLength, decimals: 1 },
    { key: 'slope', label: say.slope, second: say.upwardsDownwardsBelowZero, unit: '°', ...limits.slope, decimals: 0 },
    { key: 'ratio', label: say.gear, second: say.motorTurnsForOneOf, unit: ': 1', ...limits.ratio, decimals: 1 },
    inertia,
    holdingBrake,
  ],
  hoist: [
    { key: 'lifts', label: say.ratedLoad, second: say.onTheHoistsPlate, unit: 'kg', ...limits.lifts, decimals: 0 },
    { key: 'hook', label: say.hookOrBucket, second: say.itsOwnWeight, unit: 'kg', ...limits.hook, decimals: 0 },
    { key: 'hoistSpeed', label: say.hoistingSpeed, second: say.atRatedMotorSpeed, unit: 'm/s', ...limits.hoistSpeed, decimals: 3 },
    { ...efficiency, second: say.ofGearAndRope },
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
