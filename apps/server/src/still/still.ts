import { setTimeout } from 'node:timers/promises';
import { ControlWord } from '@yare/core';
import { stillLapse } from '@yare/contract';
import { steadyNow } from '../clock';
import type { Claims } from '../claims';
import { DriveRefusal, LinkDown } from '../link/driveLink';
import type { Fleet, Station } from '../link/fleet';
import { ProblemError } from '../problem';

/** The link is refreshed this often while a machine is kept still, ms. */
const refreshEvery = 100;

interface Kept {
  who: string;
  /** when it was last asked for, on this process's clock, ms */
  asked: number;
  over: boolean;
  done: Promise<void>;
}

/**
 * Keeps a machine still while its contacts are tried: command is taken at rest and nothing is enabled, so that a start at the terminals is
 * seen and does nothing. Who asked has to go on asking; past {@link stillLapse} command goes back, and a start that is given then has to be
 * given anew.
 */
export class Still {
  private readonly kept = new Map<string, Kept>();

  constructor(
    private readonly fleet: Fleet,
    private readonly claims: Claims,
    private readonly clock: () => number = () => performance.now(),
  ) {}

  /**
   * Begins to keep a machine still, or goes on with it.
   * @throws Claimed when somebody else acts on it, ProblemError 409 when it turns, what the link throws
   */
  async keep(tag: string, who: string): Promise<void> {
    const now = this.kept.get(tag);
    const station = this.fleet.stationOf(tag);
    if (now && now.who === who && !now.over) {
      now.asked = this.clock();
      station.stillUntil = steadyNow() + stillLapse;
      return;
    }
    const giveBack = this.claims.take(tag, who, 'wires');
    try {
      const live = await this.fleet.ask(station);
      if (live.state === 'running' || live.state === 'stopping' || live.state === 'asleep')
        throw new ProblemError(409, 'Turning', `${tag} turns, or may wake by itself. Stop it first: wires are tried with the motor still.`);
      if (live.holder === 'other')
        throw new ProblemError(409, 'Another master', `Another master on the link has command of ${tag}. Nothing was done.`);
      station.holder = who;
      await station.link.takeCommand();
    } catch (error) {
      station.holder = null;
      giveBack();
      throw error;
    }
    station.stillUntil = steadyNow() + stillLapse;
    const kept: Kept = { who, asked: this.clock(), over: false, done: Promise.resolve() };
    this.kept.set(tag, kept);
    kept.done = this.hold(station, kept).finally(() => {
      station.holder = null;
      station.stillUntil = null;
      station.fast = false;
      this.kept.delete(tag);
      giveBack();
    });
  }

  private async hold(station: Station, kept: Kept): Promise<void> {
    station.fast = true;
    try {
      while (!kept.over && this.clock() - kept.asked < stillLapse) {
        await this.refresh(station, kept);
        await setTimeout(refreshEvery);
      }
    } catch {
      // somebody else has command by now, or it turns: nothing is kept still here any more
    } finally {
      kept.over = true;
      await station.link.giveCommand().catch(() => undefined);
    }
  }

  /**
   * Says once more that it stands. One answer that is lost ends nothing: the next is asked for at once, and command that went back
   * meanwhile is taken again. Until then nobody is told that it is kept still.
   * @throws DriveRefusal when command cannot be had again
   */
  private async refresh(station: Station, kept: Kept): Promise<void> {
    try {
      await station.link.command(ControlWord.shutdown, 0).catch(async (error: unknown) => {
        if (!(error instanceof DriveRefusal)) throw error;
        station.stillUntil = null;
        await station.link.takeCommand();
        await station.link.command(ControlWord.shutdown, 0);
      });
      station.stillUntil = steadyNow() + stillLapse - (this.clock() - kept.asked);
    } catch (error) {
      if (!(error instanceof LinkDown)) throw error;
      station.stillUntil = null;
    }
  }

  /**
   * Gives command back, and tells once it is with the machine again; false when it was not taken.
   * @param who null for whoever took it
   * @throws ProblemError 409 when somebody else did: a finger may be on a button that starts nothing so far
   */
  async end(tag: string, who: string | null): Promise<boolean> {
    const kept = this.kept.get(tag);
    if (!kept) return false;
    if (who !== null && kept.who !== who)
      throw new ProblemError(
        409,
        'Claimed',
        `${kept.who} is trying the wires of ${tag}. It goes back to its panel a minute after that page is left.`,
      );
    kept.over = true;
    await kept.done;
    return true;
  }

  async stop(): Promise<void> {
    await Promise.all([...this.kept.keys()].map((tag) => this.end(tag, null)));
  }
}
