import { bookById, demoPlant, demoSite, factoryValue, settingsOf } from '@yare/books';
import type { SheetValue } from '@yare/contract';
import type { Db } from './connect';

const seeder = 'Demo plant';

/** Puts the demo plant into an empty database; leaves any other alone. */
export async function seedDemoPlant(db: Db): Promise<void> {
  await db.transaction(async (trx) => {
    await trx.raw('LOCK TABLE machines IN EXCLUSIVE MODE');
    if (await trx('machines').first('id')) return;
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
          supply: JSON.stringify(m.supply),
          driven: JSON.stringify(m.driven),
          unit: m.unit,
        })
        .returning('id');
      const machine_id = (row as { id: number }).id;
      await trx('plate_revisions').insert({ machine_id, revision: 1, plate: JSON.stringify(m.plate), author: seeder });
      const at = new Date().toISOString();
      const values: Record<string, SheetValue> = {};
      const settings = settingsOf(bookById(m.bookId), m.size);
      for (const s of settings) values[s.code] = { value: factoryValue(s, m.region), source: 'factory', author: seeder, at };
      for (const d of m.draft) {
        values[d.code] = { value: d.value, source: d.source, author: seeder, at };
      }
      await trx('sheet_revisions').insert({ machine_id, kind: 'draft', revision: 1, values: JSON.stringify(values), author: seeder });
    }
    await trx('audit_events').insert({ author: seeder, action: 'seed', tag: null, detail: JSON.stringify({ machines: demoPlant.length }) });
  });
}
