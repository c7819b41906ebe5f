import type { SheetRevisionPage } from '@yare/contract';
import type { Db } from '../db/connect';
import type { MachineRow } from '../db/tables';

const pageSize = 30;

/** A page of a machine's sheets, newest first, each with how many settings it changed. */
export async function revisionsOf(db: Db, m: MachineRow, from: number | undefined): Promise<SheetRevisionPage> {
  const q = db('sheet_revisions')
    .where({ machine_id: m.id })
    .orderBy('id', 'desc')
    .limit(pageSize + 1)
    .select('id', 'kind', 'revision', 'author', 'at', 'figures', 'drive_revision');
  if (from !== undefined) void q.where('id', '<', from);
  const rows = await q;
  const page = rows.slice(0, pageSize);
  const revisions = page.map(({ kind, revision, author, at, figures, drive_revision }) => ({
    ...{ kind, revision, author, at: at.toISOString(), changed: figures, otherDrive: drive_revision !== m.drive_revision },
  }));
  return { revisions, next: rows.length > pageSize ? (page.at(-1)?.id ?? null) : null };
}
