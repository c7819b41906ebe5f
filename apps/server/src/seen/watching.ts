import { groundsOfWatch, provedBy, seenFacts, watchAt, watchProving, type WatchedMachine } from '@yare/commissioning/seen/watches';
import type { Observer } from '@yare/commissioning';
import { watchIds, type LiveSample, type MachineSeen, type ProofFacts, type WatchId } from '@yare/contract';
import { steadyNow } from '../clock';
import type { Db } from '../db/connect';
import { json, type SeenRow } from '../db/tables';
import type { Fleet } from '../link/fleet';
import { machineByTag } from '../machines/machines';
import { latestSheet, settingsOfSheet } from '../sheets/sheets';
import { surveyOf } from '../survey/survey';

/** A machine is watched for so long after a page of it was last open, ms: a shift. */
const watchedFor = 8 * 3_600_000;
/** What is in the drive and on record is looked at again this often, ms. */
const readEvery = 5000;

/** One thing that is watched at one machine. */
interface Watched {
  grounds: string;
  /** what the observer was made from: settings that only tell something are not among them */
  made: string;
  observer: Observer<unknown, unknown> | null;
  pending: unknown;
  found: unknown;
  stage: string | null;
}

interface Watching {
  id: number;
  until: number;
  now: WatchedMachine;
  things: Map<WatchId, Watched>;
  reading: Promise<void> | null;
}

/**
 * The server's own eyes: what proves a test by being seen to happen is seen here, on the live link, with every page closed and for every
 * page alike. What was seen rests on what stood in the drive, and is gone once that has changed.
 */
export class WatchedMachines {
  private readonly machines = new Map<string, Watching>();
  private readonly beginning = new Map<string, Promise<Watching>>();
  private readonly timer: ReturnType<typeof setInterval>;
  private readonly stopListening: () => void;
  private storing: Promise<unknown> = Promise.resolve();

  constructor(
    private readonly db: Db,
    private readonly fleet: Fleet,
    private readonly now: () => number,
    private readonly told: (tag: string, seen: MachineSeen) => void,
    private readonly failed: (error: unknown) => void,
  ) {
    this.stopListening = fleet.onSample((s) => this.look(s));
    this.timer = setInterval(() => this.readAll(), readEvery);
  }

  /** Goes on with what was watched when the server went. */
  async restore(): Promise<void> {
    const rows = await this.db('watched').join('machines', 'machines.id', 'watched.machine_id').select('machines.tag', 'watched.until');
    for (const { tag, until } of rows) if (until.getTime() > this.now()) await this.take(tag, until.getTime());
  }

  /** Watches a machine from now on, or longer. */
  async watch(tag: string): Promise<MachineSeen> {
    const until = this.now() + watchedFor;
    const watching = await this.take(tag, until);
    await this.db('watched')
      .insert({ machine_id: watching.id, until: new Date(until) })
      .onConflict('machine_id')
      .merge();
    return this.of(tag);
  }

  /** What was seen at a machine and is not counted yet. */
  of(tag: string): MachineSeen {
    const watching = this.machines.get(tag);
    const at = steadyNow();
    if (!watching) return { at, until: null, seen: [] };
    const seen = [...watching.things].map(([watch, { found, stage }]) => ({ watch, found: seenFacts(watch, found, watching.now), stage }));
    return { at, until: new Date(watching.until).toISOString(), seen };
  }

  /** Which watching proves a test, and what it saw; null for a test that is proved otherwise, `facts` null while nothing of it was seen. */
  async proving(tag: string, stage: string, item: string): Promise<{ watch: WatchId; facts: ProofFacts | null } | null> {
    const watching = this.machines.get(tag);
    if (watching) {
      // one that was begun before may have missed what was written since
      await watching.reading;
      await this.read(tag, watching);
    }
    const now = watching?.now ?? (await this.machineNow(tag));
    const watch = watchProving(stage, item, now);
    if (!watch) return null;
    const found = watching?.things.get(watch)?.found ?? null;
    return { watch, facts: provedBy(watch, found, item, now) };
  }

  /** A test was counted by it: it is not offered again. */
  counted(tag: string, id: WatchId, item: string): void {
    const thing = this.machines.get(tag)?.things.get(id);
    if (thing && thing.found !== null) this.keep(tag, id, thing, watchAt(id).without(thing.found, item));
  }

  async stop(): Promise<void> {
    clearInterval(this.timer);
    this.stopListening();
    await Promise.all([...this.machines.values()].map((w) => w.reading));
    await this.storing;
  }

  private async take(tag: string, until: number): Promise<Watching> {
    let watching = this.machines.get(tag);
    if (!watching) {
      const begun = this.beginning.get(tag) ?? this.begin(tag, until).finally(() => this.beginning.delete(tag));
      this.beginning.set(tag, begun);
      watching = await begun;
    }
    watching.until = Math.max(watching.until, until);
    return watching;
  }

  private async begin(tag: string, until: number): Promise<Watching> {
    const { id } = await machineByTag(this.db, tag);
    const watching: Watching = { id, until, now: await this.machineNow(tag), things: new Map(), reading: null };
    const rows = await this.db('seen').where({ machine_id: id });
    this.machines.set(tag, watching);
    this.fleet.watch([tag], 1);
    this.renewAll(tag, watching, rows);
    return watching;
  }

  private async machineNow(tag: string): Promise<WatchedMachine> {
    const m = await machineByTag(this.db, tag);
    const [draft, held, survey] = [await latestSheet(this.db, m, 'draft'), await latestSheet(this.db, m, 'in drive'), await surveyOf(this.db, m.id)];
    return {
      driven: survey?.survey.driven ?? m.driven,
      driveRevision: m.drive_revision,
      drafted: settingsOfSheet(m, draft?.values ?? {}),
      held: held && settingsOfSheet(m, held.values),
    };
  }

  private readAll(): void {
    for (const [tag, watching] of this.machines) {
      if (this.now() > watching.until) this.leave(tag);
      else void this.read(tag, watching).catch(this.failed);
    }
  }

  private leave(tag: string): void {
    this.machines.delete(tag);
    this.fleet.watch([tag], -1);
    this.told(tag, this.of(tag));
  }

  /** Looks at what stands in the drive and on record again; once at a time. */
  private read(tag: string, watching: Watching): Promise<void> {
    watching.reading ??= (async () => {
      try {
        watching.now = await this.machineNow(tag);
        this.renewAll(tag, watching);
      } finally {
        watching.reading = null;
      }
    })();
    return watching.reading;
  }

  /** @param kept what was seen before this server began */
  private renewAll(tag: string, watching: Watching, kept: readonly SeenRow[] = []): void {
    const { held } = watching.now;
    const settings = held && held.all.map((s) => (s.access === 'read' ? null : held.value(s)));
    for (const id of watchIds)
      this.renew(
        tag,
        watching,
        id,
        JSON.stringify(settings),
        kept.find((r) => r.watch === id),
      );
  }

  /** Makes an observer anew where what it watches for has changed; what was seen stays while what it rests on does. */
  private renew(tag: string, watching: Watching, id: WatchId, settings: string, kept?: SeenRow): void {
    const { now, things } = watching;
    const grounds = groundsOfWatch(id, now);
    const made = `${grounds} ${settings}`;
    const known = things.get(id);
    if (known?.made === made) return;
    const observer = watchAt(id).observer(now, () => watching.now);
    const before = known ?? kept;
    const found = before && before.grounds === grounds ? before.found : (observer?.none ?? null);
    const thing: Watched = { grounds, made, observer, pending: observer?.begin, found, stage: null };
    things.set(id, thing);
    if (before && found !== before.found) this.keep(tag, id, thing, found);
  }

  private look(sample: LiveSample): void {
    const watching = this.machines.get(sample.tag);
    if (!watching) return;
    for (const [id, thing] of watching.things) {
      if (!thing.observer) continue;
      const { pending, found } = thing.observer.look(thing.pending, thing.found ?? thing.observer.none, sample);
      thing.pending = pending;
      const stage = watchAt(id).stageOf?.(pending) ?? null;
      const further = stage !== thing.stage;
      thing.stage = stage;
      if (found !== thing.found) this.keep(sample.tag, id, thing, found);
      else if (further) this.told(sample.tag, this.of(sample.tag));
    }
  }

  /** What was seen is told at once and stored in its order. */
  private keep(tag: string, id: WatchId, thing: Watched, found: unknown): void {
    thing.found = found;
    const machine = this.machines.get(tag);
    if (!machine) return;
    this.told(tag, this.of(tag));
    const row = { machine_id: machine.id, watch: id, grounds: thing.grounds, found: json(found ?? null), at: new Date() };
    this.storing = this.storing.then(() => this.db('seen').insert(row).onConflict(['machine_id', 'watch']).merge()).catch(this.failed);
  }
}
