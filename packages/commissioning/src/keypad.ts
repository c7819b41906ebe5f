import { storedValue, textOf } from '@yare/books';
import type { MachineModel } from './model';
import { notAsFactory } from './sheets';

/** One line of instructions for entering the draft at the drive's own keys. */
export interface KeypadLine {
  code: string;
  name: string;
  /** as the drive shows it: stored, with its decimals; a choice by its number */
  enter: string;
  /** what it means, where the keys show a number */
  means: string;
}

/** What has to be keyed in so that the drive holds the draft: only what differs from the factory's values (or from the drive, once it was read). */
export function keypadList(m: MachineModel): KeypadLine[] {
  const settings = m.inDrive ? m.differing : notAsFactory(m.drafted);
  return settings.map((s) => {
    const stored = storedValue(s, m.drafted.value(s));
    return {
      code: s.code,
      name: s.name,
      enter: `${stored.toFixed(s.decimals)}${s.unit && ` ${s.unit}`}`,
      means: s.options ? textOf(s, stored) : '',
    };
  });
}
