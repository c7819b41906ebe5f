import { allBooks, bookById } from '@yare/books';
import type { Aside } from './aside/aside';
import type { Claims } from './claims';
import type { Db } from './db/connect';
import type { MachineRow } from './db/tables';
import type { Devices } from './devices/devices';
import { AnotherDrive, DriveRefusal, LinkDown } from './link/driveLink';
import type { Fleet } from './link/fleet';
import { ProblemError } from './problem';
import type { Pictures } from './photos/pictures';
import type { ArmedRecorders } from './recordings/armed';
import type { HoldToRun } from './runs/holdToRun';
import type { Space } from './space';
import type { WatchedMachines } from './seen/watching';

/** What the routes share: every plugin of the API is registered with it. */
export interface Context {
  db: Db;
  fleet: Fleet;
  holdToRun: HoldToRun;
  claims: Claims;
  devices: Devices;
  space: Space;
  recorders: ArmedRecorders;
  watched: WatchedMachines;
  aside: Aside;
  pictures: Pictures;
  /** the time of day, ms */
  now: () => number;
  /** ms of a clock that nobody sets */
  steady: () => number;
}

type Linked = Pick<MachineRow, 'tag' | 'book_id' | 'size' | 'unit_id'>;

/**
 * What a failure on the link means for a person.
 * @param consequence what is so because of it, as a sentence
 * @throws ProblemError 424 when the drive does not answer, 409 when what answers is no drive of this family
 */
export function linkFailed(m: Linked, error: unknown, consequence: string): never {
  if (error instanceof LinkDown) throw new ProblemError(424, 'No link', `The drive of ${m.tag} does not answer. ${consequence}`);
  if (error instanceof DriveRefusal) throw new ProblemError(409, 'Another drive', `${anotherDrive(m, error)} ${consequence}`);
  throw error;
}

/** What stands at an address, when it is no drive as on record. */
export function anotherDrive({ tag, book_id, size, unit_id }: Linked, error: DriveRefusal): string {
  const recorded = `${bookById(book_id).family} ${size}`;
  return error instanceof AnotherDrive
    ? `The drive at Modbus address ${unit_id} says that it is ${error.says.family} ${error.says.size}; ${tag} has ${recorded} on record. Take it on the Drive stage, or check the address.`
    : `What answers at Modbus address ${unit_id} does not understand ${bookById(book_id).family}: another drive stands there than ${tag} has on record. Check the family on the Drive stage, and the address.`;
}

/** @throws ProblemError 422 when there is no such family, or the family has no such size */
export function refuseUnknownDrive(bookId: string, size: string): void {
  const book = allBooks().find((b) => b.id === bookId);
  if (!book) throw new ProblemError(422, 'No such family', `There is no drive book "${bookId}".`, { field: 'bookId' });
  if (!book.ratings.some((r) => r.size === size))
    throw new ProblemError(422, 'No such size', `${book.family} has no size ${size}.`, { field: 'size' });
}
