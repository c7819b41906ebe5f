import { voltageCeiling, ControlMethod } from '../drive';
import {
  directCurrentBraking,
  fluxRiseInto,
  fluxShare,
  lockedImpedance,
  magnetisingShare,
  emptyOperation,
  operateInto,
  operateOpenPhase,
} from '../motor';
import { fieldOrder, rotorFrequency } from './fieldOrder';
import { ratedSlipFrequency } from './ramp';
import { Holding, type Machine } from './state';

/** Lowest frequency the inverter modulates, Hz. */
const leastFrequency = 0.1;
/** The torque slope only steadies the step, and the iron follows its flux slowly, so both are renewed once in so many steps. */
const slopeEvery = 5;
/** s in which the iron goes to its new flux; bent iron pushes back up to eight times, so small steps settle. */
const ironTime = 0.03;
/** Share of rated current that the flux alone takes (common practice). */
const leastFluxCurrent = 0.4;
/** Short-circuit current over the drive's rating: what the first pulse would bring before it is blocked. */
const shortCircuitShare = 8;

/** Phase V the control method asks for at a frequency in Hz, before the ceiling of the present bus. */
function outputVoltage(m: Machine, frequency: number): number {
  const p = m.spec.drive;
  const rated = p.motorVoltage / Math.sqrt(3);
  const x = frequency / p.motorFrequency;
  const bent = p.controlMethod === ControlMethod.quadratic ? x * x : x;
  const boost = p.startBoost * m.boostShare;
  let volts = x >= 1 ? rated : (boost + (1 - boost) * bent) * rated;
  // sensorless vector makes up for the drop across the stator it knows, beyond what the plate's own load has there
  if (p.controlMethod === ControlMethod.sensorlessVector && p.statorResistance > 0) {
    const rotor = Math.abs(rotorFrequency(m));
    const share = Math.min(p.torqueLimit, Math.max(leastFluxCurrent, Math.abs(frequency - rotor) / ratedSlipFrequency(m)));
    const drop = p.statorResistance * p.motorCurrent;
    volts = Math.min(1, x) * (rated - drop) + drop * share;
  }
  return Math.min(volts, voltageCeiling(m.bus.voltage));
}

/**
 * Share of the apparent power that comes out at the shaft, cos φ · η, where nobody told the drive: small motors have little of either. Through
 * what catalogue motors of two to six poles have from 0.18 to 200 kW (common practice).
 */
export const usualShaftShare = (voltAmperes: number): number => 0.85 - 0.37 * (Math.max(200, voltAmperes) / 400) ** -0.35;

/** Torque at the plate's load as the drive works it out from its own settings, N·m. */
export const ratedTorqueOf = (m: Machine): number => {
  const p = m.spec.drive;
  const voltAmperes = Math.sqrt(3) * p.motorVoltage * p.motorCurrent;
  return (p.motorPower > 0 ? p.motorPower : voltAmperes * usualShaftShare(voltAmperes)) / ((p.motorSpeed * 2 * Math.PI) / 60);
};

/** Vector control holds the slip, and so the torque, to its limit: the output never runs further from the rotor. Returns Hz. */
function withinTorque(m: Machine, size: number, side: number): number {
  const rotor = side * rotorFrequency(m);
  const most = ratedSlipFrequency(m) * m.spec.drive.torqueLimit;
  if (size > rotor + most && size > 1) {
    const held = Math.max(1, rotor + most);
    m.ramp = side * Math.max(0, held - m.slipShift);
    m.holding = Holding.torqueLimit;
    return held;
  }
  if (size < rotor - most) {
    m.ramp = side * (rotor - most - m.slipShift);
    m.holding = Holding.torqueLimit;
    return rotor - most;
  }
  return size;
}

/** Phase V that reach the motor: what dead time and devices take goes with the current, and comes on top while the motor gives back. */
export function atMotor(m: Machine): number {
  const drop = m.spec.rating.inverterDrop ?? 0;
  const left = m.voltage - drop * m.motor.powerFactor;
  return left > leastShare * m.voltage ? left : leastShare * m.voltage;
}
/** Of the volts asked for, what reaches the motor however little that is. */
const leastShare = 0.1;

/** Torque and current at the present speed into m.motor; direction is mirrored for negative frequency. */
export function stepElectrical(m: Machine, dt: number): void {
  const { drive: p } = m.spec;
  const circuit = m.warm;
  // the drive knows the side it runs to; where the field turns is up to the order of the leads
  const side = m.ramp < 0 ? -1 : 1;
  const direction = side * fieldOrder(m);
  const compensation = p.controlMethod === ControlMethod.sensorlessVector ? 1 : p.slipCompensation;
  if (compensation > 0) {
    const ratedSlip = ratedSlipFrequency(m);
    const wanted = m.voltage > 0 ? (compensation * ratedSlip * m.motor.torque * direction) / ratedTorqueOf(m) : 0;
    m.slipShift += (Math.max(-2 * ratedSlip, Math.min(2 * ratedSlip, wanted)) - m.slipShift) * (dt / 0.1);
  } else m.slipShift = 0;
  // a flux that still builds up swings through torque of either sign
  const motoring = m.fluxRises === 1 || m.motor.torque * direction >= 0;
  let size = Math.max(leastFrequency, Math.abs(m.ramp) + m.slipShift + m.busShift + (motoring ? -m.limitShift : m.limitShift));
  if (p.controlMethod === ControlMethod.sensorlessVector) size = withinTorque(m, size, side);
  m.frequency = side * size;
  m.voltage = outputVoltage(m, size);
  if (m.conditions.motorPhaseOpen === 1) return openPhase(m, direction, size);
  const volts = atMotor(m);
  if (m.fluxRises === 1) riseFlux(m, volts, size, direction, dt);
  else operateInto(m.motor, circuit, volts, size, m.speed * direction, m.magnetising);
  if (m.steps % slopeEvery === 0) {
    if (circuit.ratedEmf !== undefined)
      m.magnetising +=
        Math.min(0.3, (slopeEvery * dt) / ironTime) * (magnetisingShare(circuit, fluxShare(circuit, m.motor.emf, size)) - m.magnetising);
    m.slope = m.fluxRises === 1 ? 0 : Math.min(0, torqueSlope(m, volts, size, direction));
  }
  if (direction < 0) {
    m.motor.torque = -m.motor.torque;
    m.motor.shaftTorque = -m.motor.shaftTorque;
  }
  const { earthConductance, shortCircuit } = m.conditions;
  if (earthConductance > 0) m.motor.current = Math.hypot(m.motor.current, m.voltage * earthConductance);
  if (shortCircuit === 1) m.motor.current = shortCircuitShare * m.spec.rating.current;
}

/** s for which the flux has to stay what the steady state has before that is taken in its place: a shaft swings through it. */
const fluxSteady = 0.1;

/** Hz above which an output that comes on is not that of a start: a machine put at speed at once has its flux. */
const startsBelow = 3;

/** The motor while its flux builds up; ends that once it is there to stay. */
function riseFlux(m: Machine, volts: number, size: number, direction: number, dt: number): void {
  if (m.flux.re === 0 && m.flux.im === 0 && size > startsBelow) {
    m.fluxRises = 0;
    operateInto(m.motor, m.warm, volts, size, m.speed * direction, m.magnetising);
    return;
  }
  const there = fluxRiseInto(m.motor, m.flux, m.warm, volts, size, m.speed * direction, m.magnetising, dt);
  m.fluxTime = there ? m.fluxTime + dt : 0;
  if (m.fluxTime > fluxSteady) m.fluxRises = 0;
}

/** A and N·m with one motor lead open. */
function openPhase(m: Machine, direction: number, size: number): void {
  const o = m.openPhase;
  operateOpenPhase(o, m.warm, m.voltage, size, m.speed * direction);
  m.slope = 0;
  m.motor.current = o.current;
  m.motor.torque = direction * o.torque;
  m.motor.shaftTorque = m.motor.torque;
  m.motor.input = o.input;
  m.motor.statorCopperLoss = o.copperLoss;
  m.motor.rotorCopperLoss = 0;
  m.motor.coreLoss = 0;
}

/** dT/dω of the motor, N·m per rad/s (negative when stable), by the circuit a little further on. */
const scratch = emptyOperation();
function torqueSlope(m: Machine, volts: number, size: number, direction: number): number {
  const d = 0.05;
  operateInto(scratch, m.warm, volts, size, m.speed * direction + d, m.magnetising);
  return (scratch.torque - m.motor.torque) / d;
}

/** Direct current in the stator: the rotor's energy is burnt in the rotor, the bus feeds only the stator's copper. */
export function stepDirectCurrent(m: Machine): void {
  const { drive } = m.spec;
  const circuit = m.warm;
  const o = m.motor;
  const amperes = drive.dcCurrent * drive.motorCurrent;
  const braking = directCurrentBraking(circuit, amperes, m.speed);
  const further = directCurrentBraking(circuit, amperes, Math.abs(m.speed) + 0.05);
  currentOff(m);
  m.slope = Math.min(0, -(further.torque - braking.torque) / 0.05);
  o.current = amperes;
  o.torque = -Math.sign(m.speed) * braking.torque;
  o.shaftTorque = o.torque;
  o.statorCopperLoss = braking.statorCopperLoss;
  // what the shaft gives is lost in the rotor
  o.rotorCopperLoss = braking.torque * Math.abs(m.speed);
  o.input = braking.statorCopperLoss;
  o.powerFactor = 1;
}

/**
 * A test at standstill through two leads: direct current, or single-phase current whose two opposite fields give no torque
 * (IEEE Std 112, impedance test). The impedance between the leads is twice that of a phase with the rotor locked.
 */
export function stepTest(m: Machine): void {
  const c = m.warm;
  const o = m.motor;
  currentOff(m);
  if (m.conditions.motorPhaseOpen === 1) return;
  const amperes = m.testCurrent;
  const k = m.testFrequency / c.ratedFrequency;
  const { resistance, reactance } = lockedImpedance(c, k);
  o.current = amperes;
  m.voltage = (2 * amperes * Math.hypot(resistance, reactance)) / Math.sqrt(3);
  o.statorCopperLoss = 2 * amperes * amperes * c.r1;
  o.rotorCopperLoss = 2 * amperes * amperes * (resistance - c.r1);
  o.input = 2 * amperes * amperes * resistance;
  o.powerFactor = resistance / Math.hypot(resistance, reactance);
}

export function currentOff(m: Machine): void {
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
  o.emf = 0;
  m.voltage = 0;
  m.frequency = 0;
  m.limitShift = 0;
  m.slipShift = 0;
  m.busShift = 0;
  m.holding = Holding.nothing;
  m.slope = 0;
}
