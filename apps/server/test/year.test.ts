import { present } from '@yare/core';
import type { Sheet, SheetValue } from '@yare/contract';
import { migrate, type Db } from '../src/db/connect';
import { json } from '../src/db/tables';
import { machineByTag } from '../src/machines/machines';
import { revisionsOf } from '../src/sheets/revisions';
import { appendSheet, latestSheet, sheetAt } from '../src/sheets/sheets';
import { seedDemoPlant } from '../src/db/seed';
import { freshDatabase } from './stack';

/** What a year of edits leaves behind: what changed, every revision as it was, and a question that is quick. */
let db: Db;
let drop: () => Promise<void>;
beforeEach(async () => {
  ({ db, drop } = await freshDatabase());
});
afterEach(() => drop());

const value = (n: number, author = 'Ines'): SheetValue => ({ value: n, source: 'chosen', author, at: '2026-01-01T00:00:00.000Z' });
const whole = (n: number): Record<string, SheetValue> =>
  Object.fromEntries(Array.from({ length: 120 }, (_, i) => [`c${i}`, value(i === n % 120 ? n : 0)]));

test('a revision stores what it changed, and every one is read back as it was', async () => {
  await migrate(db);
  await seedDemoPlant(db);
  const m = await machineByTag(db, 'P-11');
  const written: Sheet[] = [present(await latestSheet(db, m, 'draft'))];
  for (let n = 2; n <= 230; n++) {
    // codes come and go with the edition of a book
    const values = { ...whole(n), ...(n % 7 === 0 && { extra: value(n) }) };
    written.push(await appendSheet(db, m, 'draft', `Editor ${n % 3}`, values));
  }
  expect(await latestSheet(db, m, 'draft')).toEqual(written.at(-1));
  for (const n of [1, 2, 7, 8, 99, 100, 101, 150, 200, 201, 230]) expect(await sheetAt(db, m, 'draft', n)).toEqual(written[n - 1]);
  await expect(sheetAt(db, m, 'draft', 231)).rejects.toThrow('There is no revision 231 of draft of P-11');
  const { revisions } = await revisionsOf(db, m, undefined);
  // one figure became another and one went back to nought; a code that is new counts as one
  expect(revisions.slice(0, 4).map((r) => r.changed)).toEqual([2, 2, 2, 2]);
  const { rows } = await db.raw(
    "select max(pg_column_size(changed)) as most, count(*) filter (where values is not null) as whole from sheet_revisions where kind = 'draft' and machine_id = ? and revision <> 2",
    [m.id],
  );
  expect(rows[0].most).toBeLessThan(700);
  expect(Number(rows[0].whole)).toBe(3);
});

test('a drive that is changed begins a sheet of its own, and the one before stays readable', async () => {
  await migrate(db);
  await seedDemoPlant(db);
  const m = await machineByTag(db, 'P-11');
  const first = await appendSheet(db, m, 'draft', 'Ines', whole(1));
  const other = { ...m, drive_revision: 2 };
  expect(await latestSheet(db, other, 'draft')).toBeNull();
  const second = await appendSheet(db, other, 'draft', 'Ines', { a: value(1) });
  const third = await appendSheet(db, other, 'draft', 'Ines', { a: value(2) });
  expect([first.revision, second.revision, third.revision]).toEqual([2, 3, 4]);
  expect((await sheetAt(db, other, 'draft', 4)).values).toEqual({ a: value(2) });
  expect((await sheetAt(db, other, 'draft', 2)).values).toEqual(whole(1));
  expect((await latestSheet(db, m, 'draft'))?.revision).toBe(2);
});

test('a database of before is brought up without losing a revision', async () => {
  await migrate(db, '011_fitted_together');
  const [machine] = await db('machines')
    .insert({ tag: 'P-11', name: 'n', site: 's', area: 'a', book_id: 'osier-g', size: 'G7.5', region: 50, supply: '{}', driven: '{}', unit_id: 1 })
    .returning(['id', 'tag']);
  const { id, tag } = present(machine);
  const sheets = Array.from({ length: 130 }, (_, i) => ({ ...whole(i + 1), ...(i === 5 && { once: value(5) }) }));
  for (const [i, values] of sheets.entries())
    await db.raw('insert into sheet_revisions (machine_id, kind, revision, drive_revision, values, author) values (?, ?, ?, ?, ?, ?)', [
      ...[id, 'draft', i + 1, i < 60 ? 1 : 2, json(values), 'Ines'],
    ]);
  const size = async () => Number((await db.raw('select sum(length(t::text)) as signs from sheet_revisions t')).rows[0].signs);
  const before = await size();
  await migrate(db);
  for (const [i, values] of sheets.entries()) expect((await sheetAt(db, { id, tag }, 'draft', i + 1)).values).toEqual(values);
  expect((await latestSheet(db, { id, drive_revision: 1 }, 'draft'))?.revision).toBe(60);
  expect((await latestSheet(db, { id, drive_revision: 2 }, 'draft'))?.values).toEqual(sheets[129]);
  expect(await size()).toBeLessThan(before / 4);
  await expect(db('sheet_revisions').update({ author: 'Somebody' })).rejects.toThrow('history');
});
