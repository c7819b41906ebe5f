import { dip, formatFigure, loadStepShare, type LookAhead, type MachineSpec, type ResistorSizing, type WhatIf } from '@yare/core';
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
  ramp: 'Stop by ramp',
  coast: 'Stop by coasting',
  'direct current': 'Stop by direct current',
  'quick stop': 'Quick stop',
  'load step': `Load ${formatFigure(loadStepShare * 100, 0)} % higher at once`,
  'supply dip': `Supply at ${formatFigure(dip.share * 100, 0)} % for ${dip.time} s`,
};

/** One question's answer with its margin. */
export function answerOf(spec: MachineSpec, question: WhatIf, { summary: r }: LookAhead): Answer {
  const label = labels[question];
  const { rating, drive } = spec;
  if (r.trip) return { label, sentence: `Trips: ${tripClause(spec, r.trip.cause)}.`, severity: 'error', figure: 'trips', unit: '' };
  if (r.startTime === null)
    return { label, sentence: 'It does not get to speed, so there is nothing to see.', severity: 'warning', figure: '–', unit: '' };
  const room = rating.overvoltageTrip - r.peakBus;
  if (question === 'load step') {
    const held = r.peakRunningCurrent > 0.97 * drive.currentLimit;
    return {
      label,
      sentence: `Draws ${a(r.peakRunningCurrent)}, limit ${a(drive.currentLimit)}; the speed falls to ${formatFigure(r.lowestSpeed, 0)} rpm${held ? ' and the limit holds it there' : ''}.`,
      severity: held ? 'warning' : 'good',
      figure: formatFigure(r.peakRunningCurrent, 1),
      unit: 'A',
    };
  }
  if (question === 'supply dip') {
    const above = r.lowestRunningBus - rating.undervoltageTrip;
    return {
      label,
      sentence: `The DC bus falls to ${v(r.lowestRunningBus)}, trips at ${v(rating.undervoltageTrip)}.`,
      severity: above < 20 ? 'warning' : 'good',
      figure: formatFigure(r.lowestRunningBus, 0),
      unit: 'V',
    };
  }
  const margin = `the DC bus peaks at ${v(r.peakBus)}, trips at ${v(rating.overvoltageTrip)}`;
  if (r.stopTime === null)
    return { label, sentence: `It does not come to rest within the look-ahead; ${margin}.`, severity: 'warning', figure: '–', unit: 's' };
  const by = question === 'direct current' ? `${formatFigure((drive.dcCurrent > 0 ? drive.dcCurrent : 0.3) * 100, 0)} % current. ` : '';
  const ramp = (drive.decelerationTime * drive.maximumFrequency) / drive.motorFrequency;
  const late = question === 'quick stop' && r.stopTime > 1.05 * ramp;
  return {
    label,
    sentence: `${by}The motor stops in ${s(r.stopTime)} s; ${margin}${r.heldStopping ? '; ramp hold acts on the high bus' : ''}.${late ? ` That is no quick stop: the ramp is set to ${s(ramp)} s.` : ''}`,
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
  if (!likely) return `A stop in ${s(time)} s cannot be made even with the smallest resistor the drive allows.`;
  if (!most)
    return `A stop in ${s(time)} s takes ${kilojoules(likely.energy)} kJ if the machine is as heavy as it is thought to be. It may be heavier than any resistor of this drive stops in that time: record a run and learn from it, or give it longer.`;
  if (most.energy < 1 && !runs) return `A stop in ${s(time)} s needs no resistor: losses and load take the energy.`;
  const carried = runs
    ? `and ${kilowatts(runs.power)} for as long as the load drives, which it has to carry for ever`
    : `up to ${formatFigure(most.meanPower, most.meanPower < 10 ? 1 : 0)} W on average at a stop every ${formatFigure(every / 60, 0)} min. Rated for ${formatFigure(roundUp(most.ratedPower), 0)} W or more, because one stop heats it before the next`;
  const energy = `${kilojoules(likely.energy)} kJ a stop, up to ${kilojoules(most.energy)} kJ if it is heavier than thought`;
  return `For the stop in ${s(time)} s: ${formatFigure(most.leastResistance, 0)} Ω or more, at most ${formatFigure(Math.min(most.mostResistance, runs?.mostResistance ?? Infinity), 0)} Ω; ${energy}, ${formatFigure(most.peakPower / 1000, 1)} kW at the peak, ${carried}.`;
}

const kilojoules = (energy: number): string => formatFigure(energy / 1000, 1);
