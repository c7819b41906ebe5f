import type { DriveEdit, Sheet } from '@yare/contract';
import { audit } from '../audit/audit';
import type { Db } from '../db/connect';
import { refuseWhileLocked } from '../lock/locks';
import { lockMachine } from '../machines/machines';
import { plateOf } from '../plate/plate';
import { notFound } from '../problem';
import { appendSheet, latestSheet } from '../sheets/sheets';
import { firstDraft } from './firstDraft';

/** Names the drive that stands at a machine. Another family or size begins a new draft; the region alone keeps the one there is. */
export async function changeDrive(db: Db, id: number, edit: DriveEdit): Promise<{ draft: Sheet; another: boolean }> {
  const { author, bookId, size, region } = edit;
  return db.transaction(async (trx) => {
    const m = await lockMachine(trx, id);
    await refuseWhileLocked(trx, m);
    const another = bookId !== m.book_id || size !== m.size;
    const old = await latestSheet(trx, m, 'draft');
    const drive_revision = m.drive_revision + (another ? 1 : 0);
    await trx('machines').where({ id }).update({ book_id: bookId, size, region, drive_revision, trips_counted: null });
    await audit(trx, author, 'drive', m.tag, { from: [m.book_id, m.size, m.region], to: [bookId, size, region] });
    if (!another) {
      if (!old) throw notFound('draft of this machine');
      return { draft: old, another };
    }
    const first = firstDraft(edit, (await plateOf(trx, id)).plate, old ? { drive: m, draft: old } : undefined);
    return { draft: await appendSheet(trx, { id, drive_revision }, 'draft', author, first), another };
  });
}
