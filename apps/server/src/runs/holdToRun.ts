import { setImmediate, setTimeout } from 'node:timers/promises';
import { GuidedRun } from '@yare/commissioning';
import { ControlWord } from '@yare/core';
import { holdLapse, longestLinkTimeout, longestStall, type StopCause, type TuneProgress } from '@yare/contract';
import { Claimed, type Claims } from '../claims';
import { DriveRefusal, LinkDown } from '../link/driveLink';
import type { Fleet, Station } from '../link/fleet';
import { isDatabaseAway, ProblemError } from '../problem';
import { leadRun, refuseGuide, type Led } from './leadRun';
import { HoldRefused, reasons, refusalFor, RunEnded, type HoldTiming, type Press, type Run, type RunEvents } from './run';

/** The link is refreshed this often while a run lasts, ms. */
const refreshEvery = 100;
/** The link time-out in the drive is read again at every so many refreshes. */
const timeoutEvery = 2;
/** How often this process looks whether it stood still itself, ms. */
const beatEvery = 50;
/** A run whose motor will not come to rest is given up after this long, ms; the drive's own time-out then stops it. */
const longestStop = 15 * 60_000;
const longestFarewell = 5000;
/** A drive that does not run this long after the press will not, ms. */
const longestStart = 6000;
/** The record must have begun within this, ms, or the press is over. */
const longestBegin = 3000;
/** After a lost link command is given back as soon as the drive answers again within this, ms. */
const longestGivingBack = 1500;

/**
 * Hold to run: one holder per machine, on the machine's claim. A hold that is not repeated within {@link holdLapse} is a release; a
 * release, a lost client, a trip, a lost link, a link time-out above {@link longestLinkTimeout}, another master on the link, a lost
 * database or a stall of this process ends the run, and nothing but a fresh press starts another. Should this process die, the drive's own link
 * time-out stops the motor.
 */
export class HoldToRun {
  private readonly runs = new Map<string, Run>();
  private readonly loops = new Set<Promise<void>>();
  private next = 1;
  private beat = performance.now();
  private readonly heart: ReturnType<typeof setInterval>;

  constructor(
    private readonly fleet: Fleet,
    private readonly claims: Claims,
    private readonly events: RunEvents,
    private readonly timing: HoldTiming = { lapse: holdLapse, stall: longestStall },
  ) {
    // timers come before what lies in the sockets: after a stall this runs before any repeat that waited there
    this.heart = setInterval(() => this.noticeStall(), beatEvery);
  }

  /** Ends every run if this process stood still since the last beat. */
  private noticeStall(): void {
    const now = performance.now();
    if (now - this.beat > beatEvery + this.timing.stall) this.letGoOfAll('stalled', reasons.stalled);
    this.beat = now;
  }

  runOf(tag: string): Run | undefined {
    return this.runs.get(tag);
  }

  /**
   * A fresh press, taken at once and without asking anybody: a press that waited would be acted on after the hand is gone.
   * @throws HoldRefused with the sentence for the person pressing
   */
  begin(press: Press): Run {
    const { tag, author, frequency, tune, guide } = press;
    const station = this.fleet.station(tag);
    if (!station || station.latest.link === 'down') throw new HoldRefused('no link', `There is no link to the drive of ${tag}. Nothing was started.`);
    let giveBack: () => void;
    try {
      giveBack = this.claims.take(tag, author, tune ? 'tune' : 'hold');
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error;
      throw new HoldRefused(error instanceof Claimed ? 'claimed' : 'not alone', error.message);
    }
    try {
      const refusal = refusalFor(station, tag);
      if (refusal) throw new HoldRefused('not ready', refusal);
      if (tune && !station.link.book.words.tune)
        throw new HoldRefused('cannot measure', `${station.link.book.family} cannot measure a motor. Fit the model to a recorded run instead.`);
      if (guide) refuseGuide(frequency, guide, tune);
      if (!tune && frequency === 0) throw new HoldRefused('no frequency', 'Choose a frequency other than zero.');
    } catch (error) {
      giveBack();
      throw error;
    }
    const run: Run = {
      ...press,
      id: this.next++,
      lastHold: performance.now(),
      begunAt: performance.now(),
      seenRunning: false,
      losses: 0,
      releasing: false,
      cause: null,
      reason: null,
      recordingId: null,
      tune: tune ? { kind: tune, state: 'busy', progress: 0 } : null,
      guided: guide ? new GuidedRun(frequency, guide) : null,
    };
    this.runs.set(tag, run);
    const loop = this.drive(run, station).finally(() => {
      this.runs.delete(tag);
      giveBack();
      this.loops.delete(loop);
    });
    this.loops.add(loop);
    return run;
  }

  private living(client: string, ticket: string): Run | undefined {
    for (const run of this.runs.values()) if (run.client === client && run.ticket === ticket) return run;
    return undefined;
  }

  /** The hand is still there. @param at when it was said, on this process's clock, ms; late ones count from when they were said */
  repeat(client: string, ticket: string, at: number): void {
    const run = this.living(client, ticket);
    if (run) run.lastHold = Math.max(run.lastHold, at);
  }

  /** Only the connection that began a run releases it. */
  release(client: string, ticket: string): void {
    const run = this.living(client, ticket);
    if (run) this.end(run, 'let go', 'let go');
  }

  /** A client that is gone holds nothing any more. */
  clientGone(client: string, cause: 'gone' | 'put out' = 'gone'): void {
    for (const run of this.runs.values()) if (run.client === client) this.end(run, cause, reasons[cause]);
  }

  /** Somebody stops whoever holds a machine to run. False where nobody does. */
  stopRun(tag: string, who: string): boolean {
    const run = this.runs.get(tag);
    if (run) this.end(run, 'stopped', `${who} stopped it`);
    return run !== undefined;
  }

  /** Lets go of every run at once. */
  letGoOfAll(cause: StopCause, reason: string): void {
    for (const run of this.runs.values()) this.end(run, cause, reason);
  }

  /** Stops everything in force and waits for standstill, but not long: past that the drives stop by their own link time-out. */
  async stop(): Promise<void> {
    this.letGoOfAll('server stopping', reasons['server stopping']);
    await Promise.race([Promise.all(this.loops), setTimeout(longestFarewell)]);
    clearInterval(this.heart);
  }

  /** The first cause counts, unless what came after is graver. */
  private end(run: Run, cause: StopCause, reason: string, graver = false): void {
    if (run.releasing && !graver) return;
    run.releasing = true;
    run.cause = cause;
    run.reason = reason;
  }

  /** Whether a run goes on at this moment. */
  private held(run: Run): boolean {
    // the timer that brings us here may have come before the heart's: who stood still calls nobody silent
    this.noticeStall();
    if (performance.now() - run.lastHold > this.timing.lapse) this.end(run, 'silent', reasons.silent);
    return !run.releasing;
  }

  private async drive(run: Run, station: Station): Promise<void> {
    let taken = false;
    try {
      await this.prepare(run, station);
      if (this.held(run)) {
        taken = true;
        await this.takeCommand(run, station);
        for (let i = 0; this.held(run); i++) await this.refresh(run, station, i);
      }
    } catch (error) {
      this.endedBy(run, error, taken);
    }
    try {
      station.measuring = false;
      if (taken) {
        this.events.phase(run, 'stopping');
        await this.rampDown(station);
      }
    } catch (error) {
      this.endedBy(run, error, true);
    } finally {
      if (taken) await this.giveBack(run, station);
      // the next press is judged by what is so now
      if (taken && run.cause !== 'link lost') await this.fleet.ask(station).catch(() => undefined);
      station.holder = null;
      station.fast = false;
      this.events.phase(run, 'ended');
    }
  }

  /** Everything that must be so before command is taken. @throws RunEnded when it is not */
  private async prepare(run: Run, station: Station): Promise<void> {
    // the record wants its samples from the beginning
    station.fast = true;
    await this.refuseLongTimeout(station);
    await this.beginRecord(run);
    // what was known a moment ago may be a second old
    await this.fleet.ask(station);
    const refusal = refusalFor(station, run.tag);
    if (refusal) throw new RunEnded('not ready', refusal);
  }

  private async takeCommand(run: Run, station: Station): Promise<void> {
    const { link } = station;
    run.losses = link.losses;
    await link.takeCommand();
    station.holder = `${run.author}, ${run.tune ? 'measuring' : 'hold to run'}`;
    station.measuring = run.tune !== null;
    this.events.phase(run, 'taken');
    for (const word of [ControlWord.shutdown, ControlWord.switchOn]) {
      await link.command(word, 0);
      await this.pause();
    }
    if (run.tune && this.held(run)) await this.beginTune(run.tune, station);
    if (this.held(run)) this.events.phase(run, 'running');
  }

  private async beginTune({ kind }: TuneProgress, { link }: Station): Promise<void> {
    try {
      await link.beginTune(kind);
    } catch (error) {
      if (!(error instanceof DriveRefusal)) throw error;
      throw new RunEnded('not measured', `the drive refuses to measure (Modbus exception ${error.exception})`);
    }
  }

  private async beginRecord(run: Run): Promise<void> {
    const late = Symbol('late');
    const outcome = await Promise.race([this.events.began(run), setTimeout(longestBegin, late, { ref: false })]);
    if (outcome === late) throw new RunEnded('database', 'the database does not answer, so nothing could be recorded; nothing was started');
  }

  /** One refresh of the command while the hand is there, and a look at everything that would end the run. */
  private async refresh(run: Run, station: Station, count: number): Promise<void> {
    const { link } = station;
    const ours = await link.commandIsOurs();
    // whoever asked it, a drive that left a question unanswered is not in hand
    if (link.losses !== run.losses) throw new LinkDown();
    if (!ours) throw new RunEnded('other master', 'somebody else on the link commands this drive: its control word or reference is not ours');
    // asked once more where it counts: what was awaited took its time
    if (!this.held(run)) return;
    await link.command(ControlWord.enableOperation, run.tune ? 0 : (run.guided?.frequency ?? run.frequency));
    if (run.guided) this.ledOn(run, leadRun(run.guided, station.latest));
    if (run.tune) await this.measuring(run, run.tune, link);
    this.endWhenStopped(run, station);
    if (count % timeoutEvery === 0) await this.refuseLongTimeout(station);
    const lost = this.events.recordLost(run);
    if (lost) this.end(run, 'database', lost);
    await this.pause();
  }

  private ledOn(run: Run, { state, reason }: Led): void {
    if (state === 'out of band') return this.end(run, state, reason);
    if (state === 'on') this.events.phase(run, 'running');
  }

  /** Ends a run whose drive does not run, or no longer: nothing may start it again but a fresh press. */
  private endWhenStopped(run: Run, { latest }: Station): void {
    const { state } = latest;
    if (state === 'tripped') return this.end(run, 'tripped', `the drive tripped: ${latest.trip?.name ?? 'no code'}`);
    // a drive that measures says by itself how it goes, and a silent one is seen at the next refresh
    if (run.tune || state === 'no link') return;
    if (state === 'running' || state === 'stopping') run.seenRunning = true;
    else if (run.seenRunning || performance.now() - run.begunAt > longestStart)
      this.end(
        run,
        'not ready',
        state === 'held'
          ? 'the drive stopped by itself: a permissive is missing'
          : 'the drive does not run although it is asked to; something other than this button stopped it',
      );
  }

  /** @throws RunEnded when the drive would turn on for more than a second without its server */
  private async refuseLongTimeout({ link }: Station): Promise<void> {
    const timeout = link.settings.need('linkTimeout');
    const inForce = await link.readSetting(timeout);
    if (inForce > longestLinkTimeout)
      throw new RunEnded(
        'time-out too long',
        `${timeout.name} ${timeout.code} is ${inForce} s in the drive. Hold to run needs ${longestLinkTimeout} s or less, so that a lost link stops the motor in time. Write ${longestLinkTimeout} s first`,
      );
  }

  /** Waits until the next refresh. What came in while this process itself stood still is read before anybody is called silent. */
  private async pause(): Promise<void> {
    await setTimeout(refreshEvery);
    await setImmediate();
  }

  /** What an error means for a run. */
  private endedBy(run: Run, error: unknown, taken: boolean): void {
    if (error instanceof RunEnded) return this.end(run, error.cause_, error.message, true);
    if (error instanceof DriveRefusal && run.releasing) return;
    if (error instanceof DriveRefusal && taken)
      return this.end(
        run,
        'other master',
        'the drive no longer takes commands from here: somebody else on the link took command or gave it back, or the drive ended it by its own link time-out',
      );
    if (error instanceof DriveRefusal)
      return this.end(run, 'fault', `what answers refuses (Modbus exception ${error.exception}): nothing was started`);
    // before command was taken nothing has turned
    const nothing = taken ? '' : '; nothing was started';
    if (isDatabaseAway(error)) return this.end(run, 'database', `the database does not answer, so nothing could be recorded${nothing}`);
    if (!(error instanceof LinkDown)) {
      this.events.fault(run, error);
      return this.end(run, 'fault', `the server failed on this${nothing}`, true);
    }
    // a link that was lost because this process stood still is no fault of the link
    if (run.cause === 'stalled') return;
    const stops = taken ? '; the drive stops the motor by its own link time-out' : nothing;
    this.end(run, 'link lost', `the link to the drive was lost${stops}`, true);
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
    this.end(run, state === 'done' ? 'measured' : 'not measured', state === 'done' ? 'measured' : (sentence ?? 'the drive gives no reason'));
  }

  /** Commands a ramp to standstill. Should another master go on commanding, command is given back, which makes the drive stop by itself. */
  private async rampDown(station: Station): Promise<void> {
    const { link } = station;
    const end = performance.now() + longestStop;
    let standing = 0;
    for (let i = 0; performance.now() < end && standing < 3; i++) {
      if (i > 0 && !(await link.commandIsOurs())) throw new RunEnded('other master', 'somebody else on the link commands this drive');
      await link.command(ControlWord.switchOn, 0);
      await this.pause();
      standing = station.latest.state === 'running' || station.latest.state === 'stopping' ? 0 : standing + 1;
    }
    await link.command(ControlWord.shutdown, 0);
  }

  /** Gives command back; after a lost link for as long as the drive may still hold it, so that one that comes back is told to stop. */
  private async giveBack(run: Run, { link }: Station): Promise<void> {
    const end = performance.now() + (run.cause === 'link lost' ? longestGivingBack : 0);
    do {
      const given = await link.giveCommand().then(
        () => true,
        (error) => error instanceof DriveRefusal,
      );
      if (given) return;
      await this.pause();
    } while (performance.now() < end);
  }
}
