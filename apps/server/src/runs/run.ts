import { runBlock, type GuidedRun, type RunBlock } from '@yare/commissioning';
import type { LiveSample, RefusalCode, RunGuide, StopCause, TuneProgress } from '@yare/contract';
import type { Station } from '../link/fleet';

export type RunPhase = 'taken' | 'running' | 'stopping' | 'ended';

/** What happens to a run is told here; the recorder and the sockets listen. */
export interface RunEvents {
  /** before command is taken. @throws when nothing can be recorded; {@link RunEnded} says why in its own words */
  began(run: Run): Promise<void>;
  phase(run: Run, phase: RunPhase): void;
  /** why the record cannot go on at this moment; null when it can */
  recordLost(run: Run): string | null;
  /** what nobody foresaw, for the log */
  fault(run: Run, error: unknown): void;
}

/** A press as it comes in. */
export interface Press {
  tag: string;
  client: string;
  author: string;
  /** spent by this press; the repeats and the release of it carry it */
  ticket: string;
  frequency: number;
  tune?: TuneProgress['kind'];
  /** what the run is led through */
  guide?: RunGuide;
}

export interface Run extends Omit<Press, 'tune' | 'guide'> {
  /** the run's public number */
  id: number;
  lastHold: number;
  begunAt: number;
  /** the drive has said that it runs */
  seenRunning: boolean;
  /** of the link, when command was taken */
  losses: number;
  releasing: boolean;
  /** why it is stopping or has ended, as a code and as a sentence */
  cause: StopCause | null;
  reason: string | null;
  recordingId: number | null;
  /** how measuring the motor goes, of a run that measures */
  tune: TuneProgress | null;
  /** what leads it through a step or several speeds; null for any other run */
  guided: GuidedRun | null;
}

/** How long a hand may be silent, and this process stand still, ms. Only tests on busy machines have others than the contract's. */
export interface HoldTiming {
  lapse: number;
  stall: number;
}

export class HoldRefused extends Error {
  constructor(
    readonly code: RefusalCode,
    sentence: string,
  ) {
    super(sentence);
  }
}

/** Ends a run with its cause. */
export class RunEnded extends Error {
  constructor(
    readonly cause_: StopCause,
    sentence: string,
  ) {
    super(sentence);
  }
}

/** Why nothing may be started at a machine as its drive was last seen; null when it may. */
export function refusalFor({ latest: s }: Pick<Station, 'latest'>, tag: string): string | null {
  const block = runBlock(s);
  return block && sentences[block](tag, s);
}

const sentences: Record<RunBlock, (tag: string, s: LiveSample) => string> = {
  'no link': (tag) => `There is no link to the drive of ${tag}. Nothing was started.`,
  tripped: (tag, s) => `${tag} is tripped: ${s.trip?.name ?? 'no code'}. Find out why before it turns again.`,
  turning: (tag, s) => `${tag} is already turning (command: ${s.command}). Wait until it stands.`,
  asleep: (tag) => `${tag} is asleep and may wake by itself. Turn its selector to off first.`,
  held: (tag) => `The drive of ${tag} is held: a permissive is missing. Nothing was started.`,
  'other master': (tag) =>
    `Somebody else on the link has command of ${tag}: a controller or another program. It must give command back before anything is started here.`,
};

/** Why a run ends that nobody let go, in words. */
export const reasons = {
  silent: 'the hold was not repeated: screen hidden, page closed or link lost',
  gone: 'the device that held it is gone',
  'put out': 'the device that held it was removed',
  stalled: 'the server stood still for a moment and could not tell whether the hand was still there',
  'server stopping': 'the server is stopping',
} as const;
