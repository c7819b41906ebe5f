import type { DriveBook } from '@yare/contract';
import { polesFrom, stampedPower, type DriveRole, type StampedPlate } from '@yare/core';
import { findSetting, refuseValue, settingsOf, storedValue, type FirmwareRole } from './book';
import { plateSettings } from './plateSettings';
import { settingValue } from './roleUnits';

export const templateKinds = ['pump', 'fan', 'conveyor', 'general'] as const;
export type TemplateKind = (typeof templateKinds)[number];

interface Line {
  role: DriveRole | FirmwareRole;
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
    { role: 'startAfterPowerUp', value: 0, why: 'nothing starts by itself when power comes back' },
    { role: 'autoRestarts', value: 0, why: 'a trip is looked at before it is cleared' },
    { role: 'phaseLoss', value: 1, why: 'a lost phase burns a motor slowly' },
    { role: 'earthFault', value: 1, why: 'wet insulation trips before it burns' },
    { role: 'startSource', value: 0, why: 'start and stop come from the panel' },
  ];
  const limit = (share: number, why: string): Line => ({ role: 'currentLimit', value: share * plate.current, why });
  switch (kind) {
    case 'pump':
      return [
        ...all,
        { role: 'controlMethod', value: 1, why: 'a centrifugal pump asks little torque at low speed' },
        { role: 'accelerationTime', value: 5, why: 'quick to pressure, slow enough for the pipes' },
        { role: 'decelerationTime', value: 5, why: 'the water stops it anyway; not so fast that the pipes hammer' },
        { role: 'reversePermit', value: 0, why: 'a pump has one way round' },
        { role: 'stopMode', value: 0, why: 'a ramp keeps the check valve from slamming' },
        limit(1.1, 'a pump needs no more than its plate at start'),
      ];
    case 'fan':
      return [
        ...all,
        { role: 'controlMethod', value: 1, why: 'a fan’s torque falls with the square of speed' },
        { role: 'accelerationTime', value: heavy ? 60 : 30, why: 'a wheel is heavy: the limit must not hold the ramp' },
        { role: 'decelerationTime', value: heavy ? 90 : 60, why: 'its energy has to go somewhere: look at the DC bus' },
        { role: 'busRampHold', value: 1, why: 'the ramp waits before the DC bus trips' },
        { role: 'startMode', value: 1, why: 'draught may be turning it when it starts' },
        { role: 'reversePermit', value: 0, why: 'a fan moves less air backwards, and looks as if it ran' },
        { role: 'stopMode', value: 0, why: 'a ramp, so that the run-down is known' },
        limit(1.1, 'a fan needs no more than its plate at start'),
      ];
    case 'conveyor':
      return [
        ...all,
        { role: 'controlMethod', value: 0, why: 'full torque from standstill: never the bent curve' },
        { role: 'accelerationTime', value: 3, why: 'the belt must not slip on its drum' },
        { role: 'decelerationTime', value: 3, why: 'what lies on it must not slide' },
        { role: 'sShare', value: 0.2, why: 'rounded, so that nothing topples' },
        { role: 'startBoost', value: 0.03, why: 'a loaded belt sticks at first' },
        { role: 'reversePermit', value: 0, why: 'only permit it where somebody can see the tail end' },
        { role: 'stopMode', value: 0, why: 'a belt that coasts carries its load past the end' },
        { role: 'stallTime', value: 5, why: 'a jammed belt tells of itself soon' },
        limit(1.5, 'to break a loaded belt away'),
      ];
    case 'general':
      return [
        ...all,
        { role: 'controlMethod', value: 0, why: 'the straight law suits what is not known to be easier' },
        { role: 'accelerationTime', value: 5, why: 'to be looked at with the look-ahead' },
        { role: 'decelerationTime', value: 5, why: 'to be looked at with the look-ahead' },
        { role: 'reversePermit', value: 0, why: 'until somebody wants it' },
        { role: 'stopMode', value: 0, why: 'a stop whose time is known' },
        limit(1.5, 'heavy duty for a minute'),
      ];
  }
}

export interface TemplateChange {
  code: string;
  name: string;
  value: number;
  source: 'plate' | 'worked out' | 'chosen';
  why: string;
}

/** What a template would put into a draft: the plate first, then what suits the kind of machine. Only what is not so already. */
export function templateChanges(
  book: DriveBook,
  size: string,
  kind: TemplateKind,
  plate: StampedPlate,
  draft: Readonly<Record<string, number>>,
): TemplateChange[] {
  const out: TemplateChange[] = [];
  if (polesFrom(plate.frequency, plate.speed) !== null) {
    for (const p of plateSettings(book, size, plate)) {
      const s = settingsOf(book, size).find((x) => x.code === p.code)!;
      if (draft[p.code] !== p.exact) out.push({ code: p.code, name: s.name, value: p.exact, source: p.source, why: 'from the plate' });
    }
  }
  const after = { ...draft, ...Object.fromEntries(out.map((c) => [c.code, c.value])) };
  for (const { role, value, why } of lines(kind, plate)) {
    const s = findSetting(book, size, role);
    if (!s || out.some((c) => c.code === s.code) || (s.plate && after[s.code] === value)) continue;
    const wanted = settingValue(book, size, s, value, after);
    if (wanted === null) continue;
    // the plate goes in as stamped: what the drive makes of it is told where it is written
    const fits = s.options ? wanted : Math.min(s.max, Math.max(s.min, role === 'overloadCurrent' ? value : storedValue(s, wanted)));
    if (refuseValue(s, fits) === null && fits !== draft[s.code])
      out.push({ code: s.code, name: s.name, value: fits, source: role === 'overloadCurrent' ? 'plate' : 'chosen', why });
  }
  return out;
}
