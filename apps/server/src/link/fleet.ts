import { noLink, oldAfter, SearchWatch } from '@yare/commissioning';
import { asleepBit, stateFromStatusWord, DriveState } from '@yare/core';
import type { LiveSample, LiveWord } from '@yare/contract';
import { AnotherDrive, DriveLink, DriveRefusal, LinkDown, type LinkAddress } from './driveLink';
import { bookById, doingOf, DriveSettings, toldOf, type Region } from '@yare/books';
import type { Claims } from '../claims';
import { steadyNow } from '../clock';

export interface LinkedMachine {
  tag: string;
  bookId: string;
  size: string;
  region: Region;
  /** its drive's address on the plant's link */
  unitId: number;
}

const idleEvery = 1000;
const watchedEvery = 100;
/** ms between samples of a machine that is held to run. */
export const fastEvery = 50;
/** How often it is looked whether a sample has grown old, ms. */
const lookEvery = 200;
/** Settings of a watched machine at rest are read again this often, ms, so that a change at its keypad shows. */
const rereadEvery = 5000;
/** Settings of a drive nobody watches are read again this often, ms: the plant page tells what was changed at its keypad. */
const scanEvery = 30_000;
/** The holder of command is told by this sign in {@link LiveWord} `commandHolder`. */
export const onLink = 1;

/** One drive's link with the sample last read. */
export interface Station {
  tag: string;
  link: DriveLink;
  latest: LiveSample;
  /** when that was, on this process's clock, ms */
  heardAt: number;
  /** words in front of `command` while the application holds it */
  holder: string | null;
  fast: boolean;
  /** ms between samples a recorder asks for; null for none */
  paced: number | null;
  /** the drive sends current through a standing motor to measure it: no run and no stop */
  measuring: boolean;
  /** tells a search for a turning motor from a run */
  search: SearchWatch;
  /** ms since 1970 until which it is kept still for its wires; null when it is not */
  stillUntil: number | null;
  unitId: number;
  /** when its settings were last read; −∞ asks for them anew */
  settingsReadAt: number;
}

/** What a status word means for whoever looks at the machine. */
export function stateOf(status: number, reference: number): LiveSample['state'] {
  if ((status & asleepBit) !== 0) return 'asleep';
  switch (stateFromStatusWord(status)) {
    case DriveState.operationEnabled:
      return reference === 0 ? 'stopping' : 'running';
    case DriveState.quickStop:
      return 'stopping';
    case DriveState.ready:
    case DriveState.switchedOn:
      return 'ready';
    case DriveState.fault:
    case DriveState.faultReaction:
      return 'tripped';
    default:
      return 'held';
  }
}

/** A drive that answers, but not as the one on record. */
function answersOtherwise({ link }: Station, error: DriveRefusal): Pick<LiveSample, 'command' | 'another'> {
  if (!(error instanceof AnotherDrive)) return { command: `It answers, but not as ${link.book.family}`, another: null };
  const { family, size } = error.says;
  return { command: `Another drive answers: ${family} ${size}`, another: error.says };
}

type WaitsFor = NonNullable<LiveSample['waits']>['code'];

const waitSentence: Record<WaitsFor, string> = {
  'safe torque off': 'Safe torque off is open: close both channels',
  'start contact': 'The start contact is still closed: open it, then close it',
};

/** Samples every linked drive once, whoever watches, and hands the samples on. */
export class Fleet {
  readonly stations = new Map<string, Station>();
  private readonly listeners = new Set<(sample: LiveSample) => void>();
  private readonly watched = new Map<string, number>();
  private running = true;
  /** machines whose settings are being read and put on record */
  private readonly rereading = new Set<string>();
  private readonly loops: Promise<void>[] = [];
  private readonly ageing: ReturnType<typeof setInterval>;

  constructor(
    private readonly plant: Omit<LinkAddress, 'unitId'>,
    machines: readonly LinkedMachine[],
    private readonly claims: Claims,
    private readonly onSettings: (tag: string, values: Record<string, number>) => Promise<void>,
    private readonly unwatchedEvery = scanEvery,
  ) {
    for (const m of machines) this.add(m);
    this.ageing = setInterval(() => this.tellOld(), lookEvery);
  }

  /** A machine more: its drive is asked from now on. */
  add(m: LinkedMachine): void {
    const station: Station = {
      tag: m.tag,
      link: this.linkOf(m),
      latest: noLink(m.tag, steadyNow()),
      heardAt: performance.now(),
      holder: null,
      fast: false,
      paced: null,
      measuring: false,
      search: new SearchWatch(),
      stillUntil: null,
      unitId: m.unitId,
      settingsReadAt: -Infinity,
    };
    this.stations.set(m.tag, station);
    this.loops.push(this.loop(station));
  }

  private linkOf({ bookId, size, region, unitId }: Omit<LinkedMachine, 'tag'>): DriveLink {
    return new DriveLink(new DriveSettings(bookById(bookId), size, {}, region), { ...this.plant, unitId });
  }

  station(tag: string): Station | undefined {
    return this.stations.get(tag);
  }

  /** @throws RangeError for a machine that is not linked */
  stationOf(tag: string): Station {
    const station = this.stations.get(tag);
    if (!station) throw new RangeError(`${tag} has no link.`);
    return station;
  }

  /** Another drive stands at a machine, or it answers elsewhere: from now on its own book is spoken there. */
  relink({ tag, unitId = this.stations.get(tag)?.unitId, ...drive }: Omit<LinkedMachine, 'unitId'> & { unitId?: number }): void {
    const station = this.stations.get(tag);
    if (!station || unitId === undefined) return;
    station.link.close();
    station.unitId = unitId;
    station.link = this.linkOf({ ...drive, unitId });
    station.latest = noLink(tag, steadyNow());
    station.settingsReadAt = -Infinity;
  }

  onSample(listener: (sample: LiveSample) => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  watch(tags: Iterable<string>, by: 1 | -1): void {
    for (const tag of tags) this.watched.set(tag, Math.max(0, (this.watched.get(tag) ?? 0) + by));
  }

  async stop(): Promise<void> {
    this.running = false;
    clearInterval(this.ageing);
    await Promise.all(this.loops);
    for (const s of this.stations.values()) s.link.close();
  }

  private async loop(station: Station): Promise<void> {
    let due = performance.now();
    while (this.running) {
      const started = performance.now();
      await this.sample(station);
      const watched = (this.watched.get(station.tag) ?? 0) > 0;
      const old = started - station.settingsReadAt > (watched && station.paced === null ? rereadEvery : this.unwatchedEvery);
      if (station.latest.link === 'up' && old && !this.claims.of(station.tag)) {
        station.settingsReadAt = started;
        // beside the samples, which go on between its requests
        void this.reread(station).catch(() => undefined);
      }
      if (station.latest.link === 'down') station.settingsReadAt = -Infinity;
      const every = this.everyOf(station, watched);
      // in step with the time, so that what comes late does not move all that follow; one that is behind by a whole step begins anew
      due = due + every < performance.now() ? Math.max(started + 1, performance.now()) : due + every;
      while (this.running && performance.now() < due && this.everyOf(station, watched) >= every) {
        await new Promise((done) => setTimeout(done, Math.min(50, Math.max(1, due - performance.now()))));
      }
    }
  }

  /** ms from one sample of a machine to the next. */
  private everyOf({ fast, paced }: Station, watched: boolean): number {
    return Math.min(fast ? fastEvery : watched ? watchedEvery : idleEvery, paced ?? Infinity);
  }

  /** A recorder wants a machine asked every so many ms; null when it wants nothing any more. */
  pace(tag: string, every: number | null): void {
    const station = this.stations.get(tag);
    if (station) station.paced = every;
  }

  /** Reads the settings of a drive nobody acts on. What was read while somebody began to, or of a drive that stood here before, counts for nothing. */
  private async reread(station: Station): Promise<void> {
    const { link, tag } = station;
    const claims = this.claims.count(tag);
    // one reading at a time, its note included: a slow line, or a database that takes its time, gets no second one on top
    if (this.rereading.has(tag)) return;
    this.rereading.add(tag);
    try {
      const values = await link.readSettings();
      if (station.link === link && this.claims.count(tag) === claims) await this.onSettings(tag, values);
    } finally {
      this.rereading.delete(tag);
    }
  }

  /** Asks a drive at once, whatever was last known of it. */
  async ask(station: Station): Promise<LiveSample> {
    await this.sample(station);
    return station.latest;
  }

  private async sample(station: Station): Promise<void> {
    let sample: LiveSample;
    const { link } = station;
    try {
      sample = this.decode(station, await link.readLive());
    } catch (error) {
      if (!(error instanceof LinkDown || error instanceof DriveRefusal)) throw error;
      sample = { ...noLink(station.tag, steadyNow()), ...(error instanceof DriveRefusal && answersOtherwise(station, error)) };
    }
    if (station.link === link) this.tell(station, sample);
  }

  private tell(station: Station, sample: LiveSample): void {
    station.latest = sample;
    station.heardAt = performance.now();
    for (const listener of this.listeners) listener(sample);
  }

  /** Whatever keeps a drive from being asked: what was last read of it is not shown as what is so now. */
  private tellOld(): void {
    for (const station of this.stations.values())
      if (performance.now() - station.heardAt > oldAfter)
        this.tell(station, noLink(station.tag, steadyNow(), 'The server has heard nothing from the drive for two seconds'));
  }

  /** What a drive that stands says it waits for before a start would start it. */
  private waitsOf({ link }: Station, w: Record<LiveWord, number>, state: LiveSample['state']): WaitsFor | null {
    if (state !== 'ready' && state !== 'held') return null;
    const { held } = toldOf(link.book, w);
    if (held.includes('safe torque off')) return 'safe torque off';
    return held.includes('start to be renewed') ? 'start contact' : null;
  }

  private decode(station: Station, w: Record<LiveWord, number>): LiveSample {
    const at = steadyNow();
    const { book } = station.link;
    const trip = w.tripCode === 0 ? null : (book.trips.find((t) => t.code === w.tripCode) ?? null);
    const commandOnLink = w.commandHolder === onLink;
    const state = stateOf(w.status, w.reference);
    const waits = commandOnLink ? null : this.waitsOf(station, w, state);
    return {
      tag: station.tag,
      at,
      link: 'up',
      state: state === 'stopping' && station.measuring ? 'running' : state === 'ready' && waits ? 'held' : state,
      outputFrequency: w.outputFrequency,
      searching: station.search.look(at / 1000, w.outputFrequency),
      motorCurrent: w.motorCurrent,
      busVoltage: w.busVoltage,
      motorSpeed: w.motorSpeed,
      torque: w.torque,
      reference: w.reference,
      motorHeat: w.motorHeat,
      power: w.power,
      driveTemperature: w.driveTemperature,
      feedback: Math.max(0, w.analogueInput),
      setpoint: w.setpoint,
      trip:
        w.tripCode === 0
          ? null
          : trip
            ? { code: trip.code, name: trip.name, sentence: trip.sentence }
            : { code: w.tripCode, name: `Code ${w.tripCode}`, sentence: 'The drive book does not list this code.' },
      holder: !commandOnLink ? 'terminals' : station.holder === null ? 'other' : 'here',
      command: commandOnLink ? (station.holder ?? 'Somebody else over the link') : 'Terminals',
      waits: waits && { code: waits, sentence: waitSentence[waits] },
      unkept: w.unkept !== 0,
      stillUntil: station.stillUntil,
      ...doingOf(station.link.book, w),
      words: {
        mode: w.mode,
        startedBy: w.startedBy,
        speedBy: w.speedBy,
        heldBack: w.heldBack,
        inputs: w.inputs,
        outputs: w.outputs,
        analogue: w.analogueInput,
        second: w.analogueInput2,
      },
      another: null,
    };
  }
}
