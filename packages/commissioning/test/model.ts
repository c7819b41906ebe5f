import { bookById, DriveSettings } from '@yare/books';
import { buildModel, type MachineModel } from '../src';
import type { MachineDetail, Sheet } from '@yare/contract';
import type { StampedPlate } from '@yare/core';
import { demoMachine } from '@yare/demo-plant';

/** The model of a demo machine from what its draft and its drive hold besides the factory's values; null: the drive was never read. */
export function demoModel(
  tag: string,
  draft: Record<string, number>,
  inDrive: Record<string, number> | null,
  plate: Partial<StampedPlate> = {},
): MachineModel {
  const m = demoMachine(tag);
  const by = { author: 'Ines Calder', at: '2026-01-01T00:00:00Z' };
  const machine: MachineDetail = {
    ...m,
    site: 'Brackwater Maltings',
    plate: { revision: 1, plate: m.plate, ...by },
    learned: null,
    drivenEstimated: false,
    driveRevision: 1,
  };
  const sheet = (kind: Sheet['kind'], own: Record<string, number>): Sheet => {
    const settings = new DriveSettings(bookById(m.bookId), m.size, own, m.region);
    const entries = settings.all.map((s) => [s.code, { value: settings.value(s), source: 'factory' as const, ...by }] as const);
    return { kind, revision: 1, ...by, values: Object.fromEntries(entries) };
  };
  const held = inDrive && sheet('in drive', inDrive);
  return buildModel(machine, { draft: sheet('draft', draft), inDrive: held, asFound: held && { ...held, kind: 'as found' } }, {}, plate);
}
