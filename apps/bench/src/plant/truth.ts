import type { DriveSettings } from '@yare/books';
import type { DemoMachine } from '@yare/demo-plant';
import { estimateMachine, random, ratedTorque, rectifierOn, stampedPower, type MachineSpec } from '@yare/core';
import { drawConstants, drawDay, drawSpec, firstDay, around } from '../../truth/draw';
import type { Day, TrueConstants } from '../../truth/machine';

export interface Truth {
  spec: MachineSpec;
  constants: TrueConstants;
  day: Day;
  /** mA of noise and offset of the process transmitter */
  transmitter: { noise: number; offset: number; lag: number; deadTime: number };
}

/**
 * The true machine behind the terminals: what the plate suggests, moved by a seed as far as the application itself says it may lie, and on a day
 * of its own.
 * @param day 0 is the day everything was drawn on
 * @throws RangeError when the plate makes no motor
 */
export function truthOf(demo: DemoMachine, settings: DriveSettings, seed: number, day = 0): Truth {
  const supply = { ...demo.supply, rectifier: rectifierOn(settings.rating.input, demo.supply.phases) };
  const estimate = estimateMachine(demo.plate, demo.driven, settings.parameters(), settings.hardware(), supply);
  if (!estimate.ok) throw new RangeError(`${demo.tag}: ${estimate.sentence}`);
  const r = random(seed * 7919 + demo.unitId * 104729);
  const spec = drawSpec(estimate.spec, r);
  const { plate } = estimate;
  const constants = drawConstants(spec, ratedTorque(stampedPower(demo.plate), demo.plate.speed), plate.current, r);
  const transmitter = { noise: 0.01 * around(r, 0.3), offset: 0.02 * r.normal(), lag: 0.15 * around(r, 0.3), deadTime: 0.05 };
  const today = day === 0 ? firstDay : drawDay(random(seed * 7919 + demo.unitId * 104729 + day * 15485863));
  return { spec, constants, day: today, transmitter: { ...transmitter, offset: transmitter.offset + today.drift } };
}
