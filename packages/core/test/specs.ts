import {
  absentFeature,
  circuitFromPlate,
  completePlate,
  conveyorFromDuty,
  fanFromRatedPoint,
  motorThermal,
  pumpFromRatedPoint,
  ratedTorque,
  sourceInductance,
  usualRotorInertia,
  agitator,
  stepMachine,
  ControlWord,
  DriveState,
  type Circuit,
  type DriveParameters,
  type Load,
  type Machine,
  type MachineSpec,
  type StampedPlate,
} from '../src';
import { f32, p11 } from './plates';

/** The settings of a general drive on the demo pump. */
export const pumpDrive: DriveParameters = {
  ...(absentFeature as DriveParameters),
  motorFrequency: 50,
  motorVoltage: 400,
  motorCurrent: 13.6,
  motorSpeed: 2925,
  accelerationTime: 5,
  decelerationTime: 5,
  secondAccelerationTime: 20,
  secondDecelerationTime: 20,
  quickStopTime: 1,
  minimumFrequency: 0,
  maximumFrequency: 50,
  currentLimit: 25,
  overloadCurrent: 13.6,
  overloadClass: 10,
  startBoost: 0.02,
  stopMode: 0,
  reversePermit: 1,
  chopperLevel: 760,
  brakeResistance: 60,
  linkTimeout: 1,
};

/** A machine with that drive: the demo pump unless told otherwise. */
export function machine(change: Partial<DriveParameters> = {}, load?: Load, inertia = 0.05, plate: StampedPlate = p11): MachineSpec {
  const complete = completePlate(plate);
  const estimate = circuitFromPlate(complete);
  if (!estimate.ok) throw new Error(estimate.sentence);
  return {
    circuit: estimate.circuit,
    thermal: motorThermal(complete.power / complete.efficiency - complete.power, complete.power),
    inertia,
    rotorInertia: Math.min(inertia, usualRotorInertia(complete.power, complete.poles)),
    load:
      load ??
      pumpFromRatedPoint({
        ratedSpeed: estimate.circuit.ratedSpeed,
        flow: 34 / 3600,
        head: 52,
        efficiency: 0.7,
        staticHead: 4,
        compliance: 4e-8,
        demandShare: 0.7,
      }),
    drive: { ...pumpDrive, ...change },
    rating: {
      current: 17,
      overcurrentTrip: 40.8,
      overvoltageTrip: 800,
      undervoltageTrip: 380,
      busCapacitance: 645e-6,
      idleLoss: 42,
      lossPerAmpere: 8,
      leastResistance: 55,
      temperatureTrip: 90,
      heatsinkRise: 40,
      overloadShare: 1.5,
    },
    supply: { voltage: 400, frequency: 50, inductance: sourceInductance(400, 50, 17) },
  };
}

export const noLoad: Load = { kind: 'torque', constant: 0, viscous: 0, quadratic: 0 };

const scaled = (s: MachineSpec, plate: StampedPlate, current: number): MachineSpec => ({
  ...s,
  drive: { ...s.drive, motorCurrent: plate.current, motorSpeed: plate.speed, overloadCurrent: plate.current, currentLimit: 1.5 * current },
  rating: { ...s.rating, current, overcurrentTrip: 2.4 * current, busCapacitance: 37e-6 * current, lossPerAmpere: 8 },
  supply: { ...s.supply, inductance: sourceInductance(400, 50, current) },
});

const conveyorPlate: StampedPlate = { ...p11, power: 2.2, connection: 'star', current: 4.64, speed: 1445, powerFactor: 0.79, efficiency: 86.7 };
const agitatorPlate: StampedPlate = { ...p11, power: 0.18, connection: 'star', current: 0.61, speed: 1390, powerFactor: 0.65, efficiency: 65 };

/** One machine of each type, for benchmarks and for properties that must hold for all. */
export const machineTypes = (): Record<'pump' | 'fan' | 'conveyor' | 'agitator', MachineSpec> => {
  const speed = (rpm: number) => (rpm * 2 * Math.PI) / 60;
  const fan = fanFromRatedPoint({ ratedSpeed: speed(1475), flow: 9, pressure: 2000, efficiency: 0.72, volume: 12 });
  const belt = conveyorFromDuty({ ratedSpeed: speed(1445), torque: 10, feed: 12, beltSpeed: 1.1, length: 14, slope: 0.1, ratio: 28 });
  return {
    pump: machine(),
    fan: scaled(machine({ accelerationTime: 60, decelerationTime: 90 }, fan, 18.4, f32), f32, 61),
    conveyor: scaled(machine({ accelerationTime: 3, decelerationTime: 3 }, belt, 0.02, conveyorPlate), conveyorPlate, 5.8),
    agitator: scaled(machine({}, agitator(0.6 * ratedTorque(180, 1390), speed(1390)), 0.0025, agitatorPlate), agitatorPlate, 1.2),
  };
};

/** Chapman, Electric Machinery Fundamentals, induction motor examples (from memory): 460 V, 25 hp, 60 Hz, 4-pole, Y. */
export const textbook: Circuit = {
  r1: 0.641,
  x1: 1.106,
  xm: 26.3,
  r2: 0.332,
  x2: 0.464,
  rFe: Infinity,
  rotationalLoss: 1100,
  ratedFrequency: 60,
  ratedSpeed: ((1800 * 2 * Math.PI) / 60) * (1 - 0.022),
  poles: 4,
};

/** On and turning at a reference, watched by a callback each step. */
export function run(m: Machine, reference: number, seconds: number, word: number = ControlWord.enableOperation, each?: () => void): Machine {
  if (m.state === DriveState.switchOnDisabled || m.state === DriveState.ready)
    for (const w of [ControlWord.shutdown, ControlWord.shutdown, ControlWord.switchOn]) stepMachine(m, w, 0, 0.001);
  for (let i = 0; i < seconds / 0.001; i++) {
    stepMachine(m, word, reference, 0.001);
    each?.();
  }
  return m;
}
