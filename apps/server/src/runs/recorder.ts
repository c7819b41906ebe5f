import { deflateSync, inflateSync } from 'node:zlib';
import type { LiveSample, RecordingData, RecordingMeta } from '@yare/contract';
import type { RecordingChannel } from '@yare/core';
import type { Db } from '../db/connect';
import { notFound } from '../problem';

/** What a run records of the live words. */
export const recordedChannels: RecordingChannel[] = [
  { key: 'outputFrequency', name: 'Output', unit: 'Hz', decimals: 2 },
  { key: 'motorCurrent', name: 'Motor', unit: 'A', decimals: 1 },
  { key: 'busVoltage', name: 'DC bus', unit: 'V', decimals: 0 },
  { key: 'torque', name: 'Torque', unit: '%', decimals: 1 },
  { key: 'power', name: 'Input power', unit: 'kW', decimals: 2 },
  { key: 'motorHeat', name: 'Motor heat', unit: '%', decimals: 1 },
  { key: 'feedback', name: 'Feedback', unit: '%', decimals: 1 },
];

const flushEvery = 5000;

const pack = (values: readonly number[], double: boolean): Buffer => {
  const array = double ? Float64Array.from(values) : Float32Array.from(values);
  return deflateSync(Buffer.from(array.buffer));
};

function unpack(chunks: readonly Buffer[], double: boolean, decimals: number): number[] {
  const out: number[] = [];
  for (const chunk of chunks) {
    const raw = inflateSync(chunk);
    const bytes = raw.buffer.slice(raw.byteOffset, raw.byteOffset + raw.byteLength);
    const array = double ? new Float64Array(bytes) : new Float32Array(bytes);
    for (const v of array) out.push(Number(v.toFixed(decimals)));
  }
  return out;
}

/** One recording being made: samples gathered, stored every 5 s so that a crash costs no more than that. */
export class Recorder {
  private time: number[] = [];
  private values: number[][] = recordedChannels.map(() => []);
  private sequence = 0;
  private samples = 0;
  private lastFlush = performance.now();
  private storing: Promise<void> = Promise.resolve();

  private constructor(
    private readonly db: Db,
    readonly id: number,
    private readonly startedAt: number,
    private readonly author: string,
  ) {}

  static async begin(db: Db, machineId: number, title: string, author: string): Promise<Recorder> {
    const startedAt = Date.now();
    const [row] = await db('recordings')
      .insert({ machine_id: machineId, title, author, started_at: new Date(startedAt), channels: JSON.stringify(recordedChannels) })
      .returning('id');
    return new Recorder(db, (row as { id: number }).id, startedAt, author);
  }

  private elapsed(at: number): number {
    return Math.max(0, (at - this.startedAt) / 1000);
  }

  add(sample: LiveSample): void {
    if (sample.link === 'down') return;
    const time = Number(this.elapsed(sample.at).toFixed(3));
    if (this.time.length > 0 && time <= this.time[this.time.length - 1]!) return;
    this.time.push(time);
    recordedChannels.forEach((c, i) => this.values[i]!.push(sample[c.key as keyof LiveSample] as number));
    if (performance.now() - this.lastFlush > flushEvery) void this.flush(false);
  }

  async mark(label: string): Promise<void> {
    await this.db('recording_marks').insert({ recording_id: this.id, time: this.elapsed(Date.now()), label, author: this.author });
  }

  private flush(last: boolean): Promise<void> {
    const { time, values } = this;
    this.time = [];
    this.values = recordedChannels.map(() => []);
    this.lastFlush = performance.now();
    this.storing = this.storing.then(async () => {
      await this.db.transaction(async (trx) => {
        if (time.length > 0) {
          const rows = [
            { channel: 'time', data: pack(time, true) },
            ...recordedChannels.map((c, i) => ({ channel: c.key, data: pack(values[i]!, false) })),
          ];
          await trx('recording_chunks').insert(rows.map((r) => ({ ...r, recording_id: this.id, sequence: this.sequence })));
          this.sequence += 1;
          this.samples += time.length;
          await trx('recordings')
            .where({ id: this.id })
            .update({ duration: time[time.length - 1], samples: this.samples });
        }
        if (last) await trx('recordings').where({ id: this.id }).update({ complete: true });
      });
    });
    return this.storing;
  }

  end(): Promise<void> {
    return this.flush(true);
  }
}

interface RecordingRow {
  id: number;
  tag: string;
  title: string;
  author: string;
  started_at: Date;
  duration: number;
  samples: number;
  complete: boolean;
  channels: RecordingChannel[];
}

const query = (db: Db) => db('recordings').join('machines', 'machines.id', 'recordings.machine_id').select('recordings.*', 'machines.tag as tag');

async function withMarks(db: Db, rows: RecordingRow[]): Promise<RecordingMeta[]> {
  const marks = (await db('recording_marks')
    .whereIn(
      'recording_id',
      rows.map((r) => r.id),
    )
    .orderBy('time')) as Array<{ recording_id: number; time: number; label: string }>;
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
  const q = query(db).where('recordings.machine_id', machineId).orderBy('recordings.id', 'desc').limit(limit);
  if (before !== undefined) void q.where('recordings.id', '<', before);
  return withMarks(db, (await q) as RecordingRow[]);
}

/** @throws ProblemError 404 */
export async function recordingMeta(db: Db, id: number): Promise<RecordingMeta> {
  const row = (await query(db).where('recordings.id', id).first()) as RecordingRow | undefined;
  if (!row) throw notFound(`recording ${id}`);
  return (await withMarks(db, [row]))[0]!;
}

/** @throws ProblemError 404 */
export async function recordingData(db: Db, id: number): Promise<RecordingData> {
  const meta = await recordingMeta(db, id);
  const rows = (await db('recording_chunks').where({ recording_id: id }).orderBy('sequence')) as Array<{ channel: string; data: Buffer }>;
  const of = (channel: string) => rows.filter((r) => r.channel === channel).map((r) => r.data);
  return {
    meta,
    time: unpack(of('time'), true, 3),
    data: Object.fromEntries(meta.channels.map((c) => [c.key, unpack(of(c.key), false, c.decimals)])),
  };
}

/** A recording the last process did not finish is closed and says so. */
export async function closeInterrupted(db: Db): Promise<void> {
  const open = (await db('recordings').where({ complete: false })) as RecordingRow[];
  for (const r of open) {
    await db('recording_marks').insert({ recording_id: r.id, time: r.duration, label: 'Server stopped here', author: 'Server' });
    await db('recordings').where({ id: r.id }).update({ complete: true });
  }
}
