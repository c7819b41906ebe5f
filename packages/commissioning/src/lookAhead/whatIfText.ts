import { dip, formatFigure, loadStepShare, type LookAhead, type MachineSpec, type ResistorSizing, type WhatIf } from '@yare/core';
import { say } from '@yare/words/lookAhead';
import { kilowatts, type GivenBack } from './drivingLoad';
import { tripClause } from './motionFindings';

export interface Answer {
  label: string;
  sentence: string;
  severity: 'error' | 'warning' | 'good';
  figure: string;
  unit: string;
}

const v = (x: number) => `${formatFigure(x, 0)} V`;
const a = (x: number) => `${formatFigure(x, 1)} A`;
const s = (x: number) => formatFigure(x, x < 10 ? 1 : 0);

const labels: Record<WhatIf, string> = {
  ramp: say.stopByRamp,
  coast: say.stopByCoasting,
  'direct current': say.stopByDirectCurrent,
  'quick stop': say.quickStop,
  'load step': say.loadHigherAtOnce({ loadStepShare: loadStepShare * 100 }),
  'supply dip': say.supplyAtForS({ share: dip.share * 100, time: dip.time }),
};

/** One question's answer with its margin. */
export function answerOf(spec: MachineSpec, question: WhatIf, { summary: r }: LookAhead): Answer {
  const label = labels[question];
  const { rating, drive } = spec;
  if (r.trip) return { label, sentence: say.trips({ tripClause: tripClause(spec, r.trip.cause) }), severity: 'error', figure: 'trips', unit: '' };
  if (r.startTime === null) return { label, sentence: say.itDoesNotGetTo, severity: 'warning', figure: '–', unit: '' };
  const room = rating.overvoltageTrip - r.peakBus;
  if (question === 'load step') {
    const held = r.peakRunningCurrent > 0.97 * drive.currentLimit;
    return {
      label,
      sentence: say.drawsLimitTheSpeedFalls({ a: a(r.peakRunningCurrent), a2: a(drive.currentLimit), lowestSpeed: r.lowestSpeed, held }),
      severity: held ? 'warning' : 'good',
      figure: formatFigure(r.peakRunningCurrent, 1),
      unit: 'A',
    };
  }
  if (question === 'supply dip') {
    const above = r.lowestRunningBus - rating.undervoltageTrip;
    return {
      label,
      sentence: say.theDcBusFallsTo2({ v: v(r.lowestRunningBus), v2: v(rating.undervoltageTrip) }),
      severity: above < 20 ? 'warning' : 'good',
      figure: formatFigure(r.lowestRunningBus, 0),
      unit: 'V',
    };
  }
  const margin = say.theDcBusPeaksAt2({ v: v(r.peakBus), v2: v(rating.overvoltageTrip) });
  if (r.stopTime === null) return { label, sentence: say.itDoesNotComeTo({ margin }), severity: 'warning', figure: '–', unit: 's' };
  const by = question === 'direct current' ? say.current({ dcCurrent: (drive.dcCurrent > 0 ? drive.dcCurrent : 0.3) * 100 }) : '';
  const ramp = (drive.decelerationTime * drive.maximumFrequency) / drive.motorFrequency;
  const late = question === 'quick stop' && r.stopTime > 1.05 * ramp;
  return {
    label,
    sentence: say.theMotorStopsInS({ by, s: s(r.stopTime), margin, heldStopping: r.heldStopping, late, s2: s(ramp) }),
    severity: room < 25 || late ? 'warning' : 'good',
    figure: s(r.stopTime),
    unit: 's',
  };
}

/** W, up to two figures: resistors come in steps. */
const roundUp = (x: number): number => {
  const step = 10 ** Math.max(0, Math.floor(Math.log10(Math.max(1, x))) - 1);
  return Math.ceil(x / step) * step;
};

/**
 * What a brake resistor for the set stop must be: rated for the machine as hard to stop as it may be.
 * @param likely of the machine as it is thought to be @param most of one as hard to stop as it may be @param every s between stops
 * @param runs what comes back for as long as the machine runs: a stop is the least of it then
 */
export function resistorText(
  likely: ResistorSizing | null,
  most: ResistorSizing | null,
  time: number,
  every: number,
  runs: GivenBack | null = null,
): string {
  if (!likely) return say.aStopInSCannot({ s: s(time) });
  if (!most) return say.aStopInSTakes({ s: s(time), kilojoules: kilojoules(likely.energy) });
  if (most.energy < 1 && !runs) return say.aStopInSNeeds({ s: s(time) });
  const carried = runs
    ? say.andForAsLongAs({ kilowatts: kilowatts(runs.power) })
    : say.upToWOnAverage({
        meanPower: most.meanPower,
        meanPower2: most.meanPower < 10 ? 1 : 0,
        every: every / 60,
        roundUp: roundUp(most.ratedPower),
      });
  const energy = say.kjAStopUpTo({ kilojoules: kilojoules(likely.energy), kilojoules2: kilojoules(most.energy) });
  return say.forTheStopInS({
    s: s(time),
    leastResistance: most.leastResistance,
    min: Math.min(most.mostResistance, runs?.mostResistance ?? Infinity),
    energy,
    peakPower: most.peakPower / 1000,
    carried,
  });
}

const kilojoules = (energy: number): string => formatFigure(energy / 1000, 1);
