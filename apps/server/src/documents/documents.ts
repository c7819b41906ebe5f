import type { ActDetail } from '@yare/contract';
import { audit } from '../audit/audit';
import type { Db } from '../db/connect';
import { lockMachine, type MachineRow } from '../machines/machines';
import { ProblemError } from '../problem';

/** What every revision of a document tells of itself. */
interface Revision {
  revision: number;
  author: string;
  at: string;
}

/** What the log calls a change of a document. */
export type DocumentAct = 'edit plate' | 'edit survey' | 'edit wiring' | 'edit draft';

/** A kind of document a machine has: revisions that are appended and never changed. */
export interface DocumentKind<R extends Revision, Value, A extends DocumentAct = DocumentAct> {
  /** as people call it: "the plate" */
  called: string;
  action: A;
  /** what may stand in the way, whatever the edit. @throws ProblemError */
  guard?(trx: Db, m: MachineRow): Promise<void>;
  /** the newest revision; null before the first */
  latest(db: Db, m: MachineRow): Promise<R | null>;
  append(trx: Db, m: MachineRow, revision: number, author: string, value: Value): Promise<R>;
  /** what the log keeps of a change */
  told(before: R | null, after: R, m: MachineRow): ActDetail<A>;
}

/** What an edit is made of, as it comes in. */
export interface Edit {
  /** the revision it was made on; 0 before the first */
  revision: number;
  author: string;
}

/** Somebody else changed the document first: both sides are shown. */
export const changedMeanwhile = (called: string, tag: string, now: Revision | null): ProblemError =>
  new ProblemError(
    409,
    'Changed meanwhile',
    `${now?.author ?? 'Somebody'} changed ${called} of ${tag} while you were at it. Both sides are shown; choose one.`,
    { current: now },
  );

/**
 * Changes a document: locks the machine, compares the revision, appends the next, notes it. The loser of a race is given both sides.
 * @param next what the next revision holds, from machine and document as they stand under the lock
 * @throws ProblemError 409 with the newest revision when the edit was made on an older one
 */
export async function revise<R extends Revision, Value, A extends DocumentAct>(
  db: Db,
  kind: DocumentKind<R, Value, A>,
  id: number,
  edit: Edit,
  next: (m: MachineRow, now: R | null) => Value,
): Promise<R> {
  return db.transaction(async (trx) => {
    // as it stands under the lock: another drive may have taken the place of the one before a moment ago
    const m = await lockMachine(trx, id);
    await kind.guard?.(trx, m);
    const now = await kind.latest(trx, m);
    if ((now?.revision ?? 0) !== edit.revision) throw changedMeanwhile(kind.called, m.tag, now);
    const after = await kind.append(trx, m, edit.revision + 1, edit.author, next(m, now));
    await audit(trx, edit.author, kind.action, m.tag, kind.told(now, after, m));
    return after;
  });
}
