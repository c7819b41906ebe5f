import type { Load } from '../load';
import type { MachineSpec } from '../machine';

/** What a recording can tell about a machine, each as a multiplier on the estimate. */
export const learnable = [
  'inertia',
  'loadTorque',
  'friction',
  'magnetising',
  'leakage',
  'statorResistance',
  'rotorResistance',
  'rotationalLoss',
  'supply',
  'capacitance',
  'inverterDrop',
  'noFlowPower',
  'runOutPower',
  'waterLag',
  'processHead',
  'processDemand',
  'processCompliance',
] as const;
export type Learnable = (typeof learnable)[number];

/** A multiplier and the relative half-width it is known to (one standard deviation). */
export interface LearnedValue {
  times: number;
  spread: number;
  /** the figure of the estimate it was found to be so many times of; absent in what was kept before that was noted */
  of?: number;
}
export type Learned = Partial<Record<Learnable, LearnedValue>>;

/**
 * How far each value may usually lie from its estimate, relative, one standard deviation (common practice: tolerances of makers, and
 * guesses of loads). They hold back what a recording cannot see.
 */
export const usualSpread: Record<Learnable, number> = {
  inertia: 0.35,
  loadTorque: 0.3,
  friction: 0.4,
  magnetising: 0.12,
  leakage: 0.15,
  statorResistance: 0.08,
  rotorResistance: 0.1,
  rotationalLoss: 0.3,
  supply: 0.03,
  capacitance: 0.08,
  inverterDrop: 0.5,
  noFlowPower: 0.15,
  runOutPower: 0.5,
  waterLag: 0.4,
  processHead: 0.08,
  processDemand: 0.2,
  processCompliance: 0.3,
};

/** A value is measured when the record narrows it to less than this share of what was known before. */
const narrowed = 0.7;

/** Whether a learned value was measured, or is still as sure as it was before. */
export const isMeasured = (what: Learnable, { spread }: LearnedValue): boolean => spread < narrowed * usualSpread[what];

/** ± within which nineteen of twenty values lie, from their standard deviation (normal distribution): what is told beside a value. */
export const toldSpread = (deviation: number): number => 1.96 * deviation;

/** ± of the inertia, as it is told, from which on a run that stops quicker is worth making. */
const tellsLittleFrom = 0.08;

/** Whether a run told so little of the inertia that another one, with a quicker stop, is worth making. @param inertia kg·m², with one standard deviation */
export const tellsLittle = ({ value, spread }: { value: number; spread: number }): boolean => toldSpread(spread) > tellsLittleFrom * value;

/** Power of a curve machine at its best flow, in units of its own. */
const bestPower = (flow: number, head: number, efficiency: number): number => (flow * head) / efficiency;

/** The figure that a learned value multiplies; 0 where the machine has none. */
export function figureOf(spec: MachineSpec, what: Learnable): number {
  const { circuit: c, load } = spec;
  switch (what) {
    case 'inertia':
      return spec.inertia;
    case 'magnetising':
      return c.xm;
    case 'leakage':
      return c.x1 + c.x2;
    case 'statorResistance':
      return c.r1;
    case 'rotorResistance':
      return c.r2;
    case 'rotationalLoss':
      return c.rotationalLoss;
    case 'supply':
      return spec.supply.voltage;
    case 'capacitance':
      return spec.rating.busCapacitance;
    case 'inverterDrop':
      return spec.rating.inverterDrop ?? 0;
    case 'loadTorque':
      if (load.kind === 'pump') return bestPower(load.bestFlow, load.shutOffHead, load.bestEfficiency);
      if (load.kind === 'fan') return bestPower(load.bestFlow, load.shutOffPressure, load.bestEfficiency);
      if (load.kind === 'hoist') return load.mass + load.hookMass;
      return load.kind === 'torque' && load.quadratic > 0 ? load.quadratic : load.viscous;
    case 'friction':
      return load.kind === 'conveyor'
        ? load.frictionCoefficient * load.beltMass
        : load.kind === 'torque'
          ? load.constant
          : load.kind === 'pump'
            ? load.seal
            : 0;
    case 'noFlowPower':
      return load.kind === 'pump' ? load.noFlowShare : 0;
    case 'runOutPower':
      return load.kind === 'pump' ? load.runOut : 0;
    case 'waterLag':
      return load.kind === 'pump' ? load.waterLag : 0;
    case 'processHead':
      return load.kind === 'pump' ? load.shutOffHead : load.kind === 'fan' ? load.shutOffPressure : 0;
    case 'processDemand':
      return load.kind === 'pump' ? load.demand : load.kind === 'fan' ? 1 / Math.sqrt(load.duct) : 0;
    case 'processCompliance':
      return load.kind === 'pump' ? load.compliance : 0;
  }
}

/**
 * By what a figure of this estimate is multiplied. What was learned is a figure and not a correction: where a tune or the survey has changed the
 * estimate since, it is not corrected twice.
 */
const timesOf =
  (spec: MachineSpec, l: Learned) =>
  (what: Learnable): number => {
    const value = l[what];
    if (!value) return 1;
    const now = value.of === undefined ? 0 : figureOf(spec, what);
    return now > 0 ? (value.times * (value.of ?? now)) / now : value.times;
  };

function learnedLoad(load: Load, times: (what: Learnable) => number): Load {
  const torque = times('loadTorque');
  const friction = times('friction');
  switch (load.kind) {
    case 'torque':
      return { ...load, constant: load.constant * friction, viscous: load.viscous * torque, quadratic: load.quadratic * torque };
    case 'pump':
      return {
        ...load,
        bestEfficiency: load.bestEfficiency / torque,
        seal: load.seal * friction,
        runOut: load.runOut * times('runOutPower'),
        waterLag: load.waterLag * times('waterLag'),
        noFlowShare: Math.min(0.95, load.noFlowShare * times('noFlowPower')),
        shutOffHead: load.shutOffHead * times('processHead'),
        headFall: load.headFall * times('processHead'),
        demand: load.demand * times('processDemand'),
        compliance: load.compliance * times('processCompliance'),
      };
    case 'fan':
      return {
        ...load,
        bestEfficiency: load.bestEfficiency / torque,
        shutOffPressure: load.shutOffPressure * times('processHead'),
        pressureFall: load.pressureFall * times('processHead'),
        duct: load.duct / times('processDemand') ** 2,
      };
    case 'conveyor':
      return { ...load, frictionCoefficient: load.frictionCoefficient * friction, viscous: load.viscous * torque };
    case 'hoist':
      return { ...load, mass: load.mass * torque, hookMass: load.hookMass * torque };
  }
}

/** The estimate with what was learned put in. Pure. */
export function applyLearned(spec: MachineSpec, l: Learned): MachineSpec {
  const times = timesOf(spec, l);
  const c = spec.circuit;
  const leakage = times('leakage');
  const magnetising = times('magnetising');
  const inertia = spec.inertia * times('inertia');
  return {
    ...spec,
    inertia,
    rotorInertia: Math.min(spec.rotorInertia, inertia),
    circuit: {
      ...c,
      r1: c.r1 * times('statorResistance'),
      r2: c.r2 * times('rotorResistance'),
      x1: c.x1 * leakage,
      x2: c.x2 * leakage,
      xm: c.xm * magnetising,
      rotationalLoss: c.rotationalLoss * times('rotationalLoss'),
    },
    load: learnedLoad(spec.load, times),
    rating: {
      ...spec.rating,
      busCapacitance: spec.rating.busCapacitance * times('capacitance'),
      ...(spec.rating.inverterDrop !== undefined && { inverterDrop: spec.rating.inverterDrop * times('inverterDrop') }),
    },
    supply: { ...spec.supply, voltage: spec.supply.voltage * times('supply') },
  };
}

/** Standard deviations by which a machine may be heavier than its data say, and turn easier; both at once are seldom further out (one of twenty and less). */
const heavier = 1.645;
const easier = 1;

/**
 * A machine as hard to stop as its data leave open: heavier, with less that brakes it. What has to hold whatever the machine turns out to be is sized by it. Pure.
 * @param learned what a recording has narrowed already, and is in `spec`
 */
export function hardToStop(spec: MachineSpec, learned: Learned = {}): MachineSpec {
  const by = (what: Learnable, deviations: number) => ({ times: Math.exp(deviations * (learned[what]?.spread ?? usualSpread[what])), spread: 0 });
  return applyLearned(spec, {
    inertia: by('inertia', heavier),
    // what hangs is harder to stop the heavier it is
    loadTorque: by('loadTorque', spec.load.kind === 'hoist' ? easier : -easier),
    friction: by('friction', -easier),
    rotationalLoss: by('rotationalLoss', -easier),
  });
}
