import { bookById, settingsOf } from '@yare/books';
import type { Db } from './db/connect';
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
