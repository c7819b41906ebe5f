import type { DriveSettings } from '@yare/books';
import type { DemoMachine } from '@yare/demo-plant';
import { estimateMachine, random, rectifierOn, type Load, type MachineSpec, type Random } from '@yare/core';

/** A multiplier drawn around 1 with a standard deviation, held within three of them. */
const around = (r: Random, deviation: number): number => 1 + deviation * Math.max(-3, Math.min(3, r.normal()));

function trueLoad(load: Load, r: Random): Load {
  switch (load.kind) {
    case 'pump':
      return {
        ...load,
        shutOffHead: load.shutOffHead * around(r, 0.03),
        headFall: load.headFall * around(r, 0.06),
        bestEfficiency: Math.min(0.88, load.bestEfficiency * around(r, 0.04)),
        demand: load.demand * around(r, 0.1),
        compliance: load.compliance * around(r, 0.2),
        inflow: load.inflow * around(r, 0.1),
      };
    case 'fan':
      return {
        ...load,
        shutOffPressure: load.shutOffPressure * around(r, 0.04),
        bestEfficiency: Math.min(0.86, load.bestEfficiency * around(r, 0.04)),
        duct: load.duct * around(r, 0.12),
        clogging: load.clogging * Math.max(1, around(r, 0.2)),
      };
    case 'conveyor':
      return {
        ...load,
        frictionCoefficient: load.frictionCoefficient * around(r, 0.15),
        viscous: load.viscous * around(r, 0.3),
        feed: load.feed * around(r, 0.1),
      };
    case 'torque':
      return {
        ...load,
        constant: load.constant * around(r, 0.2),
        viscous: load.viscous * around(r, 0.2),
        quadratic: load.quadratic * around(r, 0.12),
      };
  }
}

/** What the drive's own sensors are off by: gains of current and voltage measurement. */
export interface DriveSensors {
  current: number;
  voltage: number;
  torque: number;
}

export interface Truth {
  spec: MachineSpec;
  sensors: DriveSensors;
  /** mA of noise and offset of the process transmitter */
  transmitter: { noise: number; offset: number; lag: number; deadTime: number };
}

/**
 * The true machine behind the terminals: what the plate suggests, moved by a seed. Deviations are those of manufacturing tolerance
 * and of guessed loads (common practice): windings 5 to 8 %, leakage 12 %, inertia 15 %, friction 15 to 20 %, bus capacitors 5 %, supply 1 %.
 */
export function truthOf(demo: DemoMachine, settings: DriveSettings, seed: number): Truth {
  const rating = settings.hardware();
  const supply = { ...demo.supply, rectifier: rectifierOn(settings.rating.input, demo.supply.phases) };
  const estimate = estimateMachine(demo.plate, demo.driven, settings.parameters(), rating, supply);
  if (!estimate.ok) throw new RangeError(`${demo.tag}: ${estimate.sentence}`);
  const r = random(seed * 7919 + demo.unitId * 104729);
  const { spec } = estimate;
  const c = spec.circuit;
  return {
    spec: {
      ...spec,
      circuit: {
        ...c,
        r1: c.r1 * around(r, 0.05),
        x1: c.x1 * around(r, 0.12),
        xm: c.xm * around(r, 0.06),
        r2: c.r2 * around(r, 0.08),
        x2: c.x2 * around(r, 0.12),
        rFe: c.rFe * around(r, 0.15),
        rotationalLoss: c.rotationalLoss * around(r, 0.2),
        saturation: (c.saturation ?? 0) * around(r, 0.15),
      },
      inertia: spec.inertia * around(r, 0.15),
      load: trueLoad(spec.load, r),
      rating: { ...rating, busCapacitance: rating.busCapacitance * around(r, 0.05), lossPerAmpere: rating.lossPerAmpere * around(r, 0.1) },
      supply: { ...spec.supply, voltage: spec.supply.voltage * around(r, 0.01), inductance: spec.supply.inductance * around(r, 0.2) },
      ...(spec.brake && { brake: { torque: spec.brake.torque * around(r, 0.1), lag: spec.brake.lag * around(r, 0.2) } }),
    },
    sensors: { current: around(r, 0.005), voltage: around(r, 0.003), torque: around(r, 0.015) },
    transmitter: { noise: 0.01 * around(r, 0.3), offset: 0.02 * r.normal(), lag: 0.15 * around(r, 0.3), deadTime: 0.05 },
  };
}
