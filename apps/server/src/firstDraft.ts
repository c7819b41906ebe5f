import { transfer } from '@yare/commissioning';
import { bookById, factoryValue, plateSettings, settingsOf } from '@yare/books';
import type { DriveEdit, Sheet, SheetValue } from '@yare/contract';
import type { StampedPlate } from '@yare/core';
import type { MachineRow } from './machines';

/** A drive as from the factory. */
export function factoryDraft({ bookId, size, region, author }: DriveEdit): Record<string, SheetValue> {
  const at = new Date().toISOString();
  const values: Record<string, SheetValue> = {};
  for (const s of settingsOf(bookById(bookId), size)) values[s.code] = { value: factoryValue(s, region), source: 'factory', author, at };
  return values;
}

/** The first draft on a drive: factory of the region, then what the draft on the drive before it and the plate can give. */
export function firstDraft(drive: DriveEdit, plate: StampedPlate, before?: { drive: MachineRow; draft: Sheet }): Record<string, SheetValue> {
  const { size, author } = drive;
  const book = bookById(drive.bookId);
  const at = new Date().toISOString();
  const values = factoryDraft(drive);
  const figures = (sheet: Record<string, SheetValue>) => Object.fromEntries(Object.entries(sheet).map(([code, v]) => [code, v.value]));
  if (before) {
    const chosen = Object.fromEntries(Object.entries(before.draft.values).filter(([, v]) => v.source !== 'factory'));
    const from = { book: bookById(before.drive.book_id), size: before.drive.size, values: figures(chosen) };
    const { taken } = transfer(from, { book, size, values: figures(values) });
    for (const t of taken) values[t.code] = { value: t.value, source: 'chosen', author, at };
  }
  for (const p of plateSettings(book, size, plate)) values[p.code] = { value: p.exact, source: p.source, author, at };
  return values;
}
