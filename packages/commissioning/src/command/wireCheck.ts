import type { DriveSettings } from '@yare/books';
import type { WiredInput, Wiring } from '@yare/contract';
import { InputJob } from '@yare/core';
import { say } from '@yare/words/command';
import { inputIds } from './words';
import { expectedAt } from './jobNames';

/** One input to be tried: what hangs there and what to do with it. */
export interface WireStep {
  /** input, counted from 0, and its terminal */
  input: number;
  terminal: string;
  job: InputJob;
  device: WiredInput;
  ask: string;
}

/** The inputs as a drive told them at a moment, ms. */
export interface WireLook {
  at: number;
  closed: readonly boolean[];
}

/** What was found at one input. */
export type WireVerdict =
  | { kind: 'right' }
  /** another input answered, and this one did not */
  | { kind: 'elsewhere'; with: string }
  | { kind: 'missing' }
  | { kind: 'always closed' }
  | { kind: 'inverted' }
  | { kind: 'bouncing'; changes: number }
  /** nobody can work it now, as a flow switch without flow: neither right nor wrong */
  | { kind: 'skipped' };

/** What was found, by input counted from 0. */
export type WireVerdicts = Readonly<Record<number, WireVerdict>>;

/** ms everything has to stand still before it can be said to be at rest, and to stand again before a working of a contact is over: a bad one chatters as long. */
export const restFor = 800;
export const watchFor = 1500;
/** A contact that is worked once changes its input twice; more than this is chatter. */
const mostChanges = 3;

/** How the guided check stands at one input. */
export interface WireState {
  /** waits for everything to be at rest, for the contact to be worked, for it to be back, or has seen the whole movement */
  stage: 'rest' | 'ready' | 'moving' | 'over';
  /** as it stands when nobody works anything; null before that is known */
  rest: readonly boolean[] | null;
  last: readonly boolean[];
  /** when an input last changed, ms */
  since: number;
  /** changes of each input since it was asked for */
  changes: readonly number[];
  /** how often a person has said that it was worked and nothing answered */
  nothing: number;
  /** a person has said that nobody works anything, and it has not stood still for long enough yet */
  said: boolean;
}

export const wireBegins: WireState = { stage: 'rest', rest: null, last: [], since: 0, changes: [], nothing: 0, said: false };

/** Inputs that do not stand as what hangs there should while nobody works it. */
export const notAtRest = (steps: readonly WireStep[], { last }: WireState): WireStep[] =>
  steps.filter((s) => last[s.input] !== undefined && last[s.input] !== (s.device.atRest === 'closed'));

const asked = (s: WireState, rest: readonly boolean[]): WireState => ({
  ...s,
  ...{ stage: 'ready', rest, changes: rest.map(() => 0), nothing: 0, said: false },
});

/**
 * A person says that nobody works anything: no button, the selector off, every switch as it usually stands. Only a person can: a contact of the other
 * kind that is worked looks as one of the right kind that is not. An input that stands otherwise even so is what was found there.
 * Said too soon after something moved, it counts once everything has stood still.
 */
export const takenAsRest = (s: WireState, at: number): WireState =>
  s.last.length > 0 && at - s.since >= restFor ? asked(s, s.last) : { ...s, said: true };

/** The next contact is asked for: everything stands as it stood. */
export const askNext = (s: WireState): WireState => (s.rest ? asked(s, s.rest) : s);

/** One look at the inputs. Nothing is judged before a contact was worked and everything stands again as it stood before. */
export function lookAtWires(s: WireState, { at, closed }: WireLook, steps: readonly WireStep[]): WireState {
  const moved = steps.filter((x) => s.last[x.input] !== undefined && s.last[x.input] !== closed[x.input]);
  const since = moved.length > 0 || s.last.length === 0 ? at : s.since;
  const now = { ...s, last: closed, since };
  if (s.stage === 'rest' || s.rest === null) {
    // what moves once it was said is a hand at work: it is to be said again
    const said = s.said && (moved.length === 0 || s.last.length === 0);
    return said && at - since >= restFor ? asked(now, closed) : { ...now, stage: 'rest', said };
  }
  const changes = moved.length > 0 ? s.changes.map((n, i) => n + (moved.some((x) => x.input === i) ? 1 : 0)) : s.changes;
  const { rest } = s;
  const back = steps.every((x) => closed[x.input] === rest[x.input]);
  const any = steps.some((x) => (changes[x.input] ?? 0) > 0);
  return { ...now, changes, stage: !any ? 'ready' : back && at - since >= watchFor ? 'over' : 'moving' };
}

/** A person has worked it and nothing answered: asked for once more before anything is said of it. */
export const nothingAnswered = (s: WireState): WireState => ({ ...s, nothing: s.nothing + 1 });

/** What a whole movement says of an input; null while it is not over, or when it tells nothing because several others moved. */
export function wireVerdict(step: WireStep, steps: readonly WireStep[], s: WireState): WireVerdict | null {
  const rest = s.rest?.[step.input] === true;
  if (s.stage === 'ready' && s.nothing > 1) return rest ? { kind: 'always closed' } : { kind: 'missing' };
  if (s.stage !== 'over') return null;
  const own = s.changes[step.input] ?? 0;
  if (own > mostChanges) return { kind: 'bouncing', changes: own };
  if (own > 0) return rest === (step.device.atRest === 'closed') ? { kind: 'right' } : { kind: 'inverted' };
  const others = steps.filter((x) => (s.changes[x.input] ?? 0) > 0);
  return others.length === 1 && others[0] ? { kind: 'elsewhere', with: others[0].terminal } : null;
}

/** Whether a second input says the same from its side: only then are two wires changed over, and not the wrong contact worked. */
export const changedOver = (step: WireStep, steps: readonly WireStep[], found: WireVerdicts): boolean => {
  const own = found[step.input];
  const other = own?.kind === 'elsewhere' ? steps.find((x) => x.terminal === own.with) : undefined;
  const theirs = other && found[other.input];
  return theirs?.kind === 'elsewhere' && theirs.with === step.terminal;
};

function askFor(device: WiredInput, job: InputJob): string {
  const ask = workOf(device, job);
  return job === InputJob.externalTrip ? say.theDriveTripsByIt({ ask }) : ask;
}

function workOf(device: WiredInput, job: InputJob): string {
  switch (device.device) {
    case 'push button':
      return say.pressAndHoldItFor({ label: device.label });
    case 'selector contact':
    case 'switch':
      return job === InputJob.enable ? say.turnOffThenOnAgain({ label: device.label }) : say.turnTheSwitchToThen({ label: device.label });
    case 'thermistor':
      return say.takeTheWireOfOff({ label: device.label });
    default:
      return say.workByHandOrLift({ label: device.label });
  }
}

/** What is taken to hang at each input that has a job: as it was drawn, or as its job makes one expect. */
export function wiredInputs(
  d: DriveSettings,
  wiring: Pick<Wiring, 'inputs'>,
): Array<{ input: number; terminal: string; job: InputJob; device: WiredInput }> {
  const { jobs, localJobs, externalTripOpenIsHealthy } = d.controls().command;
  return inputIds(d).flatMap((terminal, input) => {
    const job = jobs[input] || localJobs[input] || InputJob.notUsed;
    if (job === InputJob.notUsed) return [];
    return [{ input, terminal, job, device: wiring.inputs[terminal] ?? expectedAt(job, externalTripOpenIsHealthy) }];
  });
}

/** The guided check: every input that has a job, in the order of the terminals. */
export const wireSteps = (d: DriveSettings, wiring: Pick<Wiring, 'inputs'>): WireStep[] =>
  wiredInputs(d, wiring).map((w) => ({ ...w, ask: askFor(w.device, w.job) }));

/** What a verdict means at the terminals and what to do. */
export function wireText(step: WireStep, v: WireVerdict, steps: readonly WireStep[], found: WireVerdicts): string {
  const { terminal, device } = step;
  const what = device.label;
  switch (v.kind) {
    case 'right':
      return say.answers({ terminal, what });
    case 'skipped':
      return say.wasNotTriedCouldNot({ terminal, what });
    case 'elsewhere': {
      const answers = say.answersAtInsteadOf({ what, withText: v.with, terminal });
      if (changedOver(step, steps, found)) return say.theseTwoWiresAreChanged({ answers });
      const other = found[steps.find((x) => x.terminal === v.with)?.input ?? -1];
      return other
        ? say.andWasFoundRightWork({ answers, withText: v.with, kind: other.kind, what })
        : say.whetherItsWireIsChanged({ answers, withText: v.with });
    }
    case 'missing':
      return say.doesNotAnswerItsWire({ terminal, what });
    case 'always closed':
      return say.hasVoltageAllTheTime({ terminal, what });
    case 'inverted':
      return say.worksTheWrongWayRound({ what, terminal, atRest: device.atRest });
    case 'bouncing':
      return say.changedTimesForOneWorking({ terminal, changes: v.changes, what });
  }
}
