import { inflateSync } from 'node:zlib';
import { recordingFrom } from '@yare/commissioning/recording';
import type { RecordingData, RecordingMeta } from '@yare/contract';
import type { RecordingChannel, RecordingMark } from '@yare/core';
import type { Db } from '../db/connect';
import { json, type RecordingRow } from '../db/tables';
import { notFound } from '../problem';
import { pack } from './packing';

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

/** Its samples packed, piece by piece: all times as doubles, then every channel's values as floats, little end first. */
export async function* samplePieces(db: Db, meta: Pick<RecordingMeta, 'id' | 'channels'>): AsyncGenerator<Buffer> {
  for (const channel of ['time', ...meta.channels.map((c) => c.key)])
    for (const { data } of await db('recording_chunks').where({ recording_id: meta.id, channel }).orderBy('sequence').select('data'))
      yield inflateSync(data);
}

/** A whole recording, in memory and unpacked: for threads that serve nobody. @throws ProblemError 404 */
export async function recordingData(db: Db, id: number): Promise<RecordingData> {
  const meta = await recordingMeta(db, id);
  const pieces: Buffer[] = [];
  for await (const piece of samplePieces(db, meta)) pieces.push(piece);
  return recordingFrom(meta, new Uint8Array(Buffer.concat(pieces)).buffer);
}

type Samples = Parameters<typeof pack>[0];

/** Samples that are all there at once. `startedAt` in ms since 1970, `time` in s from 0. */
export interface WholeRecording {
  kind: RecordingMeta['kind'];
  title: string;
  author: string;
  startedAt: number;
  channels: readonly RecordingChannel[];
  time: Samples;
  /** a row for each channel */
  values: readonly Samples[];
  marks: readonly RecordingMark[];
}

/** Stores a recording that is whole inside a transaction and gives its number. */
export async function storeRecording(trx: Db, machineId: number, r: WholeRecording): Promise<number> {
  const [row] = await trx('recordings')
    .insert({
      ...{ machine_id: machineId, kind: r.kind, title: r.title, author: r.author, started_at: new Date(r.startedAt), channels: json(r.channels) },
      ...{ duration: r.time[r.time.length - 1] ?? 0, samples: r.time.length, complete: true },
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
}

/** A recording the last process did not finish is closed and says so. */
export async function closeInterrupted(db: Db): Promise<void> {
  for (const r of await db('recordings').where({ complete: false })) {
    await db('recording_marks').insert({ recording_id: r.id, time: r.duration, label: 'Server stopped here', author: 'Server' });
    await db('recordings').where({ id: r.id }).update({ complete: true });
  }
}
