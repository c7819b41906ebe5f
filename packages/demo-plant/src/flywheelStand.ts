import { bookById, DriveSettings } from '@yare/books';
import {
  circuitFromPlate,
  completePlate,
  motorThermal,
  sourceInductance,
  Switch,
  usualRotorInertia,
  type MachineSpec,
  type StampedPlate,
} from '@yare/core';

const plate: StampedPlate = {
  standard: 'NEMA',
  power: 0.5,
  powerUnit: 'hp',
  voltage: 230,
  connection: 'star',
  current: 1.39,
  frequency: 60,
  speed: 1745,
  powerFactor: 0.8,
  efficiency: 84,
  design: 'B',
  serviceFactor: 1.15,
};

const size = 'W0.7D';
/** F */
const bank = 3300e-6;

/**
 * A training stand: a flywheel on a small motor, its drive fed with 120 V single phase and doubling it. Its run-down is the pattern
 * everybody sees who shortens a stop step by step.
 */
export function flywheelStand(decelerationTime: number): MachineSpec {
  const complete = completePlate(plate);
  const estimate = circuitFromPlate(complete);
  if (!estimate.ok) throw new Error(estimate.sentence);
  const factory = new DriveSettings(bookById('withy'), size, {}, 60);
  const settings = factory.with(Object.fromEntries(factory.plate(plate).map((p) => [p.code, p.value])));
  return {
    circuit: estimate.circuit,
    thermal: motorThermal(complete.power / complete.efficiency - complete.power, complete.power),
    inertia: 0.014,
    rotorInertia: usualRotorInertia(complete.power, complete.poles),
    load: { kind: 'torque', constant: 0.01, viscous: 0, quadratic: 0 },
    drive: { ...settings.parameters(), decelerationTime, busRampHold: Switch.off },
    // the stand has a bank of capacitors of its own beside the drive's
    rating: { ...settings.hardware(), busCapacitance: bank },
    supply: { voltage: 120, frequency: 60, inductance: sourceInductance(120, 60, 10), rectifier: 'doubler' },
  };
}
