import { refuseValue, storedValue, type DriveSettings, type Setting } from '@yare/books';
import {
  ControlMethod,
  HealthyContact,
  LiveZeroAction,
  PowerUpStart,
  ReversePermit,
  StartMode,
  StartSource,
  StopKey,
  StopMode,
  Switch,
  SwitchOver,
  polesFrom,
  stampedPower,
  type SettingRole,
  type StampedPlate,
} from '@yare/core';
import type { Source } from '@yare/contract';
import { say } from '@yare/words/commissioning';

export const templateKinds = ['pump', 'fan', 'conveyor', 'hoist', 'general'] as const;
export type TemplateKind = (typeof templateKinds)[number];

interface Line {
  role: SettingRole;
  /** in the unit of the role: s, Hz, A, shares */
  value: number;
  why: string;
}

/** Starts that are common practice for each kind of machine; every value is to be looked at, none is a rule. */
function lines(kind: TemplateKind, plate: StampedPlate): Line[] {
  const heavy = stampedPower(plate) > 15_000;
  const all: Line[] = [
    { role: 'maximumFrequency', value: plate.frequency, why: say.theMotorsOwnFrequency },
    { role: 'overloadCurrent', value: plate.current, why: say.theFullLoadCurrentOf },
    { role: 'overloadClass', value: 10, why: say.whatAStandardMotorStands },
    { role: 'startAfterPowerUp', value: PowerUpStart.needsNew, why: say.nothingStartsByItselfWhen },
    { role: 'autoRestarts', value: 0, why: say.aTripIsLookedAt },
    { role: 'phaseLoss', value: Switch.on, why: say.aLostPhaseBurnsA },
    { role: 'earthFault', value: Switch.on, why: say.wetInsulationTripsBeforeIt },
    { role: 'startSource', value: StartSource.terminals, why: say.startAndStopComeFrom },
    { role: 'switchOver', value: SwitchOver.stops, why: say.nothingRunsOnUnderA },
    { role: 'stopKey', value: StopKey.always, why: say.theStopKeyAtThe },
    { role: 'externalTripSense', value: HealthyContact.closed, why: say.aBrokenWireActsLike },
    { role: 'liveZeroLoss', value: LiveZeroAction.trip, why: say.aSignalWhoseWireIs },
  ];
  const limit = (share: number, why: string): Line => ({ role: 'currentLimit', value: share * plate.current, why });
  switch (kind) {
    case 'pump':
      return [
        ...all,
        { role: 'controlMethod', value: ControlMethod.quadratic, why: say.aCentrifugalPumpAsksLittle },
        { role: 'accelerationTime', value: 5, why: say.quickToPressureSlowEnough },
        { role: 'decelerationTime', value: 5, why: say.theWaterStopsItAnyway },
        { role: 'reversePermit', value: ReversePermit.forbidden, why: say.aPumpHasOneWay },
        { role: 'stopMode', value: StopMode.ramp, why: say.aRampKeepsTheCheck },
        { role: 'derivativeTime', value: 0, why: say.theNoiseOfASensor },
        limit(1.1, say.aPumpNeedsNoMore),
      ];
    case 'fan':
      return [
        ...all,
        { role: 'controlMethod', value: ControlMethod.quadratic, why: say.aFansTorqueFallsWith },
        { role: 'accelerationTime', value: heavy ? 60 : 30, why: say.aWheelIsHeavyThe },
        { role: 'decelerationTime', value: heavy ? 90 : 60, why: say.itsEnergyHasToGo },
        { role: 'busRampHold', value: Switch.on, why: say.theRampWaitsBeforeThe },
        { role: 'startMode', value: StartMode.catchSpinning, why: say.draughtMayBeTurningIt },
        { role: 'reversePermit', value: ReversePermit.forbidden, why: say.aFanMovesLessAir },
        { role: 'stopMode', value: StopMode.ramp, why: say.aRampSoThatThe },
        { role: 'derivativeTime', value: 0, why: say.theNoiseOfASensor },
        { role: 'setpointRamp', value: 30, why: say.aHeavyWheelFollowsSlowly },
        limit(1.1, say.aFanNeedsNoMore),
      ];
    case 'conveyor':
      return [
        ...all,
        { role: 'controlMethod', value: ControlMethod.linear, why: say.fullFluxAtAnySpeed },
        { role: 'accelerationTime', value: 3, why: say.theBeltMustNotSlip },
        { role: 'decelerationTime', value: 3, why: say.whatLiesOnItMust },
        { role: 'sShare', value: 0.2, why: say.roundedSoThatNothingTopples },
        { role: 'startBoost', value: 0.03, why: say.aLoadedBeltSticksAt },
        { role: 'reversePermit', value: ReversePermit.forbidden, why: say.onlyPermitItWhereSomebody },
        { role: 'stopMode', value: StopMode.ramp, why: say.aBeltThatCoastsCarries },
        { role: 'stallTime', value: 5, why: say.aJammedBeltTellsOf },
        limit(1.5, say.toBreakALoadedBelt),
      ];
    case 'hoist':
      return [
        ...all,
        { role: 'controlMethod', value: ControlMethod.linear, why: say.fullFluxAtAnySpeed2 },
        { role: 'accelerationTime', value: 2, why: say.slowEnoughThatTheLoad },
        { role: 'decelerationTime', value: 2, why: say.toBeLookedAtWith },
        { role: 'startBoost', value: 0.03, why: say.theLoadHangsOnIt },
        { role: 'holdingBrake', value: Switch.on, why: say.theBrakeHoldsWheneverThe },
        { role: 'busRampHold', value: Switch.off, why: say.aRampThatWaitsFor },
        { role: 'chopper', value: Switch.on, why: say.whatIsLoweredGivesBack },
        { role: 'reversePermit', value: ReversePermit.permitted, why: say.loweringIsReverse },
        { role: 'stopMode', value: StopMode.ramp, why: say.aLoadThatCoastsFalls },
        limit(1.5, say.toLiftTheRatedLoad),
      ];
    case 'general':
      return [
        ...all,
        { role: 'controlMethod', value: ControlMethod.linear, why: say.theStraightLawSuitsWhat },
        { role: 'accelerationTime', value: 5, why: say.toBeLookedAtWith2 },
        { role: 'decelerationTime', value: 5, why: say.toBeLookedAtWith2 },
        { role: 'reversePermit', value: ReversePermit.forbidden, why: say.untilSomebodyWantsIt },
        { role: 'stopMode', value: StopMode.ramp, why: say.aStopWhoseTimeIs },
        limit(1.5, say.heavyDutyForAMinute),
      ];
  }
}

export interface TemplateChange {
  code: string;
  name: string;
  value: number;
  source: Extract<Source, 'plate' | 'worked out' | 'chosen'>;
  why: string;
}

/** What a template would put into a draft: the plate first, then what suits the kind of machine. Only what is not so already. */
export function templateChanges(draft: DriveSettings, kind: TemplateKind, plate: StampedPlate): TemplateChange[] {
  const nameOf = (code: string) => draft.at(code)?.name ?? code;
  const stamped = polesFrom(plate.frequency, plate.speed) === null ? [] : draft.plate(plate).filter((p) => draft.values[p.code] !== p.exact);
  const out = stamped.map((p): TemplateChange => ({ code: p.code, name: nameOf(p.code), value: p.exact, source: p.source, why: 'from the plate' }));
  const after = draft.with({ ...draft.values, ...Object.fromEntries(out.map((c) => [c.code, c.value])) });
  for (const { role, value, why } of lines(kind, plate)) {
    const s = after.find(role);
    if (!s || out.some((c) => c.code === s.code) || (s.plate && after.values[s.code] === value)) continue;
    const fits = fitting(after, s, value);
    if (fits !== null && refuseValue(s, fits) === null && fits !== draft.values[s.code])
      out.push({ code: s.code, name: s.name, value: fits, source: role === 'overloadCurrent' ? 'plate' : 'chosen', why });
  }
  return out;
}

/** What a line's figure comes to in a setting, held to its range; null when the family has no such choice. */
function fitting(settings: DriveSettings, s: Setting, inRole: number): number | null {
  const wanted = settings.valueFor(s, inRole);
  if (wanted === null || s.options) return wanted;
  // the plate goes in as stamped: what the drive makes of it is told where it is written
  return Math.min(s.max, Math.max(s.min, s.role === 'overloadCurrent' ? inRole : storedValue(s, wanted)));
}
