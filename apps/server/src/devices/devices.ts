import { createHash, randomBytes, randomInt } from 'node:crypto';
import type { Db } from '../db/connect';
import type { DeviceRow } from '../db/tables';
import { ProblemError } from '../problem';

/** Signs of a pairing code: none that is mistaken for another when read off a screen or said aloud. */
const signs = '23456789ABCDEFGHJKMNPQRSTUVWXYZ';
const codeLength = 8;
const codeLives = 10 * 60_000;
const mostTries = 5;
/** When a device was last used is stored at most this often, ms. */
const noteEvery = 60_000;
/** A device that was not used for this long is a stranger again, ms. */
export const unusedFor = 365 * 24 * 3600_000;

const hashed = (secret: string): string => createHash('sha256').update(secret).digest('hex');
/** A code as typed: case, spaces and dashes do not count. */
const tidy = (code: string): string => code.toUpperCase().replace(/[^0-9A-Z]/g, '');

export type Device = Pick<DeviceRow, 'id' | 'name'>;

/** A fresh pairing code; the ones before it are void. Only its hash is stored. */
export async function newPairingCode(db: Db, now = Date.now()): Promise<{ code: string; expires: Date }> {
  const code = Array.from({ length: codeLength }, () => signs[randomInt(signs.length)]).join('');
  const expires = new Date(now + codeLives);
  await db.transaction(async (trx) => {
    await trx('pairing_codes').whereNull('used_at').delete();
    await trx('pairing_codes').insert({ code_hash: hashed(code), expires });
  });
  return { code, expires };
}

/** Devices that were paired with this server: each has a token of its own, of which only the hash is stored. */
export class Devices {
  private readonly known = new Map<string, Device & { noted: number; used: number }>();
  private readonly listeners = new Set<(id: number) => void>();

  constructor(
    private readonly db: Db,
    private readonly now: () => number = Date.now,
  ) {}

  /** Told when a device is put out. */
  onPutOut(listener: (id: number) => void): void {
    this.listeners.add(listener);
  }

  /**
   * Pairs a device with the code in force.
   * @throws ProblemError 403, the same for whatever is not right with the code: who guesses is not told whether one is in force
   */
  async pair(code: string, name: string, address: string): Promise<{ device: Device; token: string }> {
    const outcome = await this.db.transaction(async (trx) => {
      const row = await trx('pairing_codes').whereNull('used_at').orderBy('id', 'desc').forUpdate().first();
      if (!row || row.expires.getTime() < this.now() || row.tries >= mostTries) return null;
      if (row.code_hash !== hashed(tidy(code))) {
        await trx('pairing_codes')
          .where({ id: row.id })
          .update({ tries: row.tries + 1 });
        return null;
      }
      await trx('pairing_codes')
        .where({ id: row.id })
        .update({ used_at: new Date(this.now()) });
      const token = randomBytes(32).toString('base64url');
      const [device] = await trx('devices')
        .insert({ name, token_hash: hashed(token), address })
        .returning(['id', 'name']);
      return device ? { device, token } : null;
    });
    if (!outcome)
      throw new ProblemError(
        403,
        'Wrong code',
        'That is not a code in force. Compare it with the server’s screen. A code is good once, for ten minutes and five tries: run “npm run pair” at the server for a new one.',
        { field: 'code' },
      );
    return outcome;
  }

  /** The device a token belongs to; null for a stranger's, and for one that was put out. */
  async byToken(token: string | undefined, address: string): Promise<Device | null> {
    if (!token) return null;
    const token_hash = hashed(token);
    let device = this.known.get(token_hash);
    if (!device) {
      const row = await this.db('devices').where({ token_hash }).whereNull('put_out_at').first('id', 'name', 'last_used');
      if (!row) return null;
      device = { id: row.id, name: row.name, noted: -Infinity, used: row.last_used.getTime() };
      this.known.set(token_hash, device);
    }
    // one that lay in a drawer for a year is a stranger again
    if (this.now() - device.used > unusedFor) return null;
    device.used = this.now();
    if (this.now() - device.noted > noteEvery) {
      device.noted = this.now();
      // only for the list: nobody waits for it, and a database that is away does not matter here
      void this.db('devices')
        .where({ id: device.id })
        .update({ last_used: new Date(this.now()), address })
        .then(undefined, () => undefined);
    }
    return device;
  }

  async list(): Promise<DeviceRow[]> {
    return this.db('devices')
      .whereNull('put_out_at')
      .where('last_used', '>', new Date(this.now() - unusedFor))
      .orderBy('id');
  }

  /** Puts a device out: its token is void from now on, and whoever listens ends what it holds. Null when there is none. */
  async putOut(id: number, by: string): Promise<Device | null> {
    // first here, then in the database: nothing it holds waits for that
    for (const [token, d] of this.known) if (d.id === id) this.known.delete(token);
    for (const listener of this.listeners) listener(id);
    const [row] = await this.db('devices')
      .where({ id })
      .whereNull('put_out_at')
      .update({ put_out_at: new Date(this.now()), put_out_by: by })
      .returning(['id', 'name']);
    // a request of its own that came between may have made it known again
    for (const [token, d] of this.known) if (d.id === id) this.known.delete(token);
    return row ?? null;
  }
}
