import { setTimeout } from 'node:timers/promises';
import { fires, linkChannel, triggerText } from '@yare/commissioning/recording';
import type { Arming, LiveSample, RecorderStatus } from '@yare/contract';
import { audit } from '../audit/audit';
import { timeOfDay } from '../clock';
import type { Db } from '../db/connect';
import { json } from '../db/tables';
import type { Fleet } from '../link/fleet';
import type { Space } from '../space';
import { Recorder } from './recorder';

/** ms the last samples are worth waiting for when the server stops. */
const longestClosing = 2000;
/** Recordings one arming makes before it ends by itself. */
const most = 50;
/** A sample that comes by this share of its interval early is still taken. */
const early = 0.25;
/** Samples the pace is told from. */
const paced = 25;

/** What is being recorded: from when, by what, and what waits for its record to be begun. */
interface Recording {
  at: number;
  recorder: Recorder | null;
  waiting: LiveSample[];
  marks: Array<{ at: number; label: string }>;
}

/** A gap in the link up to this long, ms, does not hide a level that was gone through in it. */
const bridgedFor = 10_000;

type Told = (error: unknown, what: string) => void;

/** One machine's armed recorder. It begins with the sample that fires its trigger, with the history it holds put before it. */
class ArmedRecorder {
  private readonly history: LiveSample[] = [];
  private before: LiveSample | null = null;
  /** the last sample the drive answered with */
  private heard: LiveSample | null = null;
  private paces: number[] = [];
  /** when the next sample is due */
  private due = -Infinity;
  private recording: Recording | null = null;
  /** a level that is still reached after a recording of it does not begin another */
  private released = true;
  /** the last recording this arming makes is made: none is begun while that one is stored */
  private done = false;
  /** a record that is being closed */
  private closing: Recorder | null = null;
  made = 0;
  lastId: number | null = null;

  constructor(
    private readonly db: Db,
    private readonly machine: { id: number; tag: string },
    readonly armed: { arming: Arming; author: string; at: string },
    private readonly space: Space,
    private readonly over: (why: string | null) => void,
    private readonly told: Told,
  ) {}

  get status(): NonNullable<RecorderStatus['armed']> {
    const [first, last] = [this.history[0], this.history.at(-1)];
    const sorted = [...this.paces].sort((a, b) => a - b);
    return {
      ...this.armed,
      triggeredAt: this.recording ? new Date(timeOfDay(this.recording.at)).toISOString() : null,
      held: first && last ? (last.at - first.at) / 1000 : 0,
      pace: sorted[sorted.length >> 1] ?? null,
      made: this.made,
    };
  }

  add(s: LiveSample): void {
    const { arming } = this.armed;
    const last = this.history.at(-1) ?? null;
    if (s.at < this.due - arming.every * early && s.state === last?.state) return;
    // in step with the interval: one that comes late does not make the next one count as early
    this.due = s.at - this.due > arming.every ? s.at + arming.every : this.due + arming.every;
    if (last && s.link === 'up') this.paces = [...this.paces.slice(1 - paced), s.at - last.at];
    const { before } = this;
    this.before = s;
    if (this.recording) this.goOn(s, before);
    else {
      // what happened while a link was away for a moment has happened: it is told from what was last heard
      const bridged = s.link === 'up' && before?.link === 'down' && this.heard && s.at - this.heard.at <= bridgedFor ? this.heard : before;
      const fired = fires(arming.trigger, bridged, s);
      // a link that is away says nothing of a level
      if (!fired && s.link === 'up') this.released = true;
      if (fired && this.released && !this.done) void this.begin(s).catch((error: unknown) => this.failed(error));
    }
    if (s.link === 'down') return;
    this.heard = s;
    this.history.push(s);
    while (this.history[0] && s.at - this.history[0].at > arming.before * 1000) this.history.shift();
  }

  private async begin(s: LiveSample): Promise<void> {
    const { arming, author } = this.armed;
    const kept = this.history.filter((h) => s.at - h.at <= arming.before * 1000);
    const recording: Recording = { at: s.at, recorder: null, waiting: [...kept, s], marks: [{ at: s.at, label: 'Trigger' }] };
    this.recording = recording;
    this.released = false;
    const full = await this.space.full();
    if (full) return this.over(full);
    const channels = arming.channels.map(linkChannel).filter((c) => c !== undefined);
    const text = triggerText(arming.trigger);
    const title = (arming.trigger.kind === 'now' ? 'Recorded' : `Recorded when ${text}`).slice(0, 80);
    const recorder = await Recorder.begin(this.db, {
      machineId: this.machine.id,
      kind: 'recorder',
      title,
      author,
      channels,
      startedAt: (kept[0] ?? s).at,
      every: arming.every,
    });
    this.lastId = recorder.id;
    this.made++;
    recording.recorder = recorder;
    for (const w of recording.waiting.splice(0)) recorder.add(w);
    for (const m of recording.marks.splice(0)) recorder.mark(m.label, m.at);
    // ended while its record was being begun
    if (this.recording !== recording) await recorder.end();
  }

  /** A sample of the recording that is being made. */
  private goOn(s: LiveSample, before: LiveSample | null): void {
    const { recording } = this;
    if (!recording) return;
    const mark = (label: string) => {
      if (recording.recorder) recording.recorder.mark(label, s.at);
      else recording.marks.push({ at: s.at, label });
    };
    if (s.trip && !before?.trip) mark(`Trip: ${s.trip.name}`.slice(0, 80));
    if (before && s.link !== before.link) mark(s.link === 'down' ? 'Link lost' : 'Link back');
    if (recording.recorder) recording.recorder.add(s);
    else recording.waiting.push(s);
    if (s.at - recording.at >= this.armed.arming.after * 1000 && recording.recorder) void this.finish().catch((error: unknown) => this.failed(error));
  }

  /** Closes the recording that is being made, if any. */
  async finish(): Promise<void> {
    const recorder = this.recording?.recorder;
    this.recording = null;
    // what waits for nothing begins anew as soon as it is done
    if (this.armed.arming.trigger.kind === 'now') this.released = true;
    if (!recorder) return;
    // another may have begun before this one is stored: whether this was the last is settled now
    const why = this.armed.arming.again ? (this.made >= most ? `It has made ${most} recordings and stopped by itself.` : undefined) : null;
    this.done = why !== undefined;
    this.closing = recorder;
    await recorder.end();
    this.closing = null;
    if (why !== undefined) this.over(why);
  }

  /** The process ends: what is stored now is all, and nothing more is tried. */
  async stop(): Promise<void> {
    this.closing?.giveUp();
    this.recording?.recorder?.giveUp();
    await this.finish();
  }

  private failed(error: unknown): void {
    this.told(error, `the recorder of ${this.machine.tag} failed`);
    this.over('The server could not store the recording. Arm it again once the database answers.');
  }
}

/** The recorders of all machines that wait for a trigger. They act on nothing: they only ask their drives more often. */
export class ArmedRecorders {
  private readonly recorders = new Map<string, ArmedRecorder>();
  private readonly past = new Map<string, { lastId: number | null; ended: string | null }>();

  constructor(
    private readonly db: Db,
    private readonly fleet: Fleet,
    private readonly space: Space,
    private readonly told: Told,
  ) {
    fleet.onSample((s) => this.recorders.get(s.tag)?.add(s));
  }

  /** Arms again what was armed when the server stopped. */
  async restore(): Promise<void> {
    for (const m of await this.db('machines').whereNotNull('armed')) if (m.armed && this.fleet.station(m.tag)) this.set(m, m.armed);
  }

  status(tag: string): RecorderStatus {
    const now = this.recorders.get(tag);
    const past = this.past.get(tag);
    return { armed: now?.status ?? null, lastId: now?.lastId ?? past?.lastId ?? null, ended: now ? null : (past?.ended ?? null) };
  }

  async arm(machine: { id: number; tag: string }, arming: Arming, author: string): Promise<void> {
    await this.end(machine, author, false);
    const armed = { arming, author, at: new Date().toISOString() };
    await this.db('machines')
      .where({ id: machine.id })
      .update({ armed: json(armed) as never });
    await audit(this.db, author, 'recorder armed', machine.tag, { arming });
    this.set(machine, armed);
  }

  /** Ends it; what it was recording is closed and kept. */
  async end(machine: { id: number; tag: string }, author: string, logged = true): Promise<void> {
    const now = this.recorders.get(machine.tag);
    if (!now) return;
    this.remove(machine, null);
    await now.finish();
    await this.db('machines').where({ id: machine.id }).update({ armed: null });
    if (logged) await audit(this.db, author, 'recorder ended', machine.tag, {});
  }

  /** Closes what is being recorded; what is armed stays so for the next start. */
  async stop(): Promise<void> {
    const all = [...this.recorders.values()];
    this.recorders.clear();
    const closed = Promise.all(all.map((r) => r.stop().catch(() => undefined)));
    // a database that does not answer keeps no server from ending
    await Promise.race([closed, setTimeout(longestClosing, undefined, { ref: false })]);
  }

  private set(machine: { id: number; tag: string }, armed: { arming: Arming; author: string; at: string }): void {
    const over = (why: string | null): void => {
      if (this.recorders.get(machine.tag) !== recorder) return;
      this.remove(machine, why);
      this.db('machines')
        .where({ id: machine.id })
        .update({ armed: null })
        .catch((error: unknown) => this.told(error, `the recorder of ${machine.tag} could not be ended`));
    };
    const recorder = new ArmedRecorder(this.db, machine, armed, this.space, over, this.told);
    this.recorders.set(machine.tag, recorder);
    this.fleet.pace(machine.tag, armed.arming.every);
  }

  private remove({ tag }: { tag: string }, why: string | null): void {
    this.past.set(tag, { lastId: this.recorders.get(tag)?.lastId ?? null, ended: why });
    this.recorders.delete(tag);
    this.fleet.pace(tag, null);
  }
}
