import { recordingFrom } from '@yare/commissioning/recording';
import type { RecordingData, RecordingMeta } from '@yare/contract';
import type { RecordingChannel, RecordingMark } from '@yare/core';
import type { Db } from '../db/connect';
import { json, type RecordingRow } from '../db/tables';
import { notFound } from '../problem';
import { bytesOf, pack } from './packing';

type TaggedRow = RecordingRow & { tag: string };

const tagged = (db: Db) => db('recordings').join('machines', 'machines.id', 'recordings.machine_id').select('recordings.*', 'machines.tag as tag');

async function withMarks(db: Db, rows: readonly TaggedRow[]): Promise<RecordingMeta[]> {
  const ids = rows.map((r) => r.id);
  const marks = await db('recording_marks').whereIn('recording_id', ids).orderBy('time');
  return rows.map((r) => ({
    id: r.id,
    tag: r.tag,
    kind: r.kind,
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

/** Its samples packed: all times as doubles, then every channel's values as floats, little end first. @throws ProblemError 404 */
export async function recordingSamples(db: Db, meta: Pick<RecordingMeta, 'id' | 'channels'>): Promise<Buffer> {
  const rows = await db('recording_chunks').where({ recording_id: meta.id }).orderBy('sequence');
  const of = (channel: string) => bytesOf(rows.filter((r) => r.channel === channel).map((r) => r.data));
  return Buffer.concat([of('time'), ...meta.channels.map((c) => of(c.key))]);
}

/** @throws ProblemError 404 */
export async function recordingData(db: Db, id: number): Promise<RecordingData> {
  const meta = await recordingMeta(db, id);
  const { buffer, byteOffset, byteLength } = await recordingSamples(db, meta);
  return recordingFrom(meta, buffer.slice(byteOffset, byteOffset + byteLength) as ArrayBuffer);
}

/** Samples that are all there at once. `startedAt` in ms since 1970, `time` in s from 0. */
export interface WholeRecording {
  kind: RecordingMeta['kind'];
  title: string;
  author: string;
  startedAt: number;
  channels: readonly RecordingChannel[];
  time: readonly number[];
  /** a row for each channel */
  values: ReadonlyArray<readonly number[]>;
  marks: readonly RecordingMark[];
}

/** Stores a recording that is whole and gives its number. */
export async function storeRecording(db: Db, machineId: number, r: WholeRecording): Promise<number> {
  return db.transaction(async (trx) => {
    const [row] = await trx('recordings')
      .insert({
        ...{ machine_id: machineId, kind: r.kind, title: r.title, author: r.author, started_at: new Date(r.startedAt), channels: json(r.channels) },
        ...{ duration: r.time.at(-1) ?? 0, samples: r.time.length, complete: true },
      })
      .returning('id');
    if (!row) throw new Error('The database stored no recording.');
    const chunks = [
      { channel: 'time', data: pack(r.time, true) },
      ...r.channels.map((c, i) => ({ channel: c.key, data: pack(r.values[i] ?? [], false) })),
    ];
    await trx('recording_chunks').insert(chunks.map((c) => ({ ...c, recording_id: row.id, sequence: 0 })));
    if (r.marks.length > 0) await trx('recording_marks').insert(r.marks.map((m) => ({ ...m, recording_id: row.id, author: r.author })));
    return row.id;
  });
}

/** A recording the last process did not finish is closed and says so. */
export async function closeInterrupted(db: Db): Promise<void> {
  for (const r of await db('recordings').where({ complete: false })) {
    await db('recording_marks').insert({ recording_id: r.id, time: r.duration, label: 'Server stopped here', author: 'Server' });
    await db('recordings').where({ id: r.id }).update({ complete: true });
  }
}
