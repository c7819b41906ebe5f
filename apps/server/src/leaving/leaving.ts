import type { Leaving } from '@yare/contract';
import type { Db } from '../db/connect';
import type { LeavingRow } from '../db/tables';
import { at } from '../db/time';

/** Who left a machine, as it is told. */
export const leavingOf = ({ author, at: then, stages, told }: LeavingRow): Leaving => at({ author, at: then, stages, told });

/** Who left a machine with stages unproved; null when nobody did, or the work went on. */
export async function leftBy(db: Db, machineId: number): Promise<Leaving | null> {
  const row = await db('leavings').where({ machine_id: machineId }).first();
  return row ? leavingOf(row) : null;
}
