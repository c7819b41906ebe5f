import { useEffect, useSyncExternalStore } from 'react';
import { noLink, oldAfter } from '@yare/commissioning/noLink';
import { present } from '@yare/core/present';
import type { ClientMessage, LiveSample, MachineSeen, ServerMessage, StopCause, GuideProgress, RunGuide, TuneProgress } from '@yare/contract';
import { holdRepeat } from '@yare/contract/hold';
import { say } from '@yare/words/pages/data';
import { authorNow } from './device';
import { askWhoWeAre } from './pairing';
import { keys, queryClient } from './client';

export type TuneKind = TuneProgress['kind'];

/** How a press of hold-to-run stands. */
export interface RunState {
  tag: string;
  /** the server's number of the run; 0 until it has one */
  run: number;
  phase: 'asking' | 'taken' | 'running' | 'stopping' | 'ended' | 'refused';
  /** why it stopped, as a code */
  cause: StopCause | null;
  /** why it stopped or was refused, in words; null when it was simply let go */
  sentence: string | null;
  recordingId: number | null;
  /** pressed on this device */
  mine: boolean;
  /** how measuring goes, of a run that measures */
  tune: TuneProgress | null;
  /** how a led run goes, of a run that is one */
  guide: GuideProgress | null;
}

/** What was seen at a machine: an answer that was long on its way does not undo what was told meanwhile. */
export const laterSeen = (old: MachineSeen | undefined, seen: MachineSeen): MachineSeen => (old && old.at > seen.at ? old : seen);

interface Trend {
  time: number[];
  outputFrequency: number[];
  motorCurrent: number[];
  busVoltage: number[];
  feedback: number[];
  setpoint: number[];
}

/** s a trend is kept for: a slow loop swings in half a minute. */
const trendSeconds = 180;
/** How often it is looked whether figures on screen have grown old, and how often the server is asked for a word, ms. */
const lookEvery = 200;
const pingEvery = 800;

/** The one live channel of the page. */
class Live {
  readonly samples = new Map<string, LiveSample>();
  readonly trends = new Map<string, Trend>();
  readonly runs = new Map<string, RunState>();
  connected = false;
  private socket: WebSocket | null = null;
  private readonly watching = new Map<string, number>();
  private readonly listeners = new Set<() => void>();
  private holding: { tag: string; ticket: string; timer: ReturnType<typeof setInterval> } | null = null;
  /** what the next press spends; this connection's alone, and given anew after each press */
  private ticket: string | null = null;
  private watchQueued = false;
  /** machines of runs of this page whose link to the server was lost, and of which it has not spoken since */
  private readonly orphans = new Set<string>();
  /** number of this connection's last run that has ended */
  private before = 0;
  private lastHeard = 0;
  /** when the newest sample of each machine came */
  private readonly heardAt = new Map<string, number>();
  private version = 0;

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    if (!this.socket) this.open();
    return () => this.listeners.delete(listener);
  };
  getVersion = (): number => this.version;

  private changed(): void {
    this.version++;
    for (const l of this.listeners) l();
  }

  private open(): void {
    const scheme = location.protocol === 'https:' ? 'wss' : 'ws';
    const socket = new WebSocket(`${scheme}://${location.host}/api/v1/live`);
    this.socket = socket;
    this.lastHeard = performance.now();
    socket.onopen = () => {
      this.connected = true;
      this.sendWatch();
      this.changed();
    };
    socket.onmessage = (event: MessageEvent<string>) => {
      this.lastHeard = performance.now();
      this.hear(JSON.parse(event.data) as ServerMessage);
    };
    socket.onclose = () => {
      if (this.socket !== socket) return;
      this.lost();
      // it may have been put out
      askWhoWeAre();
      setTimeout(() => this.open(), 1000);
    };
    let pinged = -Infinity;
    const heart = setInterval(() => {
      if (this.socket !== socket || socket.readyState === WebSocket.CLOSED) return clearInterval(heart);
      const now = performance.now();
      if (socket.readyState === WebSocket.OPEN && now - pinged >= pingEvery) {
        pinged = now;
        this.send({ kind: 'ping', sent: now });
      }
      // without any word from the server, whatever it would be about
      if (now - this.lastHeard > oldAfter && this.connected) {
        this.lost();
        socket.close();
        setTimeout(() => this.open(), 200);
      } else this.tellOld(now);
    }, lookEvery);
  }

  /** Of a machine the server no longer speaks of, what it last said is not shown as what is so now. */
  private tellOld(now: number): void {
    const old = [...this.samples.values()].filter(
      (s) => s.link === 'up' && this.watching.has(s.tag) && now - (this.heardAt.get(s.tag) ?? now) > oldAfter,
    );
    for (const s of old) this.samples.set(s.tag, noLink(s.tag, s.at, say.theServerHasSaidNothing));
    if (old.length > 0) this.changed();
  }

  private lost(): void {
    this.connected = false;
    this.socket = null;
    this.ticket = null;
    this.before = 0;
    this.letGo(say.theLinkToTheServer);
    for (const [tag, run] of this.runs) if (run.mine && run.phase !== 'ended' && run.phase !== 'refused') this.orphans.add(tag);
    this.samples.clear();
    this.changed();
  }

  private send(message: ClientMessage): void {
    if (this.socket?.readyState === WebSocket.OPEN) this.socket.send(JSON.stringify(message));
  }

  /** Tells what is watched, once for all changes of one draw. */
  private sendWatch(): void {
    if (this.watchQueued) return;
    this.watchQueued = true;
    void Promise.resolve().then(() => {
      this.watchQueued = false;
      this.send({ kind: 'watch', tags: [...this.watching.keys()] });
    });
  }

  watch(tags: readonly string[]): () => void {
    for (const t of tags) this.watching.set(t, (this.watching.get(t) ?? 0) + 1);
    this.sendWatch();
    return () => {
      for (const t of tags) {
        const left = (this.watching.get(t) ?? 1) - 1;
        if (left > 0) this.watching.set(t, left);
        else this.watching.delete(t);
      }
      this.sendWatch();
    };
  }

  private hear(message: ServerMessage): void {
    if (message.kind === 'ticket') this.ticket = message.ticket;
    else if (message.kind === 'live') {
      for (const s of message.samples) {
        this.samples.set(s.tag, s);
        this.heardAt.set(s.tag, this.lastHeard);
        this.addToTrend(s);
        this.endOrphan(s);
      }
      this.changed();
    } else if (message.kind === 'run') {
      this.orphans.delete(message.tag);
      if (message.phase === 'ended') {
        void queryClient.invalidateQueries({ queryKey: keys.recordings(message.tag) });
        if (message.recordingId) void queryClient.invalidateQueries({ queryKey: keys.recording(message.recordingId) });
      }
      const before = this.runs.get(message.tag);
      // what is still told of a run before this press changes nothing of it
      if (this.holding?.tag === message.tag && (!message.mine || message.run <= this.before)) return;
      if (message.mine && message.phase === 'ended') this.before = Math.max(this.before, message.run);
      // a run begun before the link to the server was lost and found again is still this page's
      const same = before?.mine && (before.run === message.run || (message.mine && before.run === 0));
      const why = message.cause === 'let go' ? null : message.reason;
      this.runs.set(message.tag, {
        tag: message.tag,
        run: message.run,
        phase: message.phase,
        cause: message.cause,
        // why this page let go is known here alone
        sentence: same && message.cause === 'let go' ? before.sentence : why,
        recordingId: message.recordingId ?? (same ? before.recordingId : null),
        mine: message.mine || Boolean(same),
        tune: message.tune ?? null,
        guide: message.guide ?? null,
      });
      if (message.mine && (message.phase === 'stopping' || message.phase === 'ended')) this.stopRepeating(message.tag);
      this.changed();
    } else if (message.kind === 'seen') {
      queryClient.setQueryData<MachineSeen>(keys.seen(message.tag), (old) => laterSeen(old, message.seen));
    } else if (message.kind === 'refused') {
      this.pressed(message.tag, 'refused', message.sentence);
      this.stopRepeating(message.tag);
      this.changed();
    }
  }

  private addToTrend(s: LiveSample): void {
    if (s.link === 'down') return;
    let t = this.trends.get(s.tag);
    if (!t) this.trends.set(s.tag, (t = { time: [], outputFrequency: [], motorCurrent: [], busVoltage: [], feedback: [], setpoint: [] }));
    const time = s.at / 1000;
    if (t.time.length > 0 && time <= present(t.time[t.time.length - 1])) return;
    t.time.push(time);
    t.outputFrequency.push(s.outputFrequency);
    t.motorCurrent.push(s.motorCurrent);
    t.busVoltage.push(s.busVoltage);
    t.feedback.push(s.feedback);
    t.setpoint.push(s.setpoint);
    let drop = 0;
    while (present(t.time[drop]) < time - trendSeconds) drop++;
    if (drop > 50) for (const channel of Object.values(t) as number[][]) channel.splice(0, drop);
  }

  /** A press that the server does not answer, or has not answered yet. */
  private pressed(tag: string, phase: 'asking' | 'refused', sentence: string | null, tune: TuneProgress | null = null): void {
    this.runs.set(tag, { tag, run: 0, phase, cause: null, sentence, recordingId: null, mine: true, tune, guide: null });
  }

  /** Asks for a run and repeats it until {@link letGo}. Returns false when there is no server to ask; the run then says so. */
  hold(tag: string, frequency: number, tune?: TuneKind, guide?: RunGuide): boolean {
    const { ticket } = this;
    if (this.holding) return false;
    if (!this.connected || ticket === null) {
      this.pressed(tag, 'refused', say.theLinkToTheServer2);
      this.changed();
      return false;
    }
    this.ticket = null;
    this.pressed(tag, 'asking', null, tune ? { kind: tune, state: 'busy', progress: 0 } : null);
    this.send({
      kind: 'begin',
      tag,
      author: authorNow(),
      frequency,
      ticket,
      sent: performance.now(),
      ...(tune && { tune }),
      ...(guide && { guide }),
    });
    const repeat = () => this.send({ kind: 'repeat', ticket, sent: performance.now() });
    this.holding = { tag, ticket, timer: setInterval(repeat, holdRepeat) };
    this.changed();
    return true;
  }

  get isHolding(): boolean {
    return this.holding !== null;
  }

  private stopRepeating(tag: string): void {
    if (this.holding?.tag !== tag) return;
    clearInterval(this.holding.timer);
    this.holding = null;
  }

  /** A run that ended while the link to the server was away, so that nobody told: its drive answers to its terminals again. */
  private endOrphan({ tag, link, holder }: LiveSample): void {
    const run = this.runs.get(tag);
    if (!run || link === 'down' || holder !== 'terminals' || !this.orphans.delete(tag)) return;
    this.runs.set(tag, { ...run, phase: 'ended' });
    void queryClient.invalidateQueries({ queryKey: keys.recordings(tag) });
  }

  letGo(why?: string): void {
    if (!this.holding) return;
    const { tag, ticket } = this.holding;
    this.stopRepeating(tag);
    this.send({ kind: 'release', ticket });
    const run = this.runs.get(tag);
    if (run?.mine) this.runs.set(tag, { ...run, phase: 'stopping', cause: 'let go', sentence: why ?? run.sentence });
    this.changed();
  }
}

export const live = new Live();

if (typeof document !== 'undefined') {
  // whatever takes the page from the person's eyes is a release
  document.addEventListener('visibilitychange', () => {
    if (document.hidden) live.letGo(say.theScreenWasHidden);
  });
  window.addEventListener('pagehide', () => live.letGo(say.thePageWasClosed));
  window.addEventListener('blur', () => live.letGo(say.theWindowLostTheFocus));
}

const useVersion = () => useSyncExternalStore(live.subscribe, live.getVersion, live.getVersion);

/** Watches machines while this is mounted. */
function useWatching(tags: readonly string[]): void {
  const key = tags.join();
  useEffect(() => live.watch(key.split(',').filter(Boolean)), [key]);
}

/** Live values of machines while this is mounted; undefined before the first word or when the server is gone. */
export function useLive(tags: readonly string[]): (tag: string) => LiveSample | undefined {
  useWatching(tags);
  useVersion();
  return (tag) => live.samples.get(tag);
}

/**
 * What a page needs to know of one machine, told again only when it changes: figures move ten times a second, states do not.
 * @param pick a plain value of the sample: a word, a figure, yes or no
 */
export function useLiveValue<T extends string | number | boolean | null | undefined>(tag: string, pick: (sample: LiveSample | undefined) => T): T {
  useWatching([tag]);
  const now = () => pick(live.samples.get(tag));
  return useSyncExternalStore(live.subscribe, now, now);
}

/** The drive that answers instead of the one on record; null when none does. */
export function useAnotherDrive(tag: string): LiveSample['another'] {
  useLiveValue(tag, (s) => s?.another && `${s.another.bookId} ${s.another.size}`);
  return live.samples.get(tag)?.another ?? null;
}

const connectedNow = (): boolean => live.connected;
export const useConnected = (): boolean => useSyncExternalStore(live.subscribe, connectedNow, connectedNow);

export function useRun(tag: string): RunState | undefined {
  const now = () => live.runs.get(tag);
  return useSyncExternalStore(live.subscribe, now, now);
}
