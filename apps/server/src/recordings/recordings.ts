import type { RecordingData, RecordingMeta } from '@yare/contract';
import type { Db } from '../db/connect';
import type { RecordingRow } from '../db/tables';
import { notFound } from '../problem';
import { unpack } from './packing';

type TaggedRow = RecordingRow & { tag: string };

const tagged = (db: Db) => db('recordings').join('machines', 'machines.id', 'recordings.machine_id').select('recordings.*', 'machines.tag as tag');

async function withMarks(db: Db, rows: readonly TaggedRow[]): Promise<RecordingMeta[]> {
  const ids = rows.map((r) => r.id);
  const marks = await db('recording_marks').whereIn('recording_id', ids).orderBy('time');
  return rows.map((r) => ({
    id: r.id,
    tag: r.tag,
    title: r.title,
    author: r.author,
    startedAt: r.started_at.toISOString(),
    duration: r.duration,
    samples: r.samples,
    complete: r.complete,
    channels: r.channels,
    marks: marks.filter((m) => m.recording_id === r.id).map(({ time, label }) => ({ time, label })),
  }));
}

/** A page of a machine's recordings, newest first, from below an id. */
export async function listRecordings(db: Db, machineId: number, before: number | undefined, limit: number): Promise<RecordingMeta[]> {
  const q = tagged(db).where('recordings.machine_id', machineId).orderBy('recordings.id', 'desc').limit(limit);
  if (before !== undefined) void q.where('recordings.id', '<', before);
  return withMarks(db, await q);
}

/** @throws ProblemError 404 */
export async function recordingMeta(db: Db, id: number): Promise<RecordingMeta> {
  const [meta] = await withMarks(db, await tagged(db).where('recordings.id', id));
  if (!meta) throw notFound(`recording ${id}`);
  return meta;
}

/** @throws ProblemError 404 */
export async function recordingData(db: Db, id: number): Promise<RecordingData> {
  const meta = await recordingMeta(db, id);
  const rows = await db('recording_chunks').where({ recording_id: id }).orderBy('sequence');
  const of = (channel: string) => rows.filter((r) => r.channel === channel).map((r) => r.data);
  return {
    meta,
    time: unpack(of('time'), true, 3),
    data: Object.fromEntries(meta.channels.map((c) => [c.key, unpack(of(c.key), false, c.decimals)])),
  };
}

/** A recording the last process did not finish is closed and says so. */
export async function closeInterrupted(db: Db): Promise<void> {
  for (const r of await db('recordings').where({ complete: false })) {
    await db('recording_marks').insert({ recording_id: r.id, time: r.duration, label: 'Server stopped here', author: 'Server' });
    await db('recordings').where({ id: r.id }).update({ complete: true });
  }
}
