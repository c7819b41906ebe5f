import type { SheetRevisionPage } from '@yare/contract';
import type { Db } from '../db/connect';
import type { MachineRow, SheetRow } from '../db/tables';

const pageSize = 30;

/** The revision of the same kind and drive before one; undefined before the first. */
const before = (db: Db, r: SheetRow) =>
  db('sheet_revisions')
    .where({ machine_id: r.machine_id, kind: r.kind, drive_revision: r.drive_revision })
    .where('revision', '<', r.revision)
    .orderBy('revision', 'desc')
    .first('values');

/** A page of a machine's sheets, newest first, each with how many settings it changed. */
export async function revisionsOf(db: Db, m: MachineRow, from: number | undefined): Promise<SheetRevisionPage> {
  const q = db('sheet_revisions')
    .where({ machine_id: m.id })
    .orderBy('id', 'desc')
    .limit(pageSize + 1);
  if (from !== undefined) void q.where('id', '<', from);
  const rows = await q;
  const page = rows.slice(0, pageSize);
  const revisions = await Promise.all(
    page.map(async (r) => {
      const old = await before(db, r);
      const changed = old ? Object.entries(r.values).filter(([code, v]) => old.values[code]?.value !== v.value).length : 0;
      const otherDrive = r.drive_revision !== m.drive_revision;
      return { kind: r.kind, revision: r.revision, author: r.author, at: r.at.toISOString(), changed, otherDrive };
    }),
  );
  return { revisions, next: rows.length > pageSize ? (page.at(-1)?.id ?? null) : null };
}
