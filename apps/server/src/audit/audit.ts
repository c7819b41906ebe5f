import { acts, type ActCode, type ActDetail, type ActStep } from '@yare/contract';
import type { Db } from '../db/connect';
import { json } from '../db/tables';
import { actorNow, refuseWhenGone } from '../door/actor';

async function append(db: Db, author: string, action: ActCode, tag: string | null, detail: object): Promise<void> {
  // what the server does by itself is nobody's, whoever asked when it was noticed
  const actor = acts[action].who === 'server' ? null : actorNow();
  await db('audit_events').insert({
    author,
    action,
    tag,
    detail: json(detail),
    device: actor?.device?.name ?? null,
    address: actor?.address ?? null,
  });
}

/** Appends an act to the log, with the device and address behind it. What was logged is never changed. */
export const audit = <A extends ActCode>(db: Db, author: string, action: A, tag: string | null, detail: ActDetail<A>): Promise<void> =>
  append(db, author, action, tag, detail);

/**
 * Does what acts outside the database between two events: first that it is intended, then what came of it. Should the second not be
 * stored, the first still tells that it was begun.
 */
export async function audited<A extends ActCode, T>(
  db: Db,
  author: string,
  action: A,
  tag: string,
  detail: ActDetail<A>,
  work: () => Promise<T>,
  told: (result: T) => Partial<ActDetail<A>> = () => ({}),
): Promise<T> {
  const note = (step: ActStep) => append(db, author, action, tag, { ...detail, ...step });
  await note({ step: 'intended' });
  let result: T;
  try {
    // the log may have kept it waiting
    refuseWhenGone();
    result = await work();
  } catch (error) {
    await note({ step: 'failed', why: error instanceof Error ? error.message : String(error) });
    throw error;
  }
  await append(db, author, action, tag, { ...detail, ...told(result), step: 'done' });
  return result;
}
