import { refuseValue, storedValue, textOf, type DriveSettings, type Setting } from '@yare/books';
import type { SettingRole } from '@yare/core';

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
  overloadCurrent: 'follows this motor’s full-load current',
  currentLimit: 'follows this motor and this size of drive',
  statorResistance: 'was measured on the other motor',
  rotorResistance: 'was measured on the other motor',
  leakageReactance: 'was measured on the other motor',
  noLoadCurrent: 'was measured on the other motor',
  motorCooling: 'belongs to the other motor',
  motorSensor: 'belongs to the other motor',
  phaseOrder: 'belongs to how the other motor is wired: prove the direction here',
  chopper: 'belongs to the resistor fitted there',
  chopperLevel: 'belongs to the resistor fitted there',
  brakeResistance: 'belongs to the resistor fitted there',
  resistorPower: 'belongs to the resistor fitted there',
  linkAddress: 'an address may stand only once on a link',
  settingsLock: 'is a lock of the other drive',
};

const reasonToLeave = (s: Setting): string | null => (s.role && ownReason[s.role]) || (s.plate ? 'is stamped on the other motor’s plate' : null);

/** What does the same in another drive: the same code in the same family, the same role in another. */
const counterpart = (s: Setting, of: DriveSettings, sameFamily: boolean): Setting | undefined =>
  sameFamily ? of.at(s.code) : s.role && of.find(s.role);

/** What can be taken from one machine's settings into another's draft, and what must not be, each with its reason. */
export function transfer(from: DriveSettings, to: DriveSettings): { taken: Taken[]; left: LeftOut[] } {
  const taken: Taken[] = [];
  const left: LeftOut[] = [];
  const same = from.book.id === to.book.id;
  for (const s of to.all) {
    if (s.access === 'read') continue;
    const source = counterpart(s, from, same);
    const value = source && from.values[source.code];
    if (!source || value === undefined) {
      if (!same) left.push({ code: s.code, name: s.name, reason: `${from.book.family} has nothing that does the same` });
      continue;
    }
    const why = reasonToLeave(s);
    if (why) {
      left.push({ code: s.code, name: s.name, reason: why });
      continue;
    }
    const fits = same ? storedValue(s, value) : to.valueFor(s, from.inRole(source, value));
    const refusal = fits === null ? `${to.book.family} has no such choice` : refuseValue(s, fits);
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
