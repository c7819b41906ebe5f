import { usualSpread, type MachineSpec, type Random, type Learnable } from '@yare/core';
import type { Day, TrueConstants } from './machine';

/** Draws lie within so many standard deviations. */
const furthest = 2;

/** A multiplier of a spread, as likely as its inverse. */
export const around = (r: Random, spread: number): number => Math.exp(spread * Math.max(-furthest, Math.min(furthest, r.normal())));

/** From one figure to another, evenly. */
const between = (r: Random, low: number, high: number): number => low + (high - low) * r.uniform();

/** The data of a machine, each moved by the spread that the application itself states for it. */
export function drawSpec(spec: MachineSpec, r: Random): MachineSpec {
  const by = (what: Learnable) => around(r, usualSpread[what]);
  const c = spec.circuit;
  const leakage = by('leakage');
  const circuit = {
    ...c,
    r1: c.r1 * by('statorResistance'),
    r2: c.r2 * by('rotorResistance'),
    x1: c.x1 * leakage,
    x2: c.x2 * leakage * around(r, 0.05),
    xm: c.xm * by('magnetising'),
    rFe: c.rFe * around(r, 0.2),
    rotationalLoss: c.rotationalLoss * by('rotationalLoss'),
  };
  return {
    ...spec,
    circuit,
    inertia: spec.rotorInertia + (spec.inertia - spec.rotorInertia) * by('inertia'),
    load: drawLoad(spec.load, r),
    rating: {
      ...spec.rating,
      busCapacitance: spec.rating.busCapacitance * by('capacitance'),
      lossPerAmpere: spec.rating.lossPerAmpere * around(r, 0.1),
    },
    supply: {
      ...spec.supply,
      voltage: spec.supply.voltage * around(r, usualSpread.supply / 2),
      inductance: spec.supply.inductance * around(r, 0.25),
    },
    ...(spec.brake && { brake: { torque: spec.brake.torque * around(r, 0.1), lag: spec.brake.lag * around(r, 0.2) } }),
  };
}

function drawLoad(load: MachineSpec['load'], r: Random): MachineSpec['load'] {
  const torque = around(r, usualSpread.loadTorque / 2);
  const friction = around(r, usualSpread.friction / 2);
  const head = around(r, usualSpread.processHead / 2);
  const demand = around(r, usualSpread.processDemand / 2);
  switch (load.kind) {
    case 'pump':
      return {
        ...load,
        shutOffHead: load.shutOffHead * head,
        headFall: load.headFall * head,
        bestEfficiency: Math.min(0.88, load.bestEfficiency / torque),
        demand: load.demand * demand,
        compliance: load.compliance * around(r, usualSpread.processCompliance),
        inflow: load.inflow * around(r, 0.1),
      };
    case 'fan':
      return {
        ...load,
        shutOffPressure: load.shutOffPressure * head,
        pressureFall: load.pressureFall * head,
        bestEfficiency: Math.min(0.88, load.bestEfficiency / torque),
        duct: load.duct / (demand * demand),
      };
    case 'conveyor':
      return { ...load, frictionCoefficient: load.frictionCoefficient * friction, viscous: load.viscous * torque, feed: load.feed * around(r, 0.1) };
    case 'hoist':
      return { ...load, efficiency: Math.min(0.98, load.efficiency * around(r, 0.05)), mass: load.mass * around(r, usualSpread.loadTorque / 2) };
    case 'torque':
      return { ...load, constant: load.constant * friction, viscous: load.viscous * torque, quadratic: load.quadratic * torque };
  }
}

/** What no data of the application's has a name for. @param spec as drawn @param ratedTorque N·m @param rise K of the winding at rated load */
export function drawConstants(spec: MachineSpec, ratedTorque: number, ratedCurrent: number, r: Random): TrueConstants {
  const c = spec.circuit;
  const w = 2 * Math.PI * c.ratedFrequency;
  const { thermal } = spec;
  return {
    motor: {
      statorResistance: c.r1,
      rotorResistance: c.r2,
      statorLeakage: c.x1 / w,
      rotorLeakage: c.x2 / w,
      magnetising: c.xm / w,
      ratedFlux: (Math.SQRT2 * (c.ratedEmf ?? 0.95 * 230)) / w,
      saturation: (c.saturation ?? 0.1) * around(r, 0.2),
      bend: between(r, 6, 9),
      leakageLoss: between(r, 0.1, 0.25),
      leakageKnee: between(r, 3, 5) * Math.SQRT2 * ratedCurrent,
      iron: c.rFe,
      hysteresis: between(r, 0.4, 0.7),
      deepBars: 1 + ((c.skin ?? 1.3) - 1) * around(r, 0.2),
      ratedFrequency: c.ratedFrequency,
      pairs: c.poles / 2,
    },
    heat: {
      windingOut: thermal.windingToFrame * around(r, 0.15),
      rotorOut: thermal.windingToFrame * around(r, 0.25),
      frameOut: thermal.frameToAir * around(r, 0.1),
      winding: thermal.windingCapacity * around(r, 0.2),
      rotor: 2 * thermal.windingCapacity * around(r, 0.3),
      frame: thermal.frameCapacity * around(r, 0.2),
      still: between(r, 0.2, 0.4),
      sinkTime: 150 * around(r, 0.2),
      sinkRise: spec.rating.heatsinkRise * around(r, 0.08),
    },
    shape: {
      curve: between(r, 1.8, 2.2),
      pipe: between(r, 1.85, 2.05),
      stirring: between(r, 1.85, 2.05),
      noFlowPower: between(r, 0.42, 0.62),
      seal: between(r, 0.005, 0.02),
      breakaway: between(r, 0.05, 0.3),
      looseAt: between(r, 2, 8),
      waterTime: between(r, 0.03, 0.08),
      damperLeak: between(r, 0.02, 0.05),
      beltSlip: between(r, 0, 0.01),
      gearDrag: between(r, 0.01, 0.03),
    },
    sensors: { current: around(r, 0.005), voltage: around(r, 0.003), offset: 0.003 * ratedCurrent * r.normal(), noise: 0.01 * ratedCurrent },
    bearing: (0.25 * c.rotationalLoss) / c.ratedSpeed,
    fan: (0.4 * c.rotationalLoss) / c.ratedSpeed,
    stray: (0.35 * c.rotationalLoss) / c.ratedSpeed,
    ratedSpeed: c.ratedSpeed,
    ratedCurrent,
    ratedTorque,
    deadTime: between(r, 0.5, 2.5),
    deadKnee: 0.03 * ratedCurrent,
    lineLoss: between(r, 0.15, 0.4),
    unbalance: between(r, 0, 0.008),
  };
}

/** The day everything was drawn on. */
export const firstDay: Day = { supply: 1, ambient: 0, drift: 0, density: 1, friction: 1, viscosity: 1, demand: 1, feed: 1, filter: 1 };

/** Another day: other mains, air, water, grain. */
export function drawDay(r: Random): Day {
  return {
    supply: around(r, 0.01),
    ambient: 6 * Math.max(-furthest, Math.min(furthest, r.normal())),
    drift: 0.02 * r.normal(),
    density: around(r, 0.008),
    friction: around(r, 0.08),
    viscosity: around(r, 0.1),
    demand: around(r, 0.03),
    feed: around(r, 0.06),
    filter: Math.max(1, around(r, 0.1)),
  };
}
