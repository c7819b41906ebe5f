import { buildModel, type MachineModel } from '@yare/commissioning';
import { demoMachine as shipped } from '@yare/demo-plant';
import { bookById, factoryValue, settingsOf } from '@yare/books';
import type { MachineDetail, Sheet, SheetValue } from '@yare/contract';
import type { StampedPlate } from '@yare/core';

type Values = Record<string, number>;

/** A demo machine as the server would tell it. */
export function demoMachine(tag: string, change: Partial<MachineDetail> = {}): MachineDetail {
  const demo = shipped(tag);
  return {
    ...demo,
    site: 'Brackwater Maltings',
    plate: { revision: 1, plate: demo.plate, author: 'x', at: 'x' },
    learned: null,
    drivenEstimated: false,
    driveRevision: 1,
    ...change,
  };
}

/** A sheet of a machine: factory values with some of its own. */
export function demoSheet(tag: string, kind: Sheet['kind'], values: Values, at = '2026-01-01T00:00:00Z'): Sheet {
  const { bookId, size, region } = shipped(tag);
  const entry = (value: number): SheetValue => ({ value, source: 'factory', author: 'x', at: 'x' });
  return {
    kind,
    revision: 1,
    author: 'Ines Calder',
    at,
    values: Object.fromEntries(settingsOf(bookById(bookId), size).map((s) => [s.code, entry(values[s.code] ?? factoryValue(s, region))])),
  };
}

export interface DemoModel {
  /** what differs from factory; the demo plant's own draft when absent */
  draft?: Values;
  /** null: the drive was never read */
  inDrive?: Values | null;
  changes?: Parameters<typeof buildModel>[2];
  plate?: Partial<StampedPlate>;
  machine?: Partial<MachineDetail>;
}

/** One machine of the demo plant as this device would see it. */
export function demoModel(tag: string, { draft, inDrive = {}, changes = {}, plate = {}, machine = {} }: DemoModel = {}): MachineModel {
  const own = Object.fromEntries(shipped(tag).draft.map((d) => [d.code, d.value]));
  const read = inDrive && demoSheet(tag, 'in drive', inDrive);
  const sheets = { draft: demoSheet(tag, 'draft', draft ?? own), inDrive: read, asFound: read && { ...read, kind: 'as found' as const } };
  return buildModel(demoMachine(tag, machine), sheets, changes, plate);
}
