import { planFor, specOf, usualCycle } from '@yare/commissioning';
import { ControlWord, hardToStop, present, random, resistorForStop, shortestStop, StopMode, Switch, type DriveParameters, nth } from '@yare/core';
import { demoMachine } from '@yare/demo-plant';
import { trueMachine } from '../trueRun';
import { lived, type AdviceSeen, type LivedOffer } from './offer';
import { sound } from './wrongSettings';

const tags = ['P-11', 'F-32', 'C-07', 'C-21', 'M-55'] as const;
/** Stops one after another: by then a resistor that is too small is too hot. */
const stops = 2;
/** Share of the time without a resistor that is asked for with one. */
const asked = { least: 0.35, most: 0.8 };

/** Starts, runs and stops so often, as far apart as the proposal was told; the trip that came, null where none did. */
function stopsAgain(tag: string, change: Partial<DriveParameters>, seed: number, day: number, reference: number): string | null {
  const { settings } = sound(tag);
  const { truth, machine: m } = trueMachine({ ...demoMachine(tag), asFound: {} }, settings.values, seed, day, change);
  for (let i = 1; i <= stops && m.trip === null; i++) {
    const until = i * usualCycle;
    // the run is as long as it takes, the stop comes at the end of the cycle
    const stopAt = until - present(change.decelerationTime) - 10;
    while (m.trip === null && m.time < until) truth.advance(m.time < stopAt ? ControlWord.enableOperation : ControlWord.switchOn, reference);
  }
  return m.trip?.cause ?? null;
}

/** A stop that cannot be made without one: the brake resistor that is proposed, fitted and stopped with again and again. */
export function resistorOffers(seed: number, n: number): AdviceSeen {
  const tag = nth(tags, n % tags.length);
  const demo = demoMachine(tag);
  const r = random(seed * 104_395_301 + n * 15_487_469);
  const made = specOf(demo, demo.plate, sound(tag).settings);
  if (!made.ok) return lived([]);
  const { spec } = made;
  const { reference } = planFor(spec, spec.drive.maximumFrequency);
  const time = shortestStop(spec, reference) * (asked.least + (asked.most - asked.least) * r.uniform());
  const sizing = resistorForStop(hardToStop(spec), reference, time, usualCycle);
  if (!sizing || sizing.energy < 1) return lived([]);
  const ohms = sizing.leastResistance + (sizing.mostResistance - sizing.leastResistance) * r.uniform();
  const stop = { decelerationTime: time, secondDecelerationTime: time, stopMode: StopMode.ramp, busRampHold: Switch.off, dcTime: 0 };
  const resistor = { chopper: Switch.on, brakeResistance: ohms, resistorPower: sizing.ratedPower };
  const day = Math.floor(300 * r.uniform());
  const trip = stopsAgain(tag, { ...stop, ...resistor }, seed * 89 + n, day, reference);
  const offer: LivedOffer = { by: 'resistor', id: 'resistance and rated power', tag, cured: trip !== 'overvoltage', harm: null, held: [] };
  return lived([{ ...offer, harm: trip === null || trip === 'overvoltage' ? null : `trips: ${trip}` }]);
}
