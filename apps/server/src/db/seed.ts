import { demoPlant, demoSite, type DemoMachine } from '@yare/demo-plant';
import { bookById, settingsOf } from '@yare/books';
import type { SheetValue } from '@yare/contract';
import { factoryDraft } from '../drive/firstDraft';
import { audit } from '../audit/audit';
import { appendSheet, latestSheet } from '../sheets/sheets';
import type { Db } from './connect';
import { json } from './tables';

const seeder = 'Demo plant';

/** The first draft of a demo machine: factory values with what was chosen before the story starts. */
function seedDraft(m: DemoMachine): Record<string, SheetValue> {
  const at = new Date().toISOString();
  const values = factoryDraft({ ...m, author: seeder });
  for (const d of m.draft) values[d.code] = { value: d.value, source: d.source, author: seeder, at };
  return values;
}

/**
 * Brings an older demo plant to what the bench has now: another drive family or more settings make a new draft revision (the old ones
 * stay in the history), and what is driven is described anew. What people chose in settings that still exist is kept.
 */
async function bringUpToDate(trx: Db): Promise<void> {
  for (const m of demoPlant) {
    const row = await trx('machines').where({ tag: m.tag, site: demoSite }).first();
    if (!row) continue;
    // a drive somebody has named since stays; its book may have gained settings all the same
    const named = row.drive_revision > 1;
    await trx('machines')
      .where({ id: row.id })
      .update({ ...(!named && { book_id: m.bookId, size: m.size }), driven: json(m.driven) });
    const draft = await latestSheet(trx, row, 'draft');
    const [bookId, size] = named ? [row.book_id, row.size] : [m.bookId, m.size];
    const codes = settingsOf(bookById(bookId), size).map((s) => s.code);
    const sameFamily = row.book_id === bookId;
    if (sameFamily && draft && codes.every((c) => c in draft.values)) continue;
    const values = named ? factoryDraft({ bookId, size, region: row.region, author: seeder }) : seedDraft(m);
    for (const code of codes) {
      const chosen = sameFamily ? draft?.values[code] : undefined;
      if (chosen) values[code] = chosen;
    }
    await appendSheet(trx, row, 'draft', seeder, values);
    await audit(trx, seeder, 'demo plant brought up to date', m.tag, { from: row.book_id, to: bookId });
  }
}

/** Puts the demo plant into an empty database, and brings an older one up to date. */
export async function seedDemoPlant(db: Db): Promise<void> {
  await db.transaction(async (trx) => {
    await trx.raw('LOCK TABLE machines IN EXCLUSIVE MODE');
    if (await trx('machines').first('id')) return bringUpToDate(trx);
    for (const m of demoPlant) {
      const [row] = await trx('machines')
        .insert({
          tag: m.tag,
          name: m.name,
          site: demoSite,
          area: m.area,
          book_id: m.bookId,
          size: m.size,
          region: m.region,
          supply: json(m.supply),
          driven: json(m.driven),
          unit_id: m.unitId,
        })
        .returning('id');
      if (!row) throw new Error(`The database stored no ${m.tag}.`);
      const machine_id = row.id;
      await trx('plate_revisions').insert({ machine_id, revision: 1, plate: json(m.plate), author: seeder });
      await appendSheet(trx, { id: machine_id, drive_revision: 1 }, 'draft', seeder, seedDraft(m));
    }
    await audit(trx, seeder, 'seed', null, { machines: demoPlant.length });
  });
}
