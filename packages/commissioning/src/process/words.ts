import { formatFigure, type MachineSpec, type ProcessSensor } from '@yare/core';
import {
  asked,
  leastDrawn,
  growsFrom,
  mostKick,
  mostSensitive,
  type LoopAhead,
  type LoopQuestion,
  type Proposal,
  type RuleId,
  type StepRefusal,
  type Swinging,
} from '@yare/core/loop';
import { tripClause } from '../lookAhead/motionFindings';
import { sensorDecimals } from './scale';

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
const roundingText = ({ rounding, exact, gains }: Proposal): string =>
  Number.isFinite(exact.integralTime) && !Number.isFinite(gains.integralTime)
    ? ` The drive stores no integral time as long as ${formatFigure(exact.integralTime, 0)} s: it comes to none, and the set point is not quite held.`
    : Math.abs(rounding) > unsaid
      ? ` Rounded as the drive stores it, which changes Ms by ${formatFigure(rounding, 2)}.`
      : '';

/** Why a proposal is the recommended one, in a sentence with its figures. */
export const whyRecommended = (p: Proposal): string =>
  `After a change of demand it ${settledText(p.disturbance.settled)}, and its gain could be ${formatFigure(p.worst.gainMargin, 1)} times as high before it swings, where it is hardest to hold (Ms ${formatFigure(p.worst.sensitivity, 2)}; above ${tooNear} is too near).${roundingText(p)}`;

/** What is said of one that is not. */
export function verdictOf(p: Proposal): { severity: 'good' | 'warning' | 'error'; text: string } {
  const ms = `Ms ${formatFigure(p.worst.sensitivity, 2)}`;
  if (!p.worst.stable) return { severity: 'error', text: 'would swing more and more' };
  if (p.worst.sensitivity > tooNear) return { severity: 'error', text: `too near to swinging: ${ms}` };
  if (p.kick > 1.05 * mostKick)
    return { severity: 'warning', text: `shakes the output by ${formatFigure(p.kick, 0)} % at every step or noise of the sensor` };
  if (p.worst.sensitivity > mostSensitive) return { severity: 'warning', text: `near to swinging: ${ms}` };
  if (p.holds === false) return { severity: 'warning', text: 'comes to no rest where little is drawn, or on the drive’s ramp' };
  return { severity: 'good', text: `${settledText(p.disturbance.settled)}, ${ms}` };
}

export const questionNames: Record<LoopQuestion, string> = {
  'set point': 'A new set point, and back',
  demand: 'More demand, and back',
  filter: 'The filter clogs, and is changed',
  'little drawn': 'Little is drawn',
  'shut valve': 'A start with everything shut',
  'sensor lost': 'The sensor wire breaks',
};

export interface LoopAnswer {
  severity: 'good' | 'warning' | 'error';
  sentence: string;
}

/** What is asked about, in figures. */
const askedText = (question: LoopQuestion, sensor: ProcessSensor, { load }: MachineSpec): string =>
  ({
    'set point': `${formatFigure((asked.setpoint / 100) * (sensor.high - sensor.low), sensorDecimals(sensor))} ${sensor.unit} more`,
    demand:
      sensor.measures === 'level'
        ? 'a quarter more flows in'
        : load.kind === 'fan'
          ? `the damper goes to ${100 * asked.least} %`
          : `taps ${formatFigure(100 * (asked.demand - 1), 0)} % further open`,
    filter: `it takes ${asked.clogged} times what a clean one does`,
    'little drawn': `taps shut until ${formatFigure(100 * leastDrawn, 0)} % of the pump’s best flow is left`,
    'shut valve': 'nothing flows',
    'sensor lost': 'after five seconds',
  })[question];

/** What a look-ahead of the loop says, with its figures in the sensor's unit. */
export function loopAnswer(spec: MachineSpec, question: LoopQuestion, { summary }: LoopAhead, sensor: ProcessSensor): LoopAnswer {
  const figure = (percent: number) =>
    `${formatFigure(sensor.low + (percent / 100) * (sensor.high - sensor.low), sensorDecimals(sensor))} ${sensor.unit}`;
  const { settled, highest, lowest, swings, trip, output, asleep } = summary;
  const what = askedText(question, sensor, spec);
  if (trip && !(question === 'sensor lost' && trip.cause === 'liveZeroLoss'))
    return { severity: 'error', sentence: `${what}: ${tripClause(spec, trip.cause)} after ${formatFigure(trip.time, 1)} s.` };
  if (question === 'sensor lost') return lostAnswer(summary, figure);
  if (swings)
    return { severity: 'error', sentence: `${what}: it swings between ${figure(lowest)} and ${figure(highest)} and does not come to rest.` };
  const between = `${figure(lowest)} to ${figure(highest)}`;
  if (settled === null)
    return {
      severity: 'warning',
      sentence: `${what}: ${between}; it has not come back to its set point in the time looked at, and stands at ${formatFigure(output, 1)} Hz.`,
    };
  if (question !== 'shut valve' && settled === 0) return { severity: 'good', sentence: `${what}: it hardly moves, ${between}.` };
  const time = `${formatFigure(settled, settled < 10 ? 1 : 0)} s`;
  return question === 'shut valve'
    ? {
        severity: 'good',
        sentence: `${what}: it comes to its set point in ${time}, at most ${figure(highest)}${asleep === null ? '' : `, and falls asleep after ${formatFigure(asleep, 0)} s`}.`,
      }
    : { severity: 'good', sentence: `${what}: ${between}, back within ${time}.` };
}

/** What a lost signal does. */
function lostAnswer({ trip, output, highest }: LoopAhead['summary'], figure: (percent: number) => string): LoopAnswer {
  if (trip) return { severity: 'good', sentence: `It trips after ${formatFigure(trip.time, 1)} s, and the motor runs out.` };
  if (Math.abs(output) < 1) return { severity: 'good', sentence: 'It stops by its ramp.' };
  return {
    severity: 'error',
    sentence: `It goes on at ${formatFigure(output, 1)} Hz, and comes to ${figure(highest)} with nobody watching. Choose what a lost signal does.`,
  };
}

const swingCauses: Record<Swinging['cause'], string> = {
  'too tight': 'The controller is too firm for this process.',
  ramp: 'The controller asks for more than the drive’s ramp gives: the output goes up and down on its ramp. Less gain calms it, or a shorter ramp where the machine allows one.',
  sticks:
    'The output goes in straight lines while the feedback holds still: something sticks, a damper, a valve or a float. No values cure that; free it first.',
  'coarse feedback': 'It goes to and fro between two steps of the sensor. A finer range or a little filter cures it, no values do.',
  outside: 'The output stands: the swing comes from elsewhere, another machine or a loop that shares this pipe.',
};

/** A loop that swings, in words with its figures. */
export function swingText({ period, feedback, growth, cause }: Swinging, sensor: ProcessSensor): string {
  const size = formatFigure((feedback / 100) * (sensor.high - sensor.low), sensorDecimals(sensor));
  const grows = growth > growsFrom ? ', and grows' : growth < 1 / growsFrom ? ', and dies away' : '';
  return `It swings by ±${size} ${sensor.unit} every ${formatFigure(period, period < 10 ? 1 : 0)} s${grows}. ${swingCauses[cause]}`;
}
