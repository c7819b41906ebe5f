import { setTimeout } from 'node:timers/promises';
import type { RememberedTrace } from '@yare/books';
import type { LiveSample, TraceWord } from '@yare/contract';
import type { Db } from '../db/connect';
import { json, type MachineRow } from '../db/tables';
import type { Fleet } from '../link/fleet';
import { machineByTag } from '../machines/machines';
import { recordedChannels } from '../recordings/recorder';
import { storeRecording } from '../recordings/recordings';
import { Ring } from './ring';
import { emptySnapshot, storeTrip } from './trips';

/** Who is named for what a drive told of itself. */
const byItself = 'Drive';
/** ms after a trip at which the link says how it went on, and between looks for that. */
const settled = 2500;
const lookEvery = 100;
/** s of the link kept with a trip. */
const trendKept = 300;

const traceNames: Record<TraceWord, { name: string; unit: string; decimals: number }> = {
  outputFrequency: { name: 'Output', unit: 'Hz', decimals: 2 },
  motorCurrent: { name: 'Motor', unit: 'A', decimals: 2 },
  busVoltage: { name: 'DC bus', unit: 'V', decimals: 0 },
  torque: { name: 'Torque', unit: '%', decimals: 1 },
  outputVoltage: { name: 'Motor voltage', unit: 'V', decimals: 0 },
};

/** What the link told before a trip, as a recording; null where it told nothing. */
async function storeTrend(db: Db, m: MachineRow, ring: Ring, at: number, name: string): Promise<number | null> {
  const samples = ring.before(at).filter((s) => at - s.at < trendKept * 1000);
  const [first] = samples;
  if (!first || samples.length < 3) return null;
  const channels = [...recordedChannels, { key: 'reference' as const, name: 'Reference', unit: 'Hz', decimals: 2 }];
  const time = samples.map((s) => (s.at - first.at) / 1000);
  const values = channels.map(({ key }) => samples.map((s) => s[key]));
  return storeRecording(db, m.id, {
    ...{ title: `Before the trip: ${name}`, author: byItself, startedAt: first.at, channels, time, values },
    marks: [{ time: time.at(-1) ?? 0, label: `Last sample before the trip: ${name}` }],
  });
}

async function storeTrace(db: Db, m: MachineRow, trace: RememberedTrace, at: number, name: string): Promise<number | null> {
  const [first] = trace.time;
  const last = trace.time.at(-1);
  if (first === undefined || last === undefined || trace.time.length < 10) return null;
  const keys = Object.keys(trace.channels) as TraceWord[];
  const time = trace.time.map((t) => t - first);
  return storeRecording(db, m.id, {
    ...{ title: `Drive’s last ${(last - first).toFixed(0)} s: ${name}`, author: byItself, startedAt: at + 1000 * first, time },
    channels: keys.map((key) => ({ key, ...traceNames[key] })),
    values: keys.map((key) => trace.channels[key] ?? []),
    marks: [{ time: last - first, label: `Trip: ${name}` }],
  });
}

/**
 * Puts every trip on record with all the drive remembers of it, as soon as it is seen, or found out when the link is there again. One after another;
 * what could not be read is told and the trip is kept with what there is.
 */
export class TripWatch {
  private readonly rings = new Map<string, Ring>();
  private readonly known = new Map<string, number>();
  private readonly asked = new Set<string>();
  private queue: Promise<unknown> = Promise.resolve();
  private ended = false;
  private readonly forget: () => void;

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
    await this.queue;
  }

  private ringOf(tag: string): Ring {
    const ring = this.rings.get(tag) ?? new Ring();
    this.rings.set(tag, ring);
    return ring;
  }

  private see(s: LiveSample): void {
    if (s.link === 'down') {
      // it may trip while nobody listens
      this.known.delete(s.tag);
      return;
    }
    this.ringOf(s.tag).add(s);
    const code = s.trip?.code ?? 0;
    const before = this.known.get(s.tag);
    if (before === code || this.asked.has(s.tag)) return;
    this.known.set(s.tag, code);
    // one that is cleared by itself between two looks is found by its count
    if (code === 0 && before !== undefined) return;
    this.asked.add(s.tag);
    this.queue = this.queue
      .then(() => this.ask(s.tag, s.at, { code, seen: before !== undefined && code !== 0 }))
      .catch((error: unknown) => this.failed(error))
      .finally(() => this.asked.delete(s.tag));
  }

  /** Reads how many trips there were, and keeps those nobody has seen yet. @param now the trip in force, and whether it came about just now */
  private async ask(tag: string, at: number, { code: inForce, seen }: { code: number; seen: boolean }): Promise<void> {
    if (this.ended) return;
    const { link } = this.fleet.stationOf(tag);
    const { trips, records } = await link.readMemory();
    const m = await machineByTag(this.db, tag);
    const counted = m.trips_counted;
    await this.db('machines').where({ id: m.id }).update({ trips_counted: trips });
    // what a drive had before it was first met is its own affair, but for what stops it now
    const fresh = counted === null ? (inForce === 0 ? 0 : 1) : (trips - counted + 65536) % 65536;
    const found = records.slice(0, Math.min(fresh, records.length));
    for (const [i, record] of [...found.entries()].reverse()) {
      const newest = i === 0;
      const { trip: code, ...snapshot } = record;
      const values = newest ? await link.readSettings().catch(() => null) : null;
      const id = await storeTrip(this.db, m, {
        source: 'link',
        code,
        snapshot: { ...emptySnapshot, ...snapshot },
        at: new Date(at),
        seen: newest && seen,
        inDrive: values,
      });
      if (newest) await this.complete(m, id, at);
    }
  }

  /** The moments before the newest trip, and how the link went on after it. */
  private async complete(m: MachineRow, id: number, at: number): Promise<void> {
    const { name } = (await this.db('trips').where({ id }).first('name')) ?? { name: '' };
    const ring = this.ringOf(m.tag);
    const trend = await storeTrend(this.db, m, ring, at, name);
    await this.db('trips').where({ id }).update({ trend_id: trend });
    const trace = await this.fleet
      .stationOf(m.tag)
      .link.readTrace()
      .catch(() => null);
    if (trace)
      await this.db('trips')
        .where({ id })
        .update({ trace_id: await storeTrace(this.db, m, trace, at, name) });
    while (!this.ended && Date.now() < at + settled) await setTimeout(lookEvery);
    const { latest } = this.fleet.stationOf(m.tag);
    const up = latest.link === 'up';
    const afterwards = { silent: ring.silentAround(at), busVoltage: up ? latest.busVoltage : null, signal: up ? latest.words.analogue : null };
    await this.db('trips')
      .where({ id })
      .update({ afterwards: json(afterwards) });
  }
}
