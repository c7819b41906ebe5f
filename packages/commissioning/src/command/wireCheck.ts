import type { DriveSettings } from '@yare/books';
import type { WiredInput, Wiring } from '@yare/contract';
import { InputJob } from '@yare/core';
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
  | { kind: 'swapped'; with: string }
  | { kind: 'missing' }
  | { kind: 'always closed' }
  | { kind: 'inverted' }
  | { kind: 'bouncing'; changes: number };

/** ms an input is watched on after it has answered: a bad contact chatters as long. */
export const watchFor = 1500;
/** One working of a contact changes it twice; more than this is chatter. */
const mostChanges = 3;

function askFor(device: WiredInput, job: InputJob): string {
  const ask = workOf(device, job);
  return job === InputJob.externalTrip ? `${ask} The drive trips by it; reset it afterwards.` : ask;
}

function workOf(device: WiredInput, job: InputJob): string {
  switch (device.device) {
    case 'push button':
      return `Press ${device.label} and hold it for a moment.`;
    case 'selector contact':
    case 'switch':
      return job === InputJob.enable ? `Turn ${device.label} off, then on again.` : `Turn the switch to ${device.label}, then back.`;
    case 'thermistor':
      return `Take the wire of ${device.label} off for a moment.`;
    default:
      return `Work ${device.label} by hand, or lift its wire for a moment.`;
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

const changesOf = (looks: readonly WireLook[], input: number): number =>
  looks.reduce((n, look, i) => n + (i > 0 && look.closed[input] !== looks[i - 1]?.closed[input] ? 1 : 0), 0);

/**
 * What an input's working says, from the looks since it was asked for; null while it is still watched.
 * @param given up: the person says that it was worked, and nothing answered
 */
export function wireVerdict(step: WireStep, steps: readonly WireStep[], looks: readonly WireLook[], givenUp = false): WireVerdict | null {
  const first = looks[0];
  const last = looks[looks.length - 1];
  if (!first || !last) return null;
  const changed = steps.filter((s) => changesOf(looks, s.input) > 0);
  const answeredAt = looks.find((look) => steps.some((s) => look.closed[s.input] !== first.closed[s.input]))?.at ?? null;
  const rest = first.closed[step.input] === true;
  const wanted = step.device.atRest === 'closed';
  if (answeredAt === null) {
    if (!givenUp) return null;
    return rest && !wanted ? { kind: 'always closed' } : { kind: 'missing' };
  }
  if (last.at - answeredAt < watchFor) return null;
  const own = changesOf(looks, step.input);
  if (own > mostChanges) return { kind: 'bouncing', changes: own };
  if (own > 0) return rest === wanted ? { kind: 'right' } : { kind: 'inverted' };
  const other = changed[0];
  return other ? { kind: 'swapped', with: other.terminal } : null;
}

/** What a verdict means at the terminals and what to do. */
export function wireText(step: WireStep, v: WireVerdict): string {
  const { terminal, device } = step;
  const what = device.label;
  switch (v.kind) {
    case 'right':
      return `${terminal} answers ${what}.`;
    case 'swapped':
      return `${what} answers at ${v.with} instead of ${terminal}: these two wires are changed over. Change them back, or change the jobs of the two inputs.`;
    case 'missing':
      return `${terminal} does not answer ${what}: its wire is cut, loose or not there. Look at both ends, and at the common of the inputs.`;
    case 'always closed':
      return `${terminal} has voltage all the time, whatever ${what} does: it is bridged or wired straight to the supply of the inputs.`;
    case 'inverted':
      return `${what} works the wrong way round: ${terminal} is ${device.atRest === 'closed' ? 'open' : 'closed'} while nobody works it. Its contact is of the other kind (${device.atRest === 'closed' ? 'one that opens is wanted' : 'one that closes is wanted'}).`;
    case 'bouncing':
      return `${terminal} changed ${v.changes} times for one working of ${what}: a bad contact or a loose wire. Tighten it, or replace the contact.`;
  }
}
