import type { Keeping } from '@yare/contract';
import { audit } from '../audit/audit';
import type { Db } from '../db/connect';
import type { RecordingRow } from '../db/tables';
import { pack } from './packing';
import { recordingData } from './recordings';
import { letGoOfSamples, removeRecording } from './removal';

const byRule = 'Server';
const day = 86_400_000;
/** s between the samples of a recording that is thinned. */
const thinnedTo = 1;
/** Recordings one round looks after. */
const atOnce = 50;

/** How long recordings are kept; always, before anybody said otherwise. */
export async function keepingOf(db: Db): Promise<Keeping> {
  const row = await db('keeping').first();
  return { wholeDays: row?.whole_days ?? null, thinnedDays: row?.thinned_days ?? null };
}

export async function setKeeping(db: Db, { wholeDays, thinnedDays }: Keeping, author: string): Promise<void> {
  await db.transaction(async (trx) => {
    const before = await keepingOf(trx);
    await trx('keeping').insert({ whole_days: wholeDays, thinned_days: thinnedDays, author, at: new Date() }).onConflict('only').merge();
    await audit(trx, author, 'keep recordings', null, { before, after: { wholeDays, thinnedDays } });
  });
}

/** Keeps the first sample of every second and the last of all. */
function kept(time: readonly number[]): number[] {
  const rows: number[] = [];
  let next = -Infinity;
  for (const [i, t] of time.entries())
    if (t >= next || i === time.length - 1) {
      rows.push(i);
      next = (Math.floor(t / thinnedTo) + 1) * thinnedTo;
    }
  return rows;
}

/** Leaves a recording one sample a second, and says so in it. */
export async function thin(db: Db, id: number): Promise<void> {
  const { meta, time, data } = await recordingData(db, id);
  const rows = kept(time);
  await db.transaction(async (trx) => {
    await letGoOfSamples(trx, id);
    const chunks = [
      {
        channel: 'time',
        data: pack(
          rows.map((i) => time[i] ?? 0),
          true,
        ),
      },
      ...meta.channels.map((c) => ({
        channel: c.key,
        data: pack(
          rows.map((i) => data[c.key]?.[i] ?? NaN),
          false,
        ),
      })),
    ];
    await trx('recording_chunks').insert(chunks.map((c) => ({ ...c, recording_id: id, sequence: 0 })));
    await trx('recordings').where({ id }).update({ samples: rows.length, thinned: thinnedTo });
    const label = `Thinned to one sample a second; there were ${meta.samples}`;
    await trx('recording_marks').insert({ recording_id: id, time: 0, label, author: byRule });
    await audit(trx, byRule, 'thin recording', meta.tag, { recording: id, before: meta.samples, after: rows.length });
  });
}

/** Recordings nothing rests on, from before a moment, the oldest first. */
const before = (db: Db, moment: Date) =>
  db('recordings as r')
    .where('r.complete', true)
    .where('r.started_at', '<', moment)
    .whereNotExists(db('trips').whereRaw('trend_id = r.id or trace_id = r.id').select('id'))
    .whereNotExists(db('learned_revisions').whereRaw('recording_id = r.id or also_recording_id = r.id').select('id'))
    .orderBy('r.started_at')
    .limit(atOnce)
    .select<Array<Pick<RecordingRow, 'id'>>>('r.id');

/** Does what the rule asks for at this moment; tells how many recordings were thinned and removed. */
export async function tidyRecordings(db: Db, now: number): Promise<{ thinned: number; removed: number }> {
  const { wholeDays, thinnedDays } = await keepingOf(db);
  if (wholeDays === null) return { thinned: 0, removed: 0 };
  const gone = thinnedDays === null ? [] : await before(db, new Date(now - (wholeDays + thinnedDays) * day)).whereNotNull('r.thinned');
  for (const { id } of gone)
    await removeRecording(db, id, byRule, `kept for ${wholeDays} days whole and ${thinnedDays} days thinned, as the plant wants it`);
  const due = await before(db, new Date(now - wholeDays * day)).whereNull('r.thinned');
  for (const { id } of due) await thin(db, id);
  return { thinned: due.length, removed: gone.length };
}
