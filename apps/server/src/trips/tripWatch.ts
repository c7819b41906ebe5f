import { setTimeout } from 'node:timers/promises';
import type { RememberedTrace } from '@yare/books';
import type { LiveSample, TraceWord } from '@yare/contract';
import { noSnapshot } from '@yare/core/trips';
import { steadyNow, timeOfDay } from '../clock';
import type { Db } from '../db/connect';
import { json, type MachineRow } from '../db/tables';
import type { Fleet } from '../link/fleet';
import { machineByTag } from '../machines/machines';
import { linkChannel, runChannels } from '@yare/commissioning/recording';
import { present } from '@yare/core';
import { storeRecording, type WholeRecording } from '../recordings/recordings';
import { Ring } from './ring';
import { storeTrip } from './trips';

/** Who is named for what a drive told of itself. */
const byItself = 'Drive';
/** ms after a trip at which the link says how it went on, and between looks for that. */
const settled = 2500;
const lookEvery = 100;
/** Tries of a read of what the drive keeps anyway, and ms between them. */
const tries = 5;
const tryEvery = 300;
/** s of the link kept with a trip. */
const trendKept = 300;

const traceNames: Record<TraceWord, { name: string; unit: string; decimals: number }> = {
  outputFrequency: { name: 'Output', unit: 'Hz', decimals: 2 },
  motorCurrent: { name: 'Motor', unit: 'A', decimals: 2 },
  busVoltage: { name: 'DC bus', unit: 'V', decimals: 0 },
  torque: { name: 'Torque', unit: '%', decimals: 1 },
  outputVoltage: { name: 'Motor voltage', unit: 'V', decimals: 0 },
};

const storeWhole = (db: Db, machineId: number, r: WholeRecording): Promise<number> => db.transaction((trx) => storeRecording(trx, machineId, r));

/** What the link told before a trip, as a recording; null where it told nothing. */
async function storeTrend(db: Db, m: MachineRow, ring: Ring, at: number, name: string): Promise<number | null> {
  const samples = ring.before(at).filter((s) => at - s.at < trendKept * 1000);
  const [first] = samples;
  if (!first || samples.length < 3) return null;
  const channels = [...runChannels, present(linkChannel('reference'))];
  const time = samples.map((s) => (s.at - first.at) / 1000);
  const values = channels.map(({ key }) => samples.map((s) => s[key]));
  return storeWhole(db, m.id, {
    ...{ kind: 'trip' as const, title: `Before the trip: ${name}`, author: byItself, startedAt: timeOfDay(first.at), channels, time, values },
    marks: [{ time: time.at(-1) ?? 0, label: `Last sample before the trip: ${name}` }],
  });
}

async function storeTrace(db: Db, m: MachineRow, trace: RememberedTrace, at: number, name: string): Promise<number | null> {
  const [first] = trace.time;
  const last = trace.time.at(-1);
  if (first === undefined || last === undefined || trace.time.length < 10) return null;
  const keys = Object.keys(trace.channels) as TraceWord[];
  const time = trace.time.map((t) => t - first);
  return storeWhole(db, m.id, {
    ...{
      kind: 'trip' as const,
      title: `Drive’s last ${(last - first).toFixed(0)} s: ${name}`,
      author: byItself,
      startedAt: timeOfDay(at) + 1000 * first,
      time,
    },
    channels: keys.map((key) => ({ key, ...traceNames[key] })),
    values: keys.map((key) => trace.channels[key] ?? []),
    marks: [{ time: last - first, label: `Trip: ${name}` }],
  });
}

/** ms after which a drive that says of no trip is asked again how many there were: one may have come and cleared itself between two looks. */
const countEvery = 60_000;
/** A count that has run round: from near its end to near its beginning. */
const counts = 65536;
const nearEnd = counts - 100;

/** Trips a drive has had since it was last asked; null where its count says that it is another memory than before. */
export function tripsSince(counted: number, now: number): number | null {
  if (now >= counted) return now - counted;
  return counted >= nearEnd ? now - counted + counts : null;
}

/** What a drive keeps is asked for again when an answer is lost; null where none comes. @param pause waits before the next try */
export async function patiently<T>(read: () => Promise<T>, pause: () => Promise<unknown>): Promise<T | null> {
  for (let tried = 1; tried <= tries; tried++) {
    try {
      return await read();
    } catch {
      if (tried < tries) await pause();
    }
  }
  return null;
}

/** What is known of one machine's trips. */
interface Watched {
  ring: Ring;
  /** code of the trip in force, 0 without one; null while nobody has looked since the link was there */
  code: number | null;
  askedAt: number;
  asking: Promise<void> | null;
}

/**
 * Puts every trip on record with all the drive remembers of it, as soon as it is seen, or found by the drive's own count. What could not be read or
 * stored is told, and tried again with the next sample.
 */
export class TripWatch {
  private readonly machines = new Map<string, Watched>();
  private ended = false;
  private readonly forget: () => void;
  /** a server that ends waits for nothing */
  private readonly pause = (): Promise<unknown> => (this.ended ? Promise.resolve() : setTimeout(tryEvery));

  constructor(
    private readonly db: Db,
    private readonly fleet: Fleet,
    private readonly failed: (error: unknown) => void,
  ) {
    this.forget = fleet.onSample((s) => this.see(s));
  }

  async stop(): Promise<void> {
    this.ended = true;
    this.forget();
    await Promise.all([...this.machines.values()].map((w) => w.asking));
  }

  private of(tag: string): Watched {
    const known = this.machines.get(tag) ?? { ring: new Ring(), code: null, askedAt: -Infinity, asking: null };
    this.machines.set(tag, known);
    return known;
  }

  private see(s: LiveSample): void {
    const w = this.of(s.tag);
    if (s.link === 'down') {
      // it may trip while nobody listens
      w.code = null;
      return;
    }
    w.ring.add(s);
    const code = s.trip?.code ?? 0;
    const { code: before, askedAt } = w;
    if (w.asking || (before === code && s.at - askedAt < countEvery)) return;
    w.code = code;
    // what is only gone is nothing new
    if (code === 0 && before !== null && before !== 0) return;
    w.askedAt = s.at;
    w.asking = this.ask(s.tag, s.at, { code, seen: before === 0 && code !== 0 })
      .catch((error: unknown) => {
        w.code = null;
        this.failed(error);
      })
      .finally(() => (w.asking = null));
  }

  /** Reads how many trips there were, and keeps those nobody has seen yet. @param now the trip in force, and whether it came about just now */
  private async ask(tag: string, at: number, now: { code: number; seen: boolean }): Promise<void> {
    if (this.ended) return;
    const { link } = this.fleet.stationOf(tag);
    const m = await machineByTag(this.db, tag);
    const trips = await link.readTripCount();
    if (m.trips_counted === trips) return;
    // what a drive had before it was first met is its own affair, but for what stops it now
    const since = m.trips_counted === null ? null : tripsSince(m.trips_counted, trips);
    const fresh = since ?? (now.code === 0 ? 0 : 1);
    const records = fresh === 0 ? [] : await link.readMemory();
    const newest = await this.db.transaction(async (trx) => {
      let id: number | null = null;
      for (const [i, { trip: code, ...snapshot }] of [...records.slice(0, fresh).entries()].reverse())
        id = await storeTrip(trx, m, {
          source: 'link',
          code,
          snapshot: { ...noSnapshot(), ...snapshot },
          at: new Date(timeOfDay(at)),
          seen: now.seen && i === 0,
        });
      await trx('machines').where({ id: m.id }).update({ trips_counted: trips });
      return id;
    });
    if (newest === null) return;
    const values = await patiently(() => link.readSettings(), this.pause);
    if (values)
      await this.db('trips')
        .where({ id: newest })
        .update({ in_drive: json(values) });
    await this.complete(m, newest, at);
  }

  /** The moments before the newest trip, and how the link went on after it. */
  private async complete(m: MachineRow, id: number, at: number): Promise<void> {
    const { name } = (await this.db('trips').where({ id }).first('name')) ?? { name: '' };
    const { ring } = this.of(m.tag);
    const trend = await storeTrend(this.db, m, ring, at, name);
    await this.db('trips').where({ id }).update({ trend_id: trend });
    const trace = await patiently(() => this.fleet.stationOf(m.tag).link.readTrace(), this.pause);
    if (trace)
      await this.db('trips')
        .where({ id })
        .update({ trace_id: await storeTrace(this.db, m, trace, at, name) });
    while (!this.ended && steadyNow() < at + settled) await setTimeout(lookEvery);
    const { latest } = this.fleet.stationOf(m.tag);
    const up = latest.link === 'up';
    const afterwards = { silent: ring.silentAround(at), busVoltage: up ? latest.busVoltage : null, signal: up ? latest.words.analogue : null };
    await this.db('trips')
      .where({ id })
      .update({ afterwards: json(afterwards) });
  }
}
