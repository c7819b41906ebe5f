import type { GuidedRun } from '@yare/commissioning';
import type { LiveSample, RunGuide } from '@yare/contract';
import { HoldRefused, type Press } from './run';

/** Hz within which the output of a led run stands where it was asked to. */
const reachedWithin = 0.5;

/** @throws HoldRefused for what no machine should be led through */
export function refuseGuide(frequency: number, guide: RunGuide, tune: Press['tune']): void {
  if (tune) throw new HoldRefused('cannot measure', 'A run measures the motor or is led through speeds, not both.');
  if (guide.kind === 'speeds' && guide.speeds[0] !== frequency)
    throw new HoldRefused('no frequency', 'The first of the speeds is not the one that was asked for. Nothing was started.');
  const asked =
    guide.kind === 'speeds' ? guide.speeds : guide.kind === 'step' ? [frequency + guide.by] : [frequency + guide.by, frequency - guide.by];
  if (asked.some((f) => f * frequency <= 0))
    throw new HoldRefused('no frequency', 'The step would stop the machine or turn it round. Choose a smaller one.');
}

/** How a led run stands after a look: as before, one on, or at an end of the sensor's range with the sentence for it. */
export type Led = { state: 'as before' | 'on'; reason?: undefined } | { state: 'out of band'; reason: string };

/** Leads a run on by what the drive said last. */
export function leadRun(guide: GuidedRun, latest: LiveSample): Led {
  if (latest.link !== 'up') return { state: 'as before' };
  const reached = Math.abs(latest.outputFrequency - guide.frequency) < reachedWithin;
  const state = guide.look(latest.at / 1000, reached, latest.feedback);
  if (state !== 'out of band') return { state };
  return { state, reason: `the feedback came to ${latest.feedback.toFixed(1)} % of the sensor’s range, too near to its end` };
}
