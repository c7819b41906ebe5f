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
import { say } from '@yare/words/process';
import { tripClause } from '../lookAhead/motionFindings';
import { sensorDecimals } from './scale';

/** What was wrong with a step test, what that means, and what to do. */
export const stepRefusals: Record<StepRefusal, string> = {
  'too short': say.theRecordingIsTooShort,
  'no step': say.theOutputDoesNotStep,
  'several steps': say.theOutputChangesMoreThan,
  'not at rest before': say.theFeedbackWasStillMoving,
  'too small': say.theFeedbackChangesTooLittle,
  'not settled': say.theRecordingEndsBeforeThe,
  disturbed: say.somethingElseMovedTheFeedback,
  'at a limit': say.theFeedbackRanAgainstThe,
};

export const ruleNames: Record<RuleId, string> = {
  'largest integral': say.firmForThisMachine,
  simc: say.simcTight,
  'simc smooth': say.simcSmooth,
  lambda: say.lambda,
  'itae disturbance PI': say.itaeForDisturbancesPi,
  'itae disturbance PID': say.itaeForDisturbancesPid,
  'itae set point PI': say.itaeForSetPointPi,
  'itae set point PID': say.itaeForSetPointPid,
  'cohen-coon PI': say.cohenCoonPi,
  'ziegler-nichols PI': say.zieglerNicholsPi,
};

/** Largest sensitivity that may go into a drive at all (Åström, Hägglund: the usual limit), and what rounding may add to it unsaid. */
const tooNear = 2;
const unsaid = 0.03;

const settledText = (s: number | null): string => (s === null ? say.doesNotSettle : say.settlesInS({ s, s2: s < 10 ? 1 : 0 }));

/** What the drive's own steps cost. */
const roundingText = ({ rounding, exact, gains }: Proposal): string =>
  Number.isFinite(exact.integralTime) && !Number.isFinite(gains.integralTime)
    ? say.theDriveStoresNoIntegral({ integralTime: exact.integralTime })
    : Math.abs(rounding) > unsaid
      ? say.roundedAsTheDriveStores({ rounding })
      : '';

/** Why a proposal is the recommended one, in a sentence with its figures. */
export const whyRecommended = (p: Proposal): string =>
  say.afterAChangeOfDemand({
    settledText: settledText(p.disturbance.settled),
    gainMargin: p.worst.gainMargin,
    sensitivity: p.worst.sensitivity,
    tooNear,
    roundingText: roundingText(p),
  });

/** What is said of one that is not. */
export function verdictOf(p: Proposal): { severity: 'good' | 'warning' | 'error'; text: string } {
  const ms = say.ms({ sensitivity: p.worst.sensitivity });
  if (!p.worst.stable) return { severity: 'error', text: say.wouldSwingMoreAndMore };
  if (p.worst.sensitivity > tooNear) return { severity: 'error', text: say.tooNearToSwinging({ ms }) };
  if (p.kick > 1.05 * mostKick) return { severity: 'warning', text: say.shakesTheOutputByAt({ kick: p.kick }) };
  if (p.worst.sensitivity > mostSensitive) return { severity: 'warning', text: say.nearToSwinging({ ms }) };
  if (p.holds === false) return { severity: 'warning', text: say.comesToNoRestWhere };
  return { severity: 'good', text: `${settledText(p.disturbance.settled)}, ${ms}` };
}

export const questionNames: Record<LoopQuestion, string> = {
  'set point': say.aNewSetPointAnd,
  demand: say.moreDemandAndBack,
  filter: say.theFilterClogsAndIs,
  'little drawn': say.littleIsDrawn,
  'shut valve': say.aStartWithEverythingShut,
  'sensor lost': say.theSensorWireBreaks,
};

export interface LoopAnswer {
  severity: 'good' | 'warning' | 'error';
  sentence: string;
}

/** What is asked about, in figures. */
const askedText = (question: LoopQuestion, sensor: ProcessSensor, { load }: MachineSpec): string =>
  ({
    'set point': say.more({
      setpoint: (asked.setpoint / 100) * (sensor.high - sensor.low),
      sensorDecimals: sensorDecimals(sensor),
      unit: sensor.unit,
    }),
    demand:
      sensor.measures === 'level'
        ? say.aQuarterMoreFlowsIn
        : load.kind === 'fan'
          ? say.theDamperGoesTo({ least: 100 * asked.least })
          : say.tapsFurtherOpen({ demand: 100 * (asked.demand - 1) }),
    filter: say.itTakesTimesWhatA({ clogged: asked.clogged }),
    'little drawn': say.tapsShutUntilOfThe({ leastDrawn: 100 * leastDrawn }),
    'shut valve': say.nothingFlows,
    'sensor lost': say.afterFiveSeconds,
  })[question];

/** What a look-ahead of the loop says, with its figures in the sensor's unit. */
export function loopAnswer(spec: MachineSpec, question: LoopQuestion, { summary }: LoopAhead, sensor: ProcessSensor): LoopAnswer {
  const figure = (percent: number) =>
    `${formatFigure(sensor.low + (percent / 100) * (sensor.high - sensor.low), sensorDecimals(sensor))} ${sensor.unit}`;
  const { settled, highest, lowest, swings, trip, output, asleep } = summary;
  const what = askedText(question, sensor, spec);
  if (trip && !(question === 'sensor lost' && trip.cause === 'liveZeroLoss'))
    return { severity: 'error', sentence: say.afterS({ what, tripClause: tripClause(spec, trip.cause), time: trip.time }) };
  if (question === 'sensor lost') return lostAnswer(summary, figure);
  if (swings) return { severity: 'error', sentence: say.itSwingsBetweenAndAnd({ what, figure: figure(lowest), figure2: figure(highest) }) };
  const between = say.to({ figure: figure(lowest), figure2: figure(highest) });
  if (settled === null)
    return {
      severity: 'warning',
      sentence: say.itHasNotComeBack({ what, between, output }),
    };
  if (question !== 'shut valve' && settled === 0) return { severity: 'good', sentence: say.itHardlyMoves({ what, between }) };
  const time = `${formatFigure(settled, settled < 10 ? 1 : 0)} s`;
  return question === 'shut valve'
    ? {
        severity: 'good',
        sentence: say.itComesToItsSet({ what, time, figure: figure(highest), asleep }),
      }
    : { severity: 'good', sentence: say.backWithin({ what, between, time }) };
}

/** What a lost signal does. */
function lostAnswer({ trip, output, highest }: LoopAhead['summary'], figure: (percent: number) => string): LoopAnswer {
  if (trip) return { severity: 'good', sentence: say.itTripsAfterSAnd({ time: trip.time }) };
  if (Math.abs(output) < 1) return { severity: 'good', sentence: say.itStopsByItsRamp };
  return {
    severity: 'error',
    sentence: say.itGoesOnAtHz({ output, figure: figure(highest) }),
  };
}

const swingCauses: Record<Swinging['cause'], string> = {
  'too tight': say.theControllerIsTooFirm,
  ramp: say.theControllerAsksForMore,
  sticks: say.theOutputGoesInStraight,
  'coarse feedback': say.itGoesToAndFro,
  outside: say.theOutputStandsTheSwing,
};

/** A loop that swings, in words with its figures. */
export function swingText({ period, feedback, growth, cause }: Swinging, sensor: ProcessSensor): string {
  const size = formatFigure((feedback / 100) * (sensor.high - sensor.low), sensorDecimals(sensor));
  const grows = growth > growsFrom ? say.andGrows : growth < 1 / growsFrom ? say.andDiesAway : '';
  return say.itSwingsByEveryS({ size, unit: sensor.unit, period, period2: period < 10 ? 1 : 0, grows, swingCauses: swingCauses[cause] });
}
