import { randomBytes, scrypt, timingSafeEqual } from 'node:crypto';
import { promisify } from 'node:util';
import type { Db } from './db/connect';
import type { MachineRow } from './machines';
import { ProblemError } from './problem';

interface LockRow {
  machine_id: number;
  salt: string;
  hash: string;
  author: string;
  at: Date;
}

const derive = promisify(scrypt) as (password: string, salt: string, length: number) => Promise<Buffer>;
const hashOf = async (code: string, salt: string): Promise<Buffer> => derive(code.normalize('NFKC'), salt, 32);

/** A wrong code is answered only after this long, ms: nobody tries a thousand of them. */
const wrongCodePause = 1000;

export const lockOf = async (db: Db, machineId: number): Promise<LockRow | null> =>
  ((await db('settings_locks').where({ machine_id: machineId }).first()) as LockRow | undefined) ?? null;

/** @throws ProblemError 409 when somebody has locked them already */
export async function lockSettings(db: Db, m: MachineRow, author: string, code: string): Promise<LockRow> {
  const before = await lockOf(db, m.id);
  if (before) throw new ProblemError(409, 'Locked', `The settings of ${m.tag} are locked by ${before.author} already.`);
  const salt = randomBytes(16).toString('hex');
  const hash = (await hashOf(code, salt)).toString('hex');
  const [row] = (await db('settings_locks').insert({ machine_id: m.id, salt, hash, author }).returning('*')) as LockRow[];
  return row!;
}

/** @throws ProblemError 403 when the code is not the one it was locked with */
export async function openLock(db: Db, m: MachineRow, code: string): Promise<void> {
  const lock = await lockOf(db, m.id);
  if (!lock) return;
  if (!timingSafeEqual(await hashOf(code, lock.salt), Buffer.from(lock.hash, 'hex'))) {
    await new Promise((done) => setTimeout(done, wrongCodePause));
    throw new ProblemError(403, 'Wrong code', `That is not the code ${lock.author} locked the settings of ${m.tag} with. Ask ${lock.author}.`, {
      field: 'code',
    });
  }
  await db('settings_locks').where({ machine_id: m.id }).delete();
}
