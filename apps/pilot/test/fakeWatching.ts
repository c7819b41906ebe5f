import { bookById, DriveSettings } from '@yare/books';
import type { Observer } from '@yare/commissioning';
import { groundsOfWatch, provedBy, seenFacts, watchAt, watches, watchProving, type WatchedMachine } from '@yare/commissioning/seen/watches';
import type { LiveSample, MachineSeen, ProofFacts, Sheet, WatchId } from '@yare/contract';
import type { FakeServer } from './fakeServer';

const watchIds = Object.keys(watches) as WatchId[];

/** The server's eyes in memory: the same observers, on the samples a test lets the socket say. */
export class FakeWatching {
  private readonly at = new Map<string, { grounds: string; observer: Observer<unknown, unknown>; pending: unknown; found: unknown }>();
  private told = 0;

  constructor(private readonly server: FakeServer) {}

  /** What is to be said to whoever listens, once a sample was looked at. */
  look(sample: LiveSample): MachineSeen | null {
    const m = this.machineOf(sample.tag);
    if (!m) return null;
    for (const id of watchIds) {
      const key = `${sample.tag} ${id}`;
      const grounds = groundsOfWatch(id, m);
      const known = this.at.get(key);
      if (known?.grounds !== grounds) {
        const observer = watchAt(id).observer(m, () => this.machineOf(sample.tag) ?? m);
        if (!observer) continue;
        this.at.set(key, { grounds, observer, pending: observer.begin, found: observer.none });
      }
      const thing = this.at.get(key);
      if (thing) Object.assign(thing, thing.observer.look(thing.pending, thing.found, sample));
    }
    return this.of(sample.tag);
  }

  of(tag: string): MachineSeen {
    const m = this.machineOf(tag);
    const seen = watchIds.flatMap((watch) => {
      const thing = this.at.get(`${tag} ${watch}`);
      if (!thing || !m || thing.grounds !== groundsOfWatch(watch, m)) return [];
      return [{ watch, found: seenFacts(watch, thing.found, m), stage: watchAt(watch).stageOf?.(thing.pending) ?? null }];
    });
    return { at: (this.told += 1), until: '2026-01-02T08:00:00Z', seen };
  }

  proved(tag: string, stage: string, item: string): ProofFacts | null {
    const m = this.machineOf(tag);
    const watch = m && watchProving(stage, item, m);
    const thing = watch && this.at.get(`${tag} ${watch}`);
    return thing ? provedBy(watch, thing.found, item, m) : null;
  }

  counted(tag: string, stage: string, item: string): void {
    for (const id of watchIds.filter((w: WatchId) => watchAt(w).stage === stage)) {
      const thing = this.at.get(`${tag} ${id}`);
      if (thing && thing.found !== null) thing.found = watchAt(id).without(thing.found, item);
    }
  }

  private machineOf(tag: string): WatchedMachine | null {
    const record = this.server.machines.get(tag);
    if (!record) return null;
    const { machine, sheets } = record;
    const of = ({ values }: Sheet) =>
      new DriveSettings(
        bookById(machine.bookId),
        machine.size,
        Object.fromEntries(Object.entries(values).map(([code, v]) => [code, v.value])),
        machine.region,
      );
    return { driven: machine.driven, driveRevision: machine.driveRevision, drafted: of(sheets.draft), held: sheets.inDrive && of(sheets.inDrive) };
  }
}
