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
    { role: 'maximumFrequency', value: plate.frequency, why: 'the motor’s own frequency' },
    { role: 'overloadCurrent', value: plate.current, why: 'the full-load current of the plate' },
    { role: 'overloadClass', value: 10, why: 'what a standard motor stands' },
    { role: 'startAfterPowerUp', value: PowerUpStart.needsNew, why: 'nothing starts by itself when power comes back' },
    { role: 'autoRestarts', value: 0, why: 'a trip is looked at before it is cleared' },
    { role: 'phaseLoss', value: Switch.on, why: 'a lost phase burns a motor slowly' },
    { role: 'earthFault', value: Switch.on, why: 'wet insulation trips before it burns' },
    { role: 'startSource', value: StartSource.terminals, why: 'start and stop come from the panel' },
    { role: 'switchOver', value: SwitchOver.stops, why: 'nothing runs on under a hand that has just taken it over' },
    { role: 'stopKey', value: StopKey.always, why: 'the stop key at the drive stops it whoever started it' },
    { role: 'externalTripSense', value: HealthyContact.closed, why: 'a broken wire acts like the contact itself' },
    { role: 'liveZeroLoss', value: LiveZeroAction.trip, why: 'a signal whose wire is broken is not a speed' },
  ];
  const limit = (share: number, why: string): Line => ({ role: 'currentLimit', value: share * plate.current, why });
  switch (kind) {
    case 'pump':
      return [
        ...all,
        { role: 'controlMethod', value: ControlMethod.quadratic, why: 'a centrifugal pump asks little torque at low speed' },
        { role: 'accelerationTime', value: 5, why: 'quick to pressure, slow enough for the pipes' },
        { role: 'decelerationTime', value: 5, why: 'the water stops it anyway; not so fast that the pipes hammer' },
        { role: 'reversePermit', value: ReversePermit.forbidden, why: 'a pump has one way round' },
        { role: 'stopMode', value: StopMode.ramp, why: 'a ramp keeps the check valve from slamming' },
        { role: 'derivativeTime', value: 0, why: 'the noise of a sensor would shake the speed' },
        limit(1.1, 'a pump needs no more than its plate at start'),
      ];
    case 'fan':
      return [
        ...all,
        { role: 'controlMethod', value: ControlMethod.quadratic, why: 'a fan’s torque falls with the square of speed' },
        { role: 'accelerationTime', value: heavy ? 60 : 30, why: 'a wheel is heavy: the limit must not hold the ramp' },
        { role: 'decelerationTime', value: heavy ? 90 : 60, why: 'its energy has to go somewhere: look at the DC bus' },
        { role: 'busRampHold', value: Switch.on, why: 'the ramp waits before the DC bus trips' },
        { role: 'startMode', value: StartMode.catchSpinning, why: 'draught may be turning it when it starts' },
        { role: 'reversePermit', value: ReversePermit.forbidden, why: 'a fan moves less air backwards, and looks as if it ran' },
        { role: 'stopMode', value: StopMode.ramp, why: 'a ramp, so that the run-down is known' },
        { role: 'derivativeTime', value: 0, why: 'the noise of a sensor would shake the speed' },
        { role: 'setpointRamp', value: 30, why: 'a heavy wheel follows slowly: a new set point must not wind the loop up' },
        limit(1.1, 'a fan needs no more than its plate at start'),
      ];
    case 'conveyor':
      return [
        ...all,
        { role: 'controlMethod', value: ControlMethod.linear, why: 'full flux at any speed: the bent curve would not move a loaded machine' },
        { role: 'accelerationTime', value: 3, why: 'the belt must not slip on its drum' },
        { role: 'decelerationTime', value: 3, why: 'what lies on it must not slide' },
        { role: 'sShare', value: 0.2, why: 'rounded, so that nothing topples' },
        { role: 'startBoost', value: 0.03, why: 'a loaded belt sticks at first' },
        { role: 'reversePermit', value: ReversePermit.forbidden, why: 'only permit it where somebody can see the tail end' },
        { role: 'stopMode', value: StopMode.ramp, why: 'a belt that coasts carries its load past the end' },
        { role: 'stallTime', value: 5, why: 'a jammed belt tells of itself soon' },
        limit(1.5, 'to break a loaded belt away'),
      ];
    case 'hoist':
      return [
        ...all,
        { role: 'controlMethod', value: ControlMethod.linear, why: 'full flux at any speed: the bent curve would not hold a load' },
        { role: 'accelerationTime', value: 2, why: 'slow enough that the load does not swing' },
        { role: 'decelerationTime', value: 2, why: 'to be looked at with the look-ahead on the way down' },
        { role: 'startBoost', value: 0.03, why: 'the load hangs on it from the first moment' },
        { role: 'holdingBrake', value: Switch.on, why: 'the brake holds whenever the drive does not' },
        { role: 'busRampHold', value: Switch.off, why: 'a ramp that waits for the bus lets the load run on' },
        { role: 'chopper', value: Switch.on, why: 'what is lowered gives back for as long as it goes down' },
        { role: 'reversePermit', value: ReversePermit.permitted, why: 'lowering is reverse' },
        { role: 'stopMode', value: StopMode.ramp, why: 'a load that coasts falls' },
        limit(1.5, 'to lift the rated load away'),
      ];
    case 'general':
      return [
        ...all,
        { role: 'controlMethod', value: ControlMethod.linear, why: 'the straight law suits what is not known to be easier' },
        { role: 'accelerationTime', value: 5, why: 'to be looked at with the look-ahead' },
        { role: 'decelerationTime', value: 5, why: 'to be looked at with the look-ahead' },
        { role: 'reversePermit', value: ReversePermit.forbidden, why: 'until somebody wants it' },
        { role: 'stopMode', value: StopMode.ramp, why: 'a stop whose time is known' },
        limit(1.5, 'heavy duty for a minute'),
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
