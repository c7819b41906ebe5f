import { randomBytes, scrypt, timingSafeEqual } from 'node:crypto';
import { promisify } from 'node:util';
import type { Db } from '../db/connect';
import { audit } from '../audit/audit';
import type { LockRow, MachineRow } from '../db/tables';
import { ProblemError } from '../problem';

type Locked = Pick<MachineRow, 'id' | 'tag'>;

const derive = promisify(scrypt) as (password: string, salt: string, length: number) => Promise<Buffer>;
const hashOf = async (code: string, salt: string): Promise<Buffer> => derive(code.normalize('NFKC'), salt, 32);

/** Pause after so many wrong codes, s: 1, 2, 4 … up to five minutes. A thousand tries take three days. */
export const pauseAfter = (wrong: number): number => Math.min(300, 2 ** (wrong - 1));

export const lockOf = async (db: Db, machineId: number): Promise<LockRow | null> =>
  (await db('settings_locks').where({ machine_id: machineId }).first()) ?? null;

/** @throws ProblemError 409 when somebody has locked them already */
export async function lockSettings(db: Db, m: Locked, author: string, code: string): Promise<LockRow> {
  const salt = randomBytes(16).toString('hex');
  const hash = (await hashOf(code, salt)).toString('hex');
  const [row] = await db('settings_locks').insert({ machine_id: m.id, salt, hash, author }).onConflict('machine_id').ignore().returning('*');
  if (row) return row;
  const before = await lockOf(db, m.id);
  throw new ProblemError(409, 'Locked', `The settings of ${m.tag} are locked by ${before?.author ?? 'somebody'} already.`);
}

/** Machines somebody tries a code on at this moment. */
const trying = new Set<number>();

/** When the pause of a machine after so many wrong codes ends, by a clock nobody sets. */
const pauses = new Map<number, { wrong: number; until: number }>();

/** What is left of the pause after the last wrong code, ms. One that was begun by a server before this one is told by the time of day, and is never longer than it was. */
function pauseLeft({ machine_id, wrong, not_before }: LockRow, steady: number): number {
  if (wrong === 0) return 0;
  const known = pauses.get(machine_id);
  if (known?.wrong === wrong) return known.until - steady;
  const left = Math.min((not_before?.getTime() ?? 0) - Date.now(), 1000 * pauseAfter(wrong));
  pauses.set(machine_id, { wrong, until: steady + left });
  return left;
}

/**
 * Opens the lock with its code. One try at a time, and after each wrong one a longer pause.
 * @param steady ms of a clock that only runs forward
 * @throws ProblemError 403 when the code is wrong, 429 during a try or a pause
 */
export async function openLock(db: Db, m: Locked, code: string, steady: number): Promise<void> {
  const wait = (seconds: number) =>
    new ProblemError(429, 'Too soon', `The next code for ${m.tag} is taken in ${seconds} s. Nothing was tried.`, { field: 'code' });
  if (trying.has(m.id)) throw wait(1);
  trying.add(m.id);
  try {
    const lock = await lockOf(db, m.id);
    if (!lock) return;
    const left = Math.ceil(pauseLeft(lock, steady) / 1000);
    if (left > 0) throw wait(left);
    if (timingSafeEqual(await hashOf(code, lock.salt), Buffer.from(lock.hash, 'hex'))) {
      await db('settings_locks').where({ machine_id: m.id }).delete();
      return;
    }
    const wrong = lock.wrong + 1;
    const pause = pauseAfter(wrong);
    await db('settings_locks')
      .where({ machine_id: m.id })
      .update({ wrong, not_before: new Date(Date.now() + 1000 * pause) });
    pauses.set(m.id, { wrong, until: steady + 1000 * pause });
    throw new ProblemError(
      403,
      'Wrong code',
      `That is not the code ${lock.author} locked the settings of ${m.tag} with. The next is taken in ${pause} s. Ask ${lock.author}; if the code is lost, “npm run unlock ${m.tag}” at the server opens the lock.`,
      { field: 'code' },
    );
  } finally {
    trying.delete(m.id);
  }
}

/** Opens a lock whose code is lost; for the server's own terminal. False when there was none. */
export async function forceLock(db: Db, m: Locked, author: string): Promise<boolean> {
  const opened = (await db('settings_locks').where({ machine_id: m.id }).delete()) > 0;
  if (opened) await audit(db, author, 'unlock settings', m.tag, { without: 'code' });
  return opened;
}

/** @throws ProblemError 423 while the settings of a machine are locked with a code */
export async function refuseWhileLocked(db: Db, m: Locked): Promise<void> {
  const lock = await lockOf(db, m.id);
  if (lock)
    throw new ProblemError(
      423,
      'Locked',
      `The settings of ${m.tag} are locked by ${lock.author}. Open the lock on the settings sheet with its code; nothing was changed.`,
    );
}
