import type { Db } from '../db/connect';
import { audit } from '../audit/audit';
import { notFound, ProblemError } from '../problem';

/** Makes room in a transaction for the samples of one recording to go or to be written anew: nothing else of history does. */
export async function letGoOfSamples(trx: Db, id: number): Promise<void> {
  await trx.raw(`select set_config('yare.recording_goes', ?, true)`, [String(id)]);
  await trx('recording_chunks').where({ recording_id: id }).delete();
}

/** What rests on a recording, in words; null when nothing does. */
async function restsOn(trx: Db, id: number): Promise<string | null> {
  if (await trx('trips').where({ trend_id: id }).orWhere({ trace_id: id }).first('id')) return 'the case of a trip rests on it';
  if (await trx('learned_revisions').where({ recording_id: id }).orWhere({ also_recording_id: id }).first('id'))
    return 'the model of its machine was fitted to it';
  return null;
}

/**
 * Removes a recording for good; that it was there, who removed it and why stay in the log.
 * @throws ProblemError 404; 409 while it is being made, or something rests on it
 */
export async function removeRecording(db: Db, id: number, author: string, why: string): Promise<void> {
  await db.transaction(async (trx) => {
    const row = await trx('recordings').where({ id }).forUpdate().first();
    if (!row) throw notFound(`recording ${id}`);
    if (!row.complete) throw new ProblemError(409, 'Being made', `Recording ${id} is still being made. End it first, then remove it.`);
    const reason = await restsOn(trx, id);
    if (reason) throw new ProblemError(409, 'In use', `Recording ${id} stays: ${reason}.`);
    await letGoOfSamples(trx, id);
    await trx('recording_marks').where({ recording_id: id }).delete();
    await trx('recordings').where({ id }).delete();
    const m = await trx('machines').where({ id: row.machine_id }).first('tag');
    const { title, duration, samples, started_at } = row;
    await audit(trx, author, 'remove recording', m?.tag ?? null, {
      ...{ recording: id, why, title, madeBy: row.author, startedAt: started_at.toISOString(), duration, samples },
    });
  });
}
