import { ratedTorque } from '../plate';
import { lookAheadRun, type LookAhead, type LookAheadEvent } from './lookAhead';
import { shortestStop, resistorForStop } from './stopping';
import { StopMode, type ResistorSizing } from '../drive';
import type { MachineSpec } from './state';

/** Questions put to the model beside the plain start, run and stop. */
export const whatIfs = ['ramp', 'coast', 'direct current', 'quick stop', 'load step', 'supply dip'] as const;
export type WhatIf = (typeof whatIfs)[number];

/** Torque a load step adds, as a share of rated. */
export const loadStepShare = 0.5;
/** What a supply dip leaves of the volts, and for how long, s. */
export const dip = { share: 0.7, time: 0.2 };

/** s at speed before something happens, and after it. */
const before = 1;
const watched = 5;
/** s of direct current when the settings give none yet, so that there is something to see. */
const usualDirectCurrentTime = 10;

const stopModes: Partial<Record<WhatIf, number>> = {
  ramp: StopMode.ramp,
  coast: StopMode.coast,
  'direct current': StopMode.directCurrent,
  'quick stop': StopMode.quickStop,
};

/**
 * One question answered: a stop by one of the four modes, a load step of half rated torque, or a dip of the supply.
 * @param reference Hz to run at
 * @param power rated, W, for the size of a load step
 */
export function whatIf(spec: MachineSpec, question: WhatIf, reference: number, power: number): LookAhead {
  const { drive } = spec;
  const longest = 20 + 3 * drive.accelerationTime;
  const mode = stopModes[question];
  if (mode !== undefined) {
    const stopped = {
      ...drive,
      stopMode: mode,
      dcCurrent: drive.dcCurrent > 0 ? drive.dcCurrent : 0.3,
      dcTime: mode === StopMode.directCurrent && drive.dcTime === 0 ? usualDirectCurrentTime : drive.dcTime,
    };
    const slowest = mode === StopMode.coast ? 600 : 2 * Math.max(drive.decelerationTime, drive.quickStopTime) + 60;
    return lookAheadRun({ ...spec, drive: stopped }, { reference, runTime: before, longest: longest + slowest });
  }
  const events: LookAheadEvent[] =
    question === 'load step'
      ? [{ after: before, extraTorque: loadStepShare * ratedTorque(power, (spec.circuit.ratedSpeed * 60) / (2 * Math.PI)) }]
      : [
          { after: before, supplyShare: dip.share },
          { after: before + dip.time, supplyShare: 1 },
        ];
  return lookAheadRun(spec, { reference, runTime: before + watched, longest: longest + watched, events, stop: false });
}

export interface StoppingOptions {
  /** s, shortest without and with a resistor of the least resistance allowed */
  without: number;
  withResistor: number;
  /** for the deceleration time in force, of the machine as it is thought to be and as hard to stop as it may be; null when no resistor makes it possible */
  resistor: ResistorSizing | null;
  resistorAtMost: ResistorSizing | null;
}

/** What braking can do for this machine. @param every s between stops @param hard the same machine as hard to stop as it may be */
export function stoppingOptions(spec: MachineSpec, reference: number, every: number, hard: MachineSpec): StoppingOptions {
  return {
    without: shortestStop(spec, reference),
    withResistor: shortestStop(spec, reference, 600, 10, spec.rating.leastResistance),
    resistor: resistorForStop(spec, reference, spec.drive.decelerationTime, every),
    resistorAtMost: resistorForStop(hard, reference, spec.drive.decelerationTime, every),
  };
}
