import { refuseValue, storedValue, textOf, type DriveSettings, type Setting } from '@yare/books';
import { OutputJob, toSi, type DrivenKind, type ProcessSensor, type SettingRole } from '@yare/core';
import { say } from '@yare/words/commissioning';
import { loopRoles } from './process/roles';
import type { Section } from './stage';
import { emergencyStage } from './stages/emergency';
import { guardsStage } from './stages/guards';
import { sleepStage } from './stages/sleep';
import { stationStage } from './stages/station';
import { heldRoles, loopPercent, percentOf, sensorPercent, straightIn } from './process/scale';

export interface Taken {
  code: string;
  name: string;
  value: number;
  /** where it comes from, when the other family calls it otherwise */
  from: string;
}

export interface LeftOut {
  code: string;
  name: string;
  reason: string;
}

/** Why a setting of one machine has no place in another, by role. */
const ownReason: Partial<Record<SettingRole, string>> = {
  overloadCurrent: say.followsThisMotorsFullLoad,
  currentLimit: say.followsThisMotorAndThis,
  statorResistance: say.wasMeasuredOnTheOther,
  rotorResistance: say.wasMeasuredOnTheOther,
  leakageReactance: say.wasMeasuredOnTheOther,
  noLoadCurrent: say.wasMeasuredOnTheOther,
  motorCooling: say.belongsToTheOtherMotor,
  motorSensor: say.belongsToTheOtherMotor,
  phaseOrder: say.belongsToHowTheOther,
  chopper: say.belongsToTheResistorFitted,
  chopperLevel: say.belongsToTheResistorFitted,
  brakeResistance: say.belongsToTheResistorFitted,
  resistorPower: say.belongsToTheResistorFitted,
  holdingBrake: say.belongsToTheBrakeFitted,
  brakeFrequency: say.belongsToTheBrakeFitted,
  brakeOpenDelay: say.belongsToTheBrakeFitted,
  brakeCloseDelay: say.belongsToTheBrakeFitted,
  feedbackGain: say.straightensTheOtherMachinesFeedback,
  feedbackOffset: say.straightensTheOtherMachinesFeedback,
  straightening: say.straightensTheOtherMachinesFeedback,
  linkAddress: say.anAddressMayStandOnly,
  settingsLock: say.isALockOfThe,
};

const rolesOf = ({ sections }: { sections?: readonly Section[] }): SettingRole[] => (sections ?? []).flatMap((x) => x.roles);

/** What is set for what a machine does: right on another of its kind, and wrong on any other. */
const ofItsKind: ReadonlySet<SettingRole> = new Set<SettingRole>([
  ...rolesOf(guardsStage),
  ...rolesOf(sleepStage),
  ...rolesOf(stationStage),
  ...rolesOf(emergencyStage),
  ...loopRoles,
  ...(['reversePermit', 'controlMethod', 'startBoost', 'startMode', 'stopMode', 'sShare', 'stallTime', 'liveZeroLoss', 'busRampHold'] as const),
  ...(['speedSource', 'localSpeed'] as const),
]);

/** Held by a sensor of another kind, the loop and its sleep are another's. */
const bySensor: ReadonlySet<SettingRole> = new Set<SettingRole>([...loopRoles, ...rolesOf(sleepStage)]);

/** What a shorter time of asks more of bus and motor than this machine was set for. */
const ramps: ReadonlySet<SettingRole> = new Set<SettingRole>([
  ...(['accelerationTime', 'decelerationTime', 'secondAccelerationTime', 'secondDecelerationTime', 'quickStopTime'] as const),
]);

/** What the machines are, where that is known; *one machine* where a drive takes the place of another and turns what that turned. */
export type Kinds = { from: DrivenKind; to: DrivenKind } | 'one machine';

const aKind = (kind: DrivenKind): string => say.an({ test: /^[aeiou]/.test(kind), kind });

function reasonToLeave(s: Setting, source: Setting, from: DriveSettings, to: DriveSettings, kinds: Kinds | undefined): string | null {
  const other = kinds === undefined || kinds === 'one machine' || kinds.from === kinds.to ? null : kinds;
  if (other && s.role && ofItsKind.has(s.role)) return say.isSetForAndThis({ aKind: aKind(other.from), aKind2: aKind(other.to) });
  const relay = to.outputs.includes(s);
  if (other && (relay || to.inputs.includes(s))) return say.isWiredForAndThis({ aKind: aKind(other.from), aKind2: aKind(other.to) });
  if (relay && [from.inRole(source), to.inRole(s)].some((job) => job === OutputJob.holdingBrake)) return say.worksTheBrakeOfOne;
  return ownReasonOf(s);
}

const ownReasonOf = (s: Setting): string | null => (s.role && ownReason[s.role]) || (s.plate ? say.isStampedOnTheOther : null);

/** What does the same in another drive: the same code in the same family, the same role in another. */
const counterpart = (s: Setting, of: DriveSettings, sameFamily: boolean): Setting | undefined =>
  sameFamily ? of.at(s.code) : s.role && of.find(s.role);

/** Sensors of the process at both machines. */
export interface Sensors {
  from: ProcessSensor | null;
  to: ProcessSensor | null;
}

/** % of the range of the other sensor is another pressure here: said anew in the scale of this one. A sentence where that cannot be. */
function setpointHere(held: number, from: DriveSettings, to: DriveSettings, sensors: Sensors | undefined): number | string {
  if (!sensors?.from || !sensors.to) return say.isAShareOfThe;
  if (sensors.from.measures !== sensors.to.measures) return say.isHeldByAnotherKind;
  const { low, high, unit } = sensors.from;
  const figure = toSi(low + (sensorPercent(straightIn(from), 100 * held) / 100) * (high - low), unit);
  const here = { low: toSi(sensors.to.low, sensors.to.unit), high: toSi(sensors.to.high, sensors.to.unit) };
  const percent = percentOf(here, figure);
  return percent < 0 || percent > 100 ? say.liesOutsideTheRangeOf : loopPercent(straightIn(to), percent) / 100;
}

const isHeld = (s: Setting): boolean => (heldRoles as readonly (SettingRole | undefined)[]).includes(s.role);

/** The figure a setting has here for that of the other machine, in the unit of its role; the sentence why it has none. */
function figureHere(
  s: Setting,
  source: Setting,
  value: number,
  from: DriveSettings,
  to: DriveSettings,
  sensors: Sensors | undefined,
): number | string {
  const inRole = from.inRole(source, value);
  // ends that are no limit stay none
  const open = (s.role === 'setpointLow' && inRole <= 0) || (s.role === 'setpointHigh' && inRole >= 1);
  return isHeld(s) && !open ? setpointHere(inRole, from, to, sensors) : inRole;
}

/**
 * What can be taken from one machine's settings into another's draft, and what must not be, each with its reason.
 * @param sensors of the process at both, where they are known: a set point is the same pressure there and here
 * @param kinds of both machines: what belongs to one kind stays there, and ramps shorter than here come along only where the same is turned
 */
export function transfer(from: DriveSettings, to: DriveSettings, sensors?: Sensors, kinds?: Kinds): { taken: Taken[]; left: LeftOut[] } {
  const taken: Taken[] = [];
  const left: LeftOut[] = [];
  const same = from.book.id === to.book.id;
  const twins = kinds === 'one machine' || (same && from.size === to.size && kinds?.from === kinds?.to);
  for (const s of to.all) {
    if (s.access === 'read') continue;
    const source = counterpart(s, from, same);
    const value = source && from.values[source.code];
    if (!source || value === undefined) {
      if (!same) left.push({ code: s.code, name: s.name, reason: say.hasNothingThatDoesThe({ family: from.book.family }) });
      continue;
    }
    const otherSensor = sensors?.from && sensors.to && sensors.from.measures !== sensors.to.measures && s.role && bySensor.has(s.role);
    const why = otherSensor && !isHeld(s) ? say.belongsToAnotherKindOf : reasonToLeave(s, source, from, to, kinds);
    if (why) {
      left.push({ code: s.code, name: s.name, reason: why });
      continue;
    }
    const figure = figureHere(s, source, value, from, to, sensors);
    const shorter = !twins && s.role && ramps.has(s.role) && typeof figure === 'number' && figure < to.inRole(s);
    const here = shorter ? say.isShorterThanHereWhat : figure;
    if (typeof here === 'string') {
      left.push({ code: s.code, name: s.name, reason: here });
      continue;
    }
    const fits = same && !isHeld(s) ? storedValue(s, value) : to.valueFor(s, here);
    const refusal = fits === null ? say.hasNoSuchChoice({ family: to.book.family }) : refuseValue(s, fits);
    if (refusal !== null || fits === null) left.push({ code: s.code, name: s.name, reason: refusal ?? '' });
    else if (fits !== to.values[s.code])
      taken.push({ code: s.code, name: s.name, value: fits, from: `${source.code} ${textOf(source, value)} ${source.unit}`.trim() });
  }
  return { taken, left };
}

export interface Difference {
  code: string;
  name: string;
  unit: string;
  /** as people read them; null where that side has no such setting */
  a: string | null;
  b: string | null;
}

/** Two sets of settings against each other, in the codes and units of the first; of another family what does the same is set beside it. */
export function compareSettings(a: DriveSettings, b: DriveSettings): { differing: Difference[]; equal: number; onlyInOne: number } {
  const same = a.book.id === b.book.id;
  const differing: Difference[] = [];
  let equal = 0;
  let onlyInOne = 0;
  for (const s of a.all) {
    if (s.access === 'read') continue;
    const other = counterpart(s, b, same);
    const [va, vb] = [a.values[s.code], other && b.values[other.code]];
    if (!other || va === undefined || vb === undefined) {
      onlyInOne++;
      continue;
    }
    const inA = same ? vb : a.valueFor(s, b.inRole(other, vb));
    if (inA !== null && storedValue(s, va) === storedValue(s, inA)) equal++;
    else
      differing.push({
        code: s.code,
        name: s.name,
        unit: s.options ? '' : s.unit,
        a: textOf(s, va),
        b: inA === null ? textOf(other, vb) : textOf(s, inA),
      });
  }
  return { differing, equal, onlyInOne };
}
