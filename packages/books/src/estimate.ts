import type { Driven } from '@yare/contract';
import {
  circuitFromPlate,
  completePlate,
  pumpFromRatedPoint,
  ratedTorque,
  sourceInductance,
  usualRotorInertia,
  type Circuit,
  type DriveParameters,
  type DriveRating,
  type Load,
  type MachineSpec,
  type Plate,
  type StampedPlate,
} from '@yare/core';

/** Elasticity of a short pipe run with a small accumulator, m³/Pa (common practice). */
const usualCompliance = 4e-8;

/** The load as the model takes it, from what is known of the driven machine. `demandShare` is how far the demand valve is open. */
export function loadFromDriven(driven: Driven, plate: Plate, demandShare = 0.7): Load {
  const ratedSpeed = (plate.speed * 2 * Math.PI) / 60;
  if (driven.kind === 'pump') {
    return pumpFromRatedPoint({
      ratedSpeed,
      flow: driven.flow / 3600,
      head: driven.head,
      efficiency: driven.efficiency / 100,
      staticHead: driven.staticHead,
      compliance: usualCompliance,
      demandShare,
    });
  }
  const torque = (driven.torqueShare / 100) * ratedTorque(plate.power, plate.speed);
  if (driven.kind === 'conveyor') return { kind: 'torque', constant: 0.85 * torque, viscous: (0.15 * torque) / ratedSpeed, quadratic: 0 };
  return { kind: 'torque', constant: 0.04 * torque, viscous: 0, quadratic: (0.96 * torque) / ratedSpeed ** 2 };
}

/** One machine as estimated from its plate and what is driven; a sentence when the plate makes that impossible. */
export function estimateMachine(
  stamped: StampedPlate,
  driven: Driven,
  drive: DriveParameters,
  rating: DriveRating,
  supply: { voltage: number; frequency: number },
): { ok: true; spec: MachineSpec; circuit: Circuit; plate: Plate } | { ok: false; sentence: string } {
  let plate: Plate;
  try {
    plate = completePlate(stamped);
  } catch (error) {
    return { ok: false, sentence: (error as Error).message };
  }
  const estimate = circuitFromPlate(plate);
  if (!estimate.ok) return estimate;
  return {
    ok: true,
    plate,
    circuit: estimate.circuit,
    spec: {
      circuit: estimate.circuit,
      inertia: usualRotorInertia(plate.power, plate.poles) + driven.inertia,
      load: loadFromDriven(driven, plate),
      drive,
      rating,
      supply: { ...supply, inductance: sourceInductance(supply.voltage, supply.frequency, rating.current) },
    },
  };
}
