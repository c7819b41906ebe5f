import { bookById, driveRating, estimateMachine, driveParameters, type DemoMachine } from '@yare/books';
import { random, type MachineSpec } from '@yare/core';

/** A multiplier drawn around 1 with a standard deviation, held within three of them. */
const around = (normal: () => number, deviation: number): number => 1 + deviation * Math.max(-3, Math.min(3, normal()));

/**
 * The true machine behind the terminals: what the plate suggests, moved by a seed. Deviations are those of manufacturing tolerance
 * and of guessed loads (common practice): windings 5 to 8 %, leakage 12 %, inertia 15 %, friction 20 %, supply 1 %.
 */
export function trueMachine(demo: DemoMachine, values: Readonly<Record<string, number>>, seed: number): MachineSpec {
  const book = bookById(demo.bookId);
  const estimate = estimateMachine(demo.plate, demo.driven, driveParameters(book, demo.size, values), driveRating(book, demo.size), demo.supply);
  if (!estimate.ok) throw new Error(`${demo.tag}: ${estimate.sentence}`);
  const { normal } = random(seed * 7919 + demo.unit * 104729);
  const { spec } = estimate;
  const c = spec.circuit;
  const load =
    spec.load.kind === 'pump'
      ? {
          ...spec.load,
          shutOffHead: spec.load.shutOffHead * around(normal, 0.03),
          headFall: spec.load.headFall * around(normal, 0.06),
          bestEfficiency: spec.load.bestEfficiency * around(normal, 0.03),
          demand: spec.load.demand * around(normal, 0.1),
        }
      : {
          ...spec.load,
          constant: spec.load.constant * around(normal, 0.2),
          viscous: spec.load.viscous * around(normal, 0.2),
          quadratic: spec.load.quadratic * around(normal, 0.08),
        };
  return {
    ...spec,
    circuit: {
      ...c,
      r1: c.r1 * around(normal, 0.05),
      x1: c.x1 * around(normal, 0.12),
      xm: c.xm * around(normal, 0.06),
      r2: c.r2 * around(normal, 0.08),
      x2: c.x2 * around(normal, 0.12),
      rFe: c.rFe * around(normal, 0.15),
      rotationalLoss: c.rotationalLoss * around(normal, 0.2),
    },
    inertia: spec.inertia * around(normal, 0.15),
    load,
    supply: { ...spec.supply, voltage: spec.supply.voltage * around(normal, 0.01) },
  };
}
