import { bookById, DriveSettings, factoryValues } from '@yare/books';
import { figuresOf } from '@yare/commissioning';
import { transfer } from '@yare/commissioning/copy';
import type { DriveEdit, Sheet, SheetValue } from '@yare/contract';
import type { StampedPlate } from '@yare/core';
import type { MachineRow } from '../db/tables';

/** A drive as from the factory. */
export function factoryDraft({ bookId, size, region, author }: DriveEdit): Record<string, SheetValue> {
  const at = new Date().toISOString();
  const factory = Object.entries(factoryValues(bookById(bookId), size, region));
  return Object.fromEntries(factory.map(([code, value]): [string, SheetValue] => [code, { value, source: 'factory', author, at }]));
}

/** The first draft on a drive: factory of the region, then what the draft on the drive before it and the plate can give. */
export function firstDraft(drive: DriveEdit, plate: StampedPlate, before?: { drive: MachineRow; draft: Sheet }): Record<string, SheetValue> {
  const { size, region, author } = drive;
  const at = new Date().toISOString();
  const values = factoryDraft(drive);
  const settings = new DriveSettings(bookById(drive.bookId), size, figuresOf(values), region);
  if (before) {
    const chosen = Object.fromEntries(Object.entries(before.draft.values).filter(([, v]) => v.source !== 'factory'));
    const from = new DriveSettings(bookById(before.drive.book_id), before.drive.size, figuresOf(chosen), before.drive.region);
    for (const t of transfer(from, settings, undefined, 'one machine').taken) values[t.code] = { value: t.value, source: 'chosen', author, at };
  }
  for (const p of settings.plate(plate)) values[p.code] = { value: p.exact, source: p.source, author, at };
  return values;
}
