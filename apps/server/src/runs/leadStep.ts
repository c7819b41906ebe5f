import { leavesBand, type StepGuide } from '@yare/commissioning';
import type { LiveSample } from '@yare/contract';
import { HoldRefused, type Press } from './run';

/** Hz within which the output of a step test stands where it was asked to. */
const reachedWithin = 0.5;

/** @throws HoldRefused for a step that no machine should make */
export function refuseStep(frequency: number, step: number, tune: Press['tune']): void {
  if (tune) throw new HoldRefused('cannot measure', 'A run measures the motor or makes a step, not both.');
  if ((frequency + step) * frequency <= 0)
    throw new HoldRefused('no frequency', 'The step would stop the machine or turn it round. Choose a smaller one.');
}

/** How a step test stands after a look: as before, one on, or at an end of the sensor's range with the sentence for it. */
export type StepLed = { state: 'as before' | 'on'; reason?: undefined } | { state: 'out of band'; reason: string };

/** Leads a step test on by what the drive said last. @param frequency Hz it began at */
export function leadStep(frequency: number, guide: StepGuide, latest: LiveSample): StepLed {
  if (latest.link !== 'up') return { state: 'as before' };
  const reached = Math.abs(latest.outputFrequency - (frequency + guide.added)) < reachedWithin;
  if (reached && leavesBand(latest.feedback))
    return { state: 'out of band', reason: `the feedback came to ${latest.feedback.toFixed(1)} % of the sensor’s range, too near to its end` };
  return { state: guide.look(latest.at / 1000, reached, latest.feedback) ? 'on' : 'as before' };
}
