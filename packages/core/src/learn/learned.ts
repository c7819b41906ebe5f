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
  'processHead',
  'processDemand',
  'processCompliance',
] as const;
export type Learnable = (typeof learnable)[number];

/** A multiplier and the relative half-width it is known to (one standard deviation). */
export interface LearnedValue {
  times: number;
  spread: number;
}
export type Learned = Partial<Record<Learnable, LearnedValue>>;

/**
 * How far each value may usually lie from its estimate, relative, one standard deviation (common practice: tolerances of makers, and
 * guesses of loads). They hold back what a recording cannot see.
 */
export const usualSpread: Record<Learnable, number> = {
  inertia: 0.5,
  loadTorque: 0.3,
  friction: 0.4,
  magnetising: 0.12,
  leakage: 0.15,
  statorResistance: 0.08,
  rotorResistance: 0.1,
  rotationalLoss: 0.3,
  supply: 0.03,
  capacitance: 0.08,
  processHead: 0.08,
  processDemand: 0.2,
  processCompliance: 0.3,
};

/** A value is measured when the record narrows it to less than this share of what was known before. */
const narrowed = 0.7;

/** Whether a learned value was measured, or is still as sure as it was before. */
export const isMeasured = (what: Learnable, { spread }: LearnedValue): boolean => spread < narrowed * usualSpread[what];

const times = (l: Learned, what: Learnable): number => l[what]?.times ?? 1;

function learnedLoad(load: Load, l: Learned): Load {
  const torque = times(l, 'loadTorque');
  const friction = times(l, 'friction');
  switch (load.kind) {
    case 'torque':
      return { ...load, constant: load.constant * friction, viscous: load.viscous * torque, quadratic: load.quadratic * torque };
    case 'pump':
      return {
        ...load,
        bestEfficiency: load.bestEfficiency / torque,
        shutOffHead: load.shutOffHead * times(l, 'processHead'),
        headFall: load.headFall * times(l, 'processHead'),
        demand: load.demand * times(l, 'processDemand'),
        compliance: load.compliance * times(l, 'processCompliance'),
      };
    case 'fan':
      return {
        ...load,
        bestEfficiency: load.bestEfficiency / torque,
        shutOffPressure: load.shutOffPressure * times(l, 'processHead'),
        pressureFall: load.pressureFall * times(l, 'processHead'),
        duct: load.duct / times(l, 'processDemand') ** 2,
      };
    case 'conveyor':
      return { ...load, frictionCoefficient: load.frictionCoefficient * friction, viscous: load.viscous * torque };
  }
}

/** The estimate with what was learned put in. Pure. */
export function applyLearned(spec: MachineSpec, l: Learned): MachineSpec {
  const c = spec.circuit;
  const leakage = times(l, 'leakage');
  const magnetising = times(l, 'magnetising');
  const inertia = spec.inertia * times(l, 'inertia');
  return {
    ...spec,
    inertia,
    rotorInertia: Math.min(spec.rotorInertia, inertia),
    circuit: {
      ...c,
      r1: c.r1 * times(l, 'statorResistance'),
      r2: c.r2 * times(l, 'rotorResistance'),
      x1: c.x1 * leakage,
      x2: c.x2 * leakage,
      xm: c.xm * magnetising,
      rotationalLoss: c.rotationalLoss * times(l, 'rotationalLoss'),
    },
    load: learnedLoad(spec.load, l),
    rating: { ...spec.rating, busCapacitance: spec.rating.busCapacitance * times(l, 'capacitance') },
    supply: { ...spec.supply, voltage: spec.supply.voltage * times(l, 'supply') },
  };
}
