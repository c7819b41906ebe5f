import type { Setting } from '@yare/books';
import type { SettingRole } from '@yare/core';
import type { MachineModel } from '../model';

/** The settings that shape what a drive does and reports in a run at a frequency, beyond its ramps. */
const shapeARun: readonly SettingRole[] = [
  'motorPower',
  'motorVoltage',
  'motorCurrent',
  'motorFrequency',
  'motorSpeed',
  'statorResistance',
  'controlMethod',
  'startBoost',
  'chopper',
  'brakeResistance',
  'analogueFilter',
];

/** Which of them were changed in the drive after an instant: a run from before them is another drive's, as far as a fit goes. */
export function changedSinceRun({ held, inDriveOf, asFound }: MachineModel, at: string): Setting[] {
  if (!held) return [];
  return held.having(shapeARun).filter(({ code }) => {
    const value = inDriveOf(code);
    return value !== undefined && value.at !== asFound?.values[code]?.at && Date.parse(value.at) > Date.parse(at);
  });
}
