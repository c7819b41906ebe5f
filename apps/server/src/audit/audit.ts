import type { Db } from '../db/connect';
import { json } from '../db/tables';
import { actorNow, refuseWhenGone } from '../door/actor';

/** Appends an audit event, with the device and address behind it. They are never changed. */
export async function audit(db: Db, author: string, action: string, tag: string | null, detail: object): Promise<void> {
  const actor = actorNow();
  await db('audit_events').insert({
    author,
    action,
    tag,
    detail: json(detail),
    device: actor?.device?.name ?? null,
    address: actor?.address ?? null,
  });
}

/**
 * Does what acts outside the database between two events: first that it is intended, then what came of it. Should the second not be
 * stored, the first still tells that it was begun.
 */
export async function audited<T>(
  db: Db,
  author: string,
  action: string,
  tag: string,
  detail: object,
  work: () => Promise<T>,
  told: (result: T) => object = () => ({}),
): Promise<T> {
  await audit(db, author, action, tag, { ...detail, step: 'intended' });
  let result: T;
  try {
    // the log may have kept it waiting
    refuseWhenGone();
    result = await work();
  } catch (error) {
    await audit(db, author, action, tag, { ...detail, step: 'failed', why: error instanceof Error ? error.message : String(error) });
    throw error;
  }
  await audit(db, author, action, tag, { ...detail, ...told(result), step: 'done' });
  return result;
}
