import { allBooks, bookById, settingsOf } from '@yare/books';
import type { Db } from './db/connect';
import { lockOf } from './locks';
import { ProblemError } from './problem';
import type { Fleet } from './link/fleet';
import type { MachineRow } from './machines';
import type { HoldToRun } from './runs/holdToRun';
import type { Claims } from './claims';
import type { Devices } from './devices';
import { DriveRefusal, LinkDown } from './link/driveLink';
import type { Space } from './space';

/** What the routes share. */
export interface Context {
  db: Db;
  fleet: Fleet;
  holdToRun: HoldToRun;
  claims: Claims;
  devices: Devices;
  space: Space;
}

/** Read-only settings such as hours run move by themselves and make no new revision. */
export const ignoredInDrive = (m: Pick<MachineRow, 'book_id' | 'size'>): ReadonlySet<string> =>
  new Set(
    settingsOf(bookById(m.book_id), m.size)
      .filter((s) => s.access === 'read')
      .map((s) => s.code),
  );

/**
 * What a failure on the link means for a person.
 * @param consequence what is so because of it, as a sentence
 * @throws ProblemError 424 when the drive does not answer, 409 when what answers is no drive of this family
 */
export function linkFailed(m: Pick<MachineRow, 'tag' | 'book_id' | 'unit'>, error: unknown, consequence: string): never {
  if (error instanceof LinkDown) throw new ProblemError(424, 'No link', `The drive of ${m.tag} does not answer. ${consequence}`);
  if (error instanceof DriveRefusal) throw new ProblemError(409, 'Another drive', `${anotherDrive(m)} ${consequence}`);
  throw error;
}

/** What stands at an address and refuses what every drive of the family understands. */
export const anotherDrive = ({ tag, book_id, unit }: Pick<MachineRow, 'tag' | 'book_id' | 'unit'>): string =>
  `What answers at Modbus address ${unit} does not understand ${bookById(book_id).family}: another drive stands there than ${tag} has on record. Check the family on the Drive stage, and the address.`;

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
