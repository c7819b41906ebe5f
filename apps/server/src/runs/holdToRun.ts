import { setImmediate, setTimeout } from 'node:timers/promises';
import { ControlWord } from '@yare/core';
import { settingFor } from '@yare/books';
import { holdLapse, type LiveSample, type TuneProgress } from '@yare/contract';
import type { Fleet, Station } from '../link/fleet';

export type RunPhase = 'taken' | 'running' | 'stopping' | 'ended';

/** What happens to a run is told here; the recorder and the sockets listen. */
export interface RunEvents {
  began(run: Run): Promise<void>;
  phase(run: Run, phase: RunPhase): void;
}

export interface Run {
  tag: string;
  client: string;
  author: string;
  press: string;
  frequency: number;
  lastHold: number;
  releasing: boolean;
  /** why it is stopping or has ended, in words */
  reason: string | null;
  recordingId: number | null;
  /** how measuring the motor goes, of a run that measures */
  tune: TuneProgress | null;
}

/** The link is refreshed this often while a run lasts, ms. */
const refreshEvery = 100;
/** A run whose motor will not come to rest is given up after this long, ms; the drive's own time-out then stops it. */
const longestStop = 15 * 60_000;
const longestFarewell = 5000;
/** Longest link time-out a drive may have for hold to run, s. */
const longestLinkTimeout = 1;

export class HoldRefused extends Error {}

/**
 * Hold to run: one holder per machine. A hold that is not repeated within {@link holdLapse} is a release; a release, a lost client,
 * a trip or a lost link ends the run, and nothing but a fresh press starts another. Should this process die, the drive's own link
 * time-out (checked to be at most 1 s before every run) stops the motor.
 */
export class HoldToRun {
  private readonly runs = new Map<string, Run>();
  /** presses that have ended: a late repeat of one never starts anything */
  private readonly spent = new Set<string>();
  private readonly loops = new Set<Promise<void>>();

  constructor(
    private readonly fleet: Fleet,
    private readonly events: RunEvents,
  ) {}

  runOf(tag: string): Run | undefined {
    return this.runs.get(tag);
  }

  /**
   * A press or its repeat, taken at once and without asking anybody: a hold that waited would be acted on after the hand is gone.
   * @throws HoldRefused with the sentence for the person pressing
   */
  hold(tag: string, client: string, author: string, press: string, frequency: number, tune?: TuneProgress['kind']): void {
    if (this.spent.has(press)) return;
    const run = this.runs.get(tag);
    if (run) {
      if (run.client === client && run.press === press) run.lastHold = performance.now();
      else throw new HoldRefused(`${run.author} has command of ${tag}. Wait until the motor stands and command is given back.`);
      return;
    }
    const station = this.fleet.station(tag);
    if (!station || station.latest.link === 'down') throw new HoldRefused(`There is no link to the drive of ${tag}. Nothing was started.`);
    const refusal = refusalFor(station.latest, tag);
    if (refusal) throw new HoldRefused(refusal);
    if (tune && !station.link.book.words.tune)
      throw new HoldRefused(`${station.link.book.family} cannot measure a motor. Learn from a recorded run instead.`);
    if (!tune && frequency === 0) throw new HoldRefused('Choose a frequency other than zero.');
    const begun: Run = {
      tag,
      client,
      author,
      press,
      frequency,
      lastHold: performance.now(),
      releasing: false,
      reason: null,
      recordingId: null,
      tune: tune ? { kind: tune, state: 'busy', progress: 0 } : null,
    };
    this.runs.set(tag, begun);
    const loop = this.drive(begun, station).finally(() => {
      this.runs.delete(tag);
      this.spend(press);
      this.loops.delete(loop);
    });
    this.loops.add(loop);
  }

  release(tag: string, client: string, press: string, reason = 'let go'): void {
    this.spend(press);
    const run = this.runs.get(tag);
    if (run && run.client === client && run.press === press && !run.releasing) {
      run.releasing = true;
      run.reason = reason;
    }
  }

  /** A client that is gone holds nothing any more. */
  clientGone(client: string): void {
    for (const run of this.runs.values()) if (run.client === client) this.release(run.tag, client, run.press, 'the device that held it is gone');
  }

  /** Stops everything in force and waits for standstill, but not long: past that the drives stop by their own link time-out. */
  async stop(): Promise<void> {
    for (const run of this.runs.values()) this.release(run.tag, run.client, run.press, 'the server is stopping');
    await Promise.race([Promise.all(this.loops), setTimeout(longestFarewell)]);
  }

  private spend(press: string): void {
    this.spent.add(press);
    if (this.spent.size > 2000) this.spent.delete(this.spent.values().next().value!);
  }

  private async drive(run: Run, station: Station): Promise<void> {
    const { link } = station;
    // what came in while this process itself stood still is read before anybody is called silent
    const pause = async () => {
      await setTimeout(refreshEvery);
      await setImmediate();
    };
    const held = () => {
      if (!run.releasing && performance.now() - run.lastHold > holdLapse) {
        run.releasing = true;
        run.reason = 'the hold was not repeated: screen hidden, page closed or link lost';
      }
      return !run.releasing;
    };
    try {
      const timeout = settingFor(link.book, link.size, 'linkTimeout');
      const inForce = await link.readSetting(timeout);
      if (inForce > longestLinkTimeout) {
        run.reason = `${timeout.name} ${timeout.code} is ${inForce} s in the drive. Hold to run needs ${longestLinkTimeout} s or less, so that a lost link stops the motor in time. Write ${longestLinkTimeout} s first.`;
        return;
      }
      if (!held()) return;
      await link.takeCommand();
      station.holder = `${run.author}, ${run.tune ? 'measuring' : 'hold to run'}`;
      station.measuring = run.tune !== null;
      station.fast = true;
      await this.events.began(run);
      this.events.phase(run, 'taken');
      for (const word of [ControlWord.shutdown, ControlWord.switchOn]) {
        await link.command(word, 0);
        await pause();
      }
      if (run.tune && held()) await link.beginTune(run.tune.kind);
      if (held()) this.events.phase(run, 'running');
      while (held()) {
        await link.command(ControlWord.enableOperation, run.tune ? 0 : run.frequency);
        if (run.tune) await this.measuring(run, run.tune, link);
        if (station.latest.state === 'tripped') {
          run.releasing = true;
          run.reason = `the drive tripped: ${station.latest.trip?.name ?? 'no code'}`;
        }
        await pause();
      }
      station.measuring = false;
      this.events.phase(run, 'stopping');
      await this.rampDown(link, station, pause);
    } catch {
      run.reason = 'the link to the drive was lost; the drive stops the motor by its own link time-out';
    } finally {
      await link.giveCommand().catch(() => undefined);
      station.holder = null;
      station.measuring = false;
      this.events.phase(run, 'ended');
    }
  }

  /** One look at a drive that measures its motor: tells how it goes, and ends the run when it is done or has failed. */
  private async measuring(run: Run, tune: TuneProgress, link: Station['link']): Promise<void> {
    const { state, progress, sentence } = await link.readTune();
    const moved = progress !== tune.progress;
    Object.assign(tune, { state, progress });
    if (state === 'busy') {
      if (moved) this.events.phase(run, 'running');
      return;
    }
    run.releasing = true;
    run.reason = state === 'done' ? 'measured' : (sentence ?? 'the drive gives no reason');
  }

  private async rampDown(link: Station['link'], station: Station, pause: () => Promise<unknown>): Promise<void> {
    const end = performance.now() + longestStop;
    let standing = 0;
    while (performance.now() < end && standing < 3) {
      await link.command(ControlWord.switchOn, 0);
      await pause();
      standing = station.latest.state === 'running' || station.latest.state === 'stopping' ? 0 : standing + 1;
    }
    await link.command(ControlWord.shutdown, 0);
  }
}

function refusalFor(s: LiveSample, tag: string): string | null {
  if (s.state === 'tripped') return `${tag} is tripped: ${s.trip?.name ?? 'no code'}. Find out why before it turns again.`;
  if (s.state === 'running' || s.state === 'stopping') return `${tag} is already turning (command: ${s.command}). Wait until it stands.`;
  if (s.state === 'asleep') return `${tag} is asleep and may wake by itself. Turn its selector to off first.`;
  if (s.state === 'held') return `The drive of ${tag} is held: a permissive is missing. Nothing was started.`;
  return null;
}
