import { sourceInductance, type DriveParameters, type DriveRating, type Supply } from '../drive';
import { agitator, conveyorFromDuty, fanFromRatedPoint, pumpFromRatedPoint, type Load } from '../load';
import type { MachineSpec } from '../machine';
import { circuitFromPlate, motorThermal, usualRotorInertia, type Circuit } from '../motor';
import { completePlate, ratedTorque, type Plate, type StampedPlate } from '../plate';
import { present } from '../present';
import type { Driven } from './driven';

/** Elasticity of a short pipe run with a small accumulator, m³/Pa (common practice). */
const usualCompliance = 4e-8;
/** How far a demand valve is taken to be open when nobody has said, so that rated flow is a little more than is used. */
const usualDemand = 0.7;
/** Lag of a spring-applied brake, s (common practice). */
const usualBrakeLag = 0.12;

/** The load as the model takes it, from what is known of the driven machine. */
export function loadFromDriven(driven: Driven, plate: Plate): Load {
  const ratedSpeed = (plate.speed * 2 * Math.PI) / 60;
  const rated = ratedTorque(plate.power, plate.speed);
  switch (driven.kind) {
    case 'pump': {
      const pump = pumpFromRatedPoint({
        ratedSpeed,
        flow: driven.flow / 3600,
        head: driven.head,
        efficiency: driven.efficiency / 100,
        staticHead: driven.staticHead,
        compliance: usualCompliance,
        demandShare: driven.sump ? 1 : usualDemand,
      });
      return driven.sump ? { ...pump, sumpArea: driven.sump.area, inflow: driven.sump.inflow / 3600, dryLevel: -driven.sump.depth } : pump;
    }
    case 'fan':
      return fanFromRatedPoint({
        ratedSpeed,
        flow: driven.flow / 3600,
        pressure: driven.pressure,
        efficiency: driven.efficiency / 100,
        volume: driven.volume,
      });
    case 'conveyor':
      return conveyorFromDuty({
        ratedSpeed,
        torque: (driven.torqueShare / 100) * rated,
        feed: driven.feed / 3.6,
        beltSpeed: driven.beltSpeed,
        length: driven.length,
        slope: (driven.slope * Math.PI) / 180,
        ratio: driven.ratio,
      });
    case 'hoist':
      return {
        kind: 'hoist',
        mass: driven.lifts,
        hookMass: driven.hook,
        travel: driven.hoistSpeed / ratedSpeed,
        efficiency: driven.efficiency / 100,
      };
    case 'agitator':
      return agitator((driven.torqueShare / 100) * rated, ratedSpeed);
  }
}

const circuits = new Map<string, ReturnType<typeof circuitFromPlate>>();
const mostCircuits = 24;

/** The circuit of a plate, remembered: the fit takes some milliseconds and the same plate is asked for at every change of a setting. */
export function circuitOf(plate: Plate): ReturnType<typeof circuitFromPlate> {
  const key = JSON.stringify(plate);
  const known = circuits.get(key);
  if (known) return known;
  const fresh = circuitFromPlate(plate);
  if (circuits.size >= mostCircuits) circuits.delete(present(circuits.keys().next().value));
  circuits.set(key, fresh);
  return fresh;
}

export type Estimate =
  | { ok: true; spec: MachineSpec; circuit: Circuit; plate: Plate }
  /** `about` what is driven where the plate is not to blame */
  | { ok: false; sentence: string; about?: 'driven' };

/** One machine as estimated from its plate and what is driven; a sentence when the plate makes that impossible. */
export function estimateMachine(
  stamped: StampedPlate,
  driven: Driven,
  drive: DriveParameters,
  rating: DriveRating,
  supply: Pick<Supply, 'voltage' | 'frequency' | 'rectifier'>,
): Estimate {
  let plate: Plate;
  try {
    plate = completePlate(stamped);
  } catch (error) {
    return { ok: false, sentence: (error as Error).message };
  }
  if (driven.kind === 'conveyor' && driven.torqueShare < 0 && driven.slope >= 0)
    return {
      ok: false,
      about: 'driven',
      sentence: 'A belt drives its motor only where it runs downhill: torque below zero wants a slope below zero.',
    };
  const estimate = circuitOf(plate);
  if (!estimate.ok) return estimate;
  const rotorInertia = usualRotorInertia(plate.power, plate.poles);
  const brakeShare = driven.kind === 'conveyor' || driven.kind === 'hoist' ? driven.brakeShare : null;
  return {
    ok: true,
    plate,
    circuit: estimate.circuit,
    spec: {
      circuit: estimate.circuit,
      thermal: motorThermal(plate.power / plate.efficiency - plate.power, plate.power),
      rotorInertia,
      inertia: rotorInertia + driven.inertia,
      load: loadFromDriven(driven, plate),
      drive,
      rating,
      supply: { ...supply, inductance: sourceInductance(supply.voltage, supply.frequency, rating.current) },
      ...(brakeShare !== null && { brake: { torque: (brakeShare / 100) * ratedTorque(plate.power, plate.speed), lag: usualBrakeLag } }),
    },
  };
}
