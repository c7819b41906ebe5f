import { allBooks, bookById, settingsOf } from '@yare/books';
import type { Db } from './db/connect';
import { lockOf } from './locks';
import { ProblemError } from './problem';
import type { Fleet } from './link/fleet';
import type { MachineRow } from './machines';
import type { HoldToRun } from './runs/holdToRun';

/** What the routes share. */
export interface Context {
  db: Db;
  fleet: Fleet;
  holdToRun: HoldToRun;
}

/** Read-only settings such as hours run move by themselves and make no new revision. */
export const ignoredInDrive = (m: Pick<MachineRow, 'book_id' | 'size'>): ReadonlySet<string> =>
  new Set(
    settingsOf(bookById(m.book_id), m.size)
      .filter((s) => s.access === 'read')
      .map((s) => s.code),
  );

/** @throws ProblemError 423 while the settings of a machine are locked with a code */
export async function refuseWhileLocked(db: Db, m: Pick<MachineRow, 'id' | 'tag'>): Promise<void> {
  const lock = await lockOf(db, m.id);
  if (lock)
    throw new ProblemError(
      423,
      'Locked',
      `The settings of ${m.tag} are locked by ${lock.author}. Open the lock on the settings sheet with its code; nothing was changed.`,
    );
}

/** @throws ProblemError 422 when there is no such family, or the family has no such size */
export function refuseUnknownDrive(bookId: string, size: string): void {
  const book = allBooks().find((b) => b.id === bookId);
  if (!book) throw new ProblemError(422, 'No such family', `There is no drive book "${bookId}".`, { field: 'bookId' });
  if (!book.ratings.some((r) => r.size === size))
    throw new ProblemError(422, 'No such size', `${book.family} has no size ${size}.`, { field: 'size' });
}
