import {
  coolingShare,
  nextState,
  overloadTimeConstant,
  restingBus,
  stepBus,
  stepHeat,
  voltageCeiling,
  Control,
  DriveState,
  type BusState,
  type DriveParameters,
  type DriveRating,
  type Supply,
} from '../drive';
import { restingLoad, stepLoad, type Load, type LoadState } from '../load';
import { emptyOperation, operateInto, rotationalTorque, type Circuit, type Operation } from '../motor';

/** Everything that makes one driven machine: the same shape for the look-ahead (estimated) and the bench (true). */
export interface MachineSpec {
  circuit: Circuit;
  /** kg·m², motor and load at the motor shaft */
  inertia: number;
  load: Load;
  drive: DriveParameters;
  rating: DriveRating;
  supply: Supply;
}

export type TripCause = 'overvoltage' | 'undervoltage' | 'overcurrent' | 'motorOverload' | 'driveOverload' | 'linkLoss';

/** What the drive remembers of a trip. */
export interface TripSnapshot {
  cause: TripCause;
  /** s since the machine was made */
  time: number;
  frequency: number;
  current: number;
  busVoltage: number;
  torque: number;
}

/** A drive, its motor and load at one instant. Advanced in place by {@link stepMachine}. */
export interface Machine {
  spec: MachineSpec;
  time: number;
  steps: number;
  state: DriveState;
  /** Hz, signed: where the ramp stands */
  ramp: number;
  /** Hz, signed: at the terminals, slip compensation and current limit included */
  frequency: number;
  /** phase RMS, V */
  voltage: number;
  /** Hz taken off (motoring) or added (regenerating) by the current limit */
  limitShift: number;
  /** 1 while the current limit or the bus holds the ramp */
  holding: number;
  /** Hz added while a high bus holds the ramp */
  busShift: number;
  slipShift: number;
  /** rad/s, mechanical, signed */
  speed: number;
  motor: Operation;
  /** N·m per rad/s, motor torque over speed, renewed every few steps */
  slope: number;
  loadState: LoadState;
  bus: BusState;
  motorHeat: number;
  driveHeat: number;
  resetWas: number;
  trip: TripSnapshot | null;
}

export function createMachine(spec: MachineSpec): Machine {
  const motor = emptyOperation();
  for (const key of Object.keys(motor) as Array<keyof Operation>) motor[key] = 0;
  return {
    spec,
    time: 0,
    steps: 0,
    state: DriveState.switchOnDisabled,
    ramp: 0,
    frequency: 0,
    voltage: 0,
    limitShift: 0,
    holding: 0,
    busShift: 0,
    slipShift: 0,
    speed: 0,
    motor,
    slope: 0,
    loadState: restingLoad(),
    bus: restingBus(spec.supply),
    motorHeat: 0,
    driveHeat: 0,
    resetWas: 0,
    trip: null,
  };
}

/** Output frequency in Hz below which the drive counts as standing. */
const standstill = 0.05;
/** The current limit leaves the ramp alone below this, Hz: there the current is the boost's and falls as the frequency rises. */
const limitFrom = 1;
/** Lowest frequency the inverter modulates, Hz. */
const leastFrequency = 0.1;
/** Thermal models are advanced once in so many steps. */
const heatEvery = 10;
/** The torque slope only steadies the step, so it is renewed once in so many. */
const slopeEvery = 5;
/** Hysteresis of the chopper and of the ramp hold, V. */
const chopperBand = 15;
/** The deceleration ramp waits from this far below the overvoltage trip, V, and the output is raised to take less back. */
const holdBelowTrip = 60;

/** Stops output and remembers what the drive saw. */
export function tripMachine(m: Machine, cause: TripCause): void {
  m.trip = { cause, time: m.time, frequency: m.frequency, current: m.motor.current, busVoltage: m.bus.voltage, torque: m.motor.torque };
  m.state = DriveState.fault;
}

const stepToward = (value: number, goal: number, by: number): number => (value < goal ? Math.min(goal, value + by) : Math.max(goal, value - by));

/** The reference a drive makes of what it is given: direction permitted or not, held between minimum and maximum. Hz, signed. */
export function clampReference(p: DriveParameters, reference: number): number {
  if (reference === 0) return 0;
  if (reference < 0 && p.reversePermit === 0) return 0;
  const size = Math.min(Math.max(Math.abs(reference), p.minimumFrequency), p.maximumFrequency);
  return reference < 0 ? -size : size;
}

function stepRamp(m: Machine, word: number, reference: number, dt: number): void {
  const p = m.spec.drive;
  const stopping = m.state === DriveState.quickStop || m.state === DriveState.faultReaction || (word & Control.enableOperation) === 0;
  const goal = stopping ? 0 : clampReference(p, reference);
  const slowing = Math.abs(goal) < Math.abs(m.ramp) || goal * m.ramp < 0;
  const time = m.state === DriveState.quickStop ? p.quickStopTime : slowing ? p.decelerationTime : p.accelerationTime;
  const limit = p.currentLimit;
  const motoring = m.motor.torque * m.frequency >= 0;
  // a linear limiter: the shift grows while the current is above the limit and drains when it is below
  const over = m.motor.current / limit - 1;
  const most = Math.max(0, Math.abs(m.ramp) - limitFrom);
  m.limitShift = over > 0 ? Math.min(most, m.limitShift + over * 60 * dt) : Math.max(0, m.limitShift - 15 * dt);
  const limitHolds = over > -0.02 && most > 0 && (slowing ? !motoring : motoring);
  const busHolds = p.busRampHold === 1 && slowing && m.bus.voltage > m.spec.rating.overvoltageTrip - holdBelowTrip;
  m.busShift = busHolds
    ? Math.min(1, (m.bus.voltage - m.spec.rating.overvoltageTrip + holdBelowTrip) / (0.5 * holdBelowTrip)) *
      2 *
      (p.motorFrequency - (p.motorSpeed * m.spec.circuit.poles) / 120)
    : 0;
  m.holding = limitHolds || busHolds ? 1 : 0;
  if (m.holding === 0) m.ramp = stepToward(m.ramp, goal, (p.motorFrequency / Math.max(time, 0.01)) * dt);
}

function outputVoltage(m: Machine, frequency: number): number {
  const p = m.spec.drive;
  const rated = p.motorVoltage / Math.sqrt(3);
  const x = frequency / p.motorFrequency;
  const shape = x >= 1 ? 1 : p.startBoost + (1 - p.startBoost) * (p.voltageShape === 1 ? x * x : x);
  return Math.min(shape * rated, voltageCeiling(m.bus.voltage));
}

/** Torque and current at the present speed into m.motor; direction is mirrored for negative frequency. */
function stepElectrical(m: Machine, dt: number): void {
  const { circuit, drive } = m.spec;
  const p = drive;
  const direction = m.ramp < 0 ? -1 : 1;
  const ratedSlip = p.motorFrequency - (p.motorSpeed * circuit.poles) / 120;
  const wanted = p.slipCompensation > 0 && m.voltage > 0 ? (p.slipCompensation * ratedSlip * m.motor.torque * direction) / ratedTorqueOf(m) : 0;
  m.slipShift += (Math.max(-2 * ratedSlip, Math.min(2 * ratedSlip, wanted)) - m.slipShift) * (dt / 0.1);
  const motoring = m.motor.torque * direction >= 0;
  const size = Math.max(leastFrequency, Math.abs(m.ramp) + m.slipShift + m.busShift + (motoring ? -m.limitShift : m.limitShift));
  m.frequency = direction * size;
  m.voltage = outputVoltage(m, size);
  operateInto(m.motor, circuit, m.voltage, size, m.speed * direction);
  if (direction < 0) {
    m.motor.torque = -m.motor.torque;
    m.motor.shaftTorque = -m.motor.shaftTorque;
  }
}

const ratedTorqueOf = (m: Machine): number => {
  const c = m.spec.circuit;
  const p = m.spec.drive;
  return (Math.sqrt(3) * p.motorVoltage * p.motorCurrent * 0.75) / c.ratedSpeed;
};

function currentOff(m: Machine): void {
  const o = m.motor;
  o.current = 0;
  o.powerFactor = 0;
  o.input = 0;
  o.torque = 0;
  o.shaftTorque = 0;
  o.statorCopperLoss = 0;
  o.coreLoss = 0;
  o.rotorCopperLoss = 0;
  o.airGapPower = 0;
  m.voltage = 0;
  m.frequency = 0;
  m.limitShift = 0;
  m.slipShift = 0;
  m.busShift = 0;
  m.holding = 0;
}

/** dT/dω of the motor, N·m per rad/s (negative when stable), by the circuit a little further on. */
const scratch = emptyOperation();
function torqueSlope(m: Machine): number {
  const direction = m.frequency < 0 ? -1 : 1;
  const d = 0.05;
  operateInto(scratch, m.spec.circuit, m.voltage, Math.abs(m.frequency), m.speed * direction + d);
  return (scratch.torque - m.motor.torque * direction) / d;
}

/**
 * One step of J dω/dt = T − T_loss − T_load, Rosenbrock–Euler: taken at the end of the step along the present slopes, so that light
 * rotors stay stable at 1 ms. Returns the shaft power in W over the step, with the torque that really acted, so that no energy is
 * made or lost between shaft and bus.
 */
function stepMechanics(m: Machine, on: boolean, dt: number): number {
  const { circuit, inertia, load } = m.spec;
  stepLoad(m.loadState, load, m.speed, dt);
  if (!on) m.slope = 0;
  else if (m.steps % slopeEvery === 0) m.slope = Math.min(0, torqueSlope(m));
  const net = m.motor.torque - rotationalTorque(circuit, m.speed) - m.loadState.torque;
  const against = m.loadState.slope + circuit.rotationalLoss / (circuit.ratedSpeed * circuit.ratedSpeed);
  const change = (dt * net) / (inertia + dt * (against - m.slope));
  const before = m.speed;
  m.speed += change;
  return ((m.motor.torque + m.slope * change) * (before + m.speed)) / 2;
}

function stepProtection(m: Machine, dt: number): void {
  const { rating, drive } = m.spec;
  const current = m.motor.current;
  if (m.steps % heatEvery === 0) {
    const share = coolingShare(drive.motorCooling === 1, Math.abs(m.frequency) / drive.motorFrequency);
    m.motorHeat = stepHeat(m.motorHeat, current / (drive.overloadCurrent * share), overloadTimeConstant(drive.overloadClass), dt * heatEvery);
    m.driveHeat = stepHeat(m.driveHeat, current / rating.current, overloadTimeConstant(10), dt * heatEvery);
  }
  if (m.state === DriveState.fault) return;
  if (m.bus.voltage > rating.overvoltageTrip) tripMachine(m, 'overvoltage');
  else if (current > rating.overcurrentTrip) tripMachine(m, 'overcurrent');
  else if (m.bus.voltage < rating.undervoltageTrip && m.state >= DriveState.switchedOn) tripMachine(m, 'undervoltage');
  else if (m.motorHeat >= 1) tripMachine(m, 'motorOverload');
  else if (m.driveHeat >= 1) tripMachine(m, 'driveOverload');
}

/** Advances the CiA 402 state; a fault reset clears the remembered cause only when it is gone. */
function stepState(m: Machine, word: number): void {
  const resetNow = (word & Control.faultReset) !== 0 ? 1 : 0;
  const gone =
    m.bus.voltage < m.spec.rating.overvoltageTrip && m.bus.voltage > m.spec.rating.undervoltageTrip && m.motorHeat < 0.95 && m.driveHeat < 0.95;
  const edge = resetNow === 1 && m.resetWas === 0 && gone;
  m.resetWas = resetNow;
  const before = m.state;
  const enabling = (word & Control.enableOperation) !== 0;
  const coastNow = before === DriveState.operationEnabled && !enabling && m.spec.drive.stopMode === 1;
  m.state = nextState(before, word, coastNow || Math.abs(m.ramp) < standstill, edge);
  if (before === DriveState.fault && m.state !== DriveState.fault) m.trip = null;
  if (m.state === DriveState.operationEnabled && before !== DriveState.operationEnabled) m.ramp = 0;
}

/**
 * Advances drive, motor, load and bus by one step.
 * @param word control word (IEC 61800-7-201)
 * @param reference Hz, signed
 * @param dt s; 1 ms by default of the callers
 */
export function stepMachine(m: Machine, word: number, reference: number, dt: number): void {
  stepState(m, word);
  const on = m.state === DriveState.operationEnabled || m.state === DriveState.quickStop || m.state === DriveState.faultReaction;
  if (on) {
    stepRamp(m, word, reference, dt);
    stepElectrical(m, dt);
  } else {
    m.ramp = 0;
    currentOff(m);
  }
  const shaftPower = stepMechanics(m, on, dt);
  const o = m.motor;
  const drawn =
    (on ? o.statorCopperLoss + o.coreLoss + o.rotorCopperLoss + m.spec.rating.lossPerAmpere * o.current + shaftPower : 0) + m.spec.rating.idleLoss;
  const d = m.spec.drive;
  stepBus(
    m.bus,
    m.spec.supply,
    m.spec.rating.busCapacitance,
    drawn,
    d.chopper === 1 ? d.brakeResistance : 0,
    d.chopperLevel,
    d.chopperLevel - chopperBand,
    dt,
  );
  m.time += dt;
  m.steps += 1;
  stepProtection(m, dt);
}
