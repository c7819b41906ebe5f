import { formatFigure } from '@yare/core';
import { mostSensitive, type Proposal, type RuleId, type StepRefusal } from '@yare/core/loop';

/** What was wrong with a step test, what that means, and what to do. */
export const stepRefusals: Record<StepRefusal, string> = {
  'too short': 'The recording is too short to tell anything. Record some seconds at rest, the step, and then until nothing moves any more.',
  'no step': 'The output does not step in this recording. Change the speed in hand by 8 to 15 % at once, with the loop open.',
  'several steps': 'The output changes more than once. Cut one step out of the recording, or make the test again with one.',
  'not at rest before':
    'The feedback was still moving before the step. Wait until it stands, then step; leave a few seconds of rest in the recording.',
  'too small': 'The feedback changes too little against its noise. Take a larger step, or look whether the sensor sees the process at all.',
  'not settled': 'The recording ends before the feedback has settled. Record three times as long as it takes to get half of the way.',
  disturbed: 'Something else moved the feedback during the test, a tap or another machine. Make it again when nothing else changes.',
  'at a limit': 'The feedback ran against the end of the sensor’s range. Step the other way, or take a smaller step.',
};

export const ruleNames: Record<RuleId, string> = {
  'largest integral': 'Firm, for this machine',
  simc: 'SIMC, tight',
  'simc smooth': 'SIMC, smooth',
  lambda: 'Lambda',
  'itae disturbance PI': 'ITAE for disturbances, PI',
  'itae disturbance PID': 'ITAE for disturbances, PID',
  'itae set point PI': 'ITAE for set point, PI',
  'itae set point PID': 'ITAE for set point, PID',
  'cohen-coon PI': 'Cohen–Coon, PI',
  'ziegler-nichols PI': 'Ziegler–Nichols, PI',
};

/** Largest sensitivity that may go into a drive at all (Åström, Hägglund: the usual limit), and what rounding may add to it unsaid. */
const tooNear = 2;
const unsaid = 0.03;

const settledText = (s: number | null): string => (s === null ? 'does not settle' : `settles in ${formatFigure(s, s < 10 ? 1 : 0)} s`);

/** What the drive's own steps cost. */
const roundingText = ({ rounding }: Proposal): string =>
  Math.abs(rounding) > unsaid ? ` Rounded as the drive stores it, which changes Ms by ${formatFigure(rounding, 2)}.` : '';

/** Why a proposal is the recommended one, in a sentence with its figures. */
export const whyRecommended = (p: Proposal): string =>
  `After a change of demand it ${settledText(p.disturbance.settled)}, and its gain could be ${formatFigure(p.worst.gainMargin, 1)} times as high before it swings, where it is hardest to hold (Ms ${formatFigure(p.worst.sensitivity, 2)}; above ${tooNear} is too near).${roundingText(p)}`;

/** What is said of one that is not. */
export function verdictOf(p: Proposal): { severity: 'good' | 'warning' | 'error'; text: string } {
  const ms = `Ms ${formatFigure(p.worst.sensitivity, 2)}`;
  if (!p.worst.stable) return { severity: 'error', text: 'would swing more and more' };
  if (p.worst.sensitivity > tooNear) return { severity: 'error', text: `too near to swinging: ${ms}` };
  if (p.worst.sensitivity > mostSensitive) return { severity: 'warning', text: `near to swinging: ${ms}` };
  return { severity: 'good', text: `${settledText(p.disturbance.settled)}, ${ms}` };
}
