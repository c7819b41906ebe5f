import { setTimeout } from 'node:timers/promises';
import type { LiveSample } from '@yare/contract';
import { gapLabel, gapsLabel, type linkChannels } from '@yare/commissioning/recording';
import { steadyNow, timeOfDay } from '../clock';
import type { Db } from '../db/connect';
import { json } from '../db/tables';
import { pack } from './packing';

const flushEvery = 5000;
/** A record whose database is away is tried again this often, ms, for as long as {@link longestTrying}. */
const tryEvery = 1000;
const longestTrying = 30 * 60_000;

/** Times its interval, and ms beyond it, from which a wait for a sample is a gap. */
const gapFrom = 2.5;
const leastGap = 30;
/** Gaps that are marked singly. */
const mostGaps = 20;

export type Recorded = (typeof linkChannels)[number];

/** What a recording is of, from when on by {@link steadyNow}, and how often it is to have a sample, ms. */
export interface RecordingOf {
  machineId: number;
  kind: 'run' | 'recorder';
  title: string;
  author: string;
  channels: readonly Recorded[];
  startedAt: number;
  every: number;
}

interface Mark {
  time: number;
  label: string;
}

/**
 * One recording being made: samples gathered, stored every 5 s so that a crash costs no more than that. What cannot be stored because
 * the database is away stays here and is stored when it is back.
 */
export class Recorder {
  private time: number[] = [];
  private values: number[][];
  private marks: Mark[] = [];
  private sequence = 0;
  private samples = 0;
  private lastFlush = performance.now();
  private storing: Promise<void> = Promise.resolve();
  private given = false;
  /** s of the newest sample; −1 before the first */
  private last = -1;
  private away = false;
  private taken = 0;
  private readonly gaps = { count: 0, length: 0 };
  /** what the last store held, until it is known to be done */
  private attempted: { time: number; marks: number } | null = null;

  private constructor(
    private readonly db: Db,
    readonly id: number,
    private readonly of: RecordingOf,
  ) {
    this.values = of.channels.map(() => []);
  }

  static async begin(db: Db, of: RecordingOf): Promise<Recorder> {
    const { machineId, kind, title, author, channels, startedAt } = of;
    const [row] = await db('recordings')
      .insert({ machine_id: machineId, kind, title, author, started_at: new Date(timeOfDay(startedAt)), channels: json(channels) })
      .returning('id');
    if (!row) throw new Error('The database stored no recording.');
    return new Recorder(db, row.id, of);
  }

  /** What is missing is said where it is missing; what is too much to be said singly, at the end. */
  private noteGap(time: number): void {
    const gap = time - this.last;
    if (gap * 1000 < Math.max(gapFrom * this.of.every, this.of.every + leastGap)) return;
    this.gaps.count += 1;
    this.gaps.length += gap;
    if (this.gaps.count <= mostGaps) this.marks.push({ time: this.last, label: gapLabel(gap) });
  }

  private elapsed(at: number): number {
    return Math.max(0, (at - this.of.startedAt) / 1000);
  }

  add(sample: LiveSample): void {
    if (sample.link === 'down') {
      // a link that is lost is told by itself
      this.away = true;
      return;
    }
    const time = Number(this.elapsed(sample.at).toFixed(3));
    if (time <= this.last) return;
    // the first one may have come before it was asked for at this pace
    if (!this.away && this.taken > 1) this.noteGap(time);
    this.taken += 1;
    this.away = false;
    this.last = time;
    this.time.push(time);
    this.of.channels.forEach((c, i) => this.values[i]?.push(sample[c.key]));
    if (performance.now() - this.lastFlush > flushEvery) void this.flush(false).catch(() => undefined);
  }

  /** @param at by {@link steadyNow} */
  mark(label: string, at = steadyNow()): void {
    this.marks.push({ time: this.elapsed(at), label });
  }

  /** Stores what has gathered, one store after another. */
  private flush(last: boolean): Promise<void> {
    this.lastFlush = performance.now();
    const store = () => this.store(last);
    this.storing = this.storing.then(store, store);
    return this.storing;
  }

  private async store(last: boolean): Promise<void> {
    const batch = { time: this.time, values: this.values, marks: this.marks };
    this.time = [];
    this.values = this.of.channels.map(() => []);
    this.marks = [];
    try {
      await this.db.transaction(async (trx) => {
        const samples = (await trx('recordings').where({ id: this.id }).forUpdate().first('samples'))?.samples ?? 0;
        this.dropStored(batch, samples);
        const { time, values, marks } = batch;
        this.attempted = { time: time.length, marks: marks.length };
        if (time.length > 0) {
          const rows = [
            { channel: 'time', data: pack(time, true) },
            ...this.of.channels.map((c, i) => ({ channel: c.key, data: pack(values[i] ?? [], false) })),
          ];
          await trx('recording_chunks').insert(rows.map((r) => ({ ...r, recording_id: this.id, sequence: this.sequence })));
          await trx('recordings')
            .where({ id: this.id })
            .update({ duration: time.at(-1), samples: samples + time.length });
        }
        if (marks.length > 0) await trx('recording_marks').insert(marks.map((m) => ({ ...m, recording_id: this.id, author: this.of.author })));
        if (last) await trx('recordings').where({ id: this.id }).update({ complete: true });
      });
      this.samples += batch.time.length;
      if (batch.time.length > 0) this.sequence += 1;
      this.attempted = null;
    } catch (error) {
      // whatever came meanwhile belongs behind it
      this.time = [...batch.time, ...this.time];
      this.values = batch.values.map((v, i) => [...v, ...(this.values[i] ?? [])]);
      this.marks = [...batch.marks, ...this.marks];
      throw error;
    }
  }

  /** A store whose answer was lost may have been done all the same: its samples and marks are not stored again. */
  private dropStored(batch: { time: number[]; values: number[][]; marks: Mark[] }, stored: number): void {
    const { attempted } = this;
    if (stored === this.samples || !attempted) return;
    batch.time = batch.time.slice(attempted.time);
    batch.values = batch.values.map((v) => v.slice(attempted.time));
    batch.marks = batch.marks.slice(attempted.marks);
    this.samples = stored;
    this.sequence += 1;
  }

  /** Stores the rest and closes the record; while the database is away it tries again. @throws after half an hour, or once {@link giveUp} was called */
  async end(): Promise<void> {
    if (this.gaps.count > mostGaps) this.marks.push({ time: Math.max(0, this.last), label: gapsLabel(this.gaps.count, this.gaps.length) });
    this.gaps.count = 0;
    const until = performance.now() + longestTrying;
    for (;;) {
      try {
        return await this.flush(true);
      } catch (error) {
        if (this.given || performance.now() > until) throw error;
        await setTimeout(tryEvery);
      }
    }
  }

  /** The process ends: no more than the try under way. */
  giveUp(): void {
    this.given = true;
  }
}
