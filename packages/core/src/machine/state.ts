import {
  busAtRest,
  restingBus,
  runsThrough,
  tripCauses,
  DriveState,
  type BusState,
  type DriveParameters,
  type DriveRating,
  type Supply,
  type TripCause,
} from '../drive';
import { beltMassAt, restingLoad, type Load, type LoadState } from '../load';
import {
  cageAt,
  coldMotor,
  copperAt,
  emptyOperation,
  noFlux,
  type Circuit,
  type MotorTemperature,
  type MotorThermal,
  type Operation,
  type RotorFlux,
  type SequenceOperation,
} from '../motor';
import type { TripHistory, TripHistoryCopy } from './tripHistory';

/** Everything that makes one driven machine: the same shape for the look-ahead (estimated) and the bench (true). */
export interface MachineSpec {
  circuit: Circuit;
  thermal: MotorThermal;
  /** kg·m², motor and load at the motor shaft; what lies on a belt comes on top */
  inertia: number;
  /** kg·m², the motor's part of it */
  rotorInertia: number;
  load: Load;
  drive: DriveParameters;
  rating: DriveRating;
  supply: Supply;
  /** a brake that holds the shaft until it is told to open */
  brake?: HoldingBrake;
}

/** All that turns, at the motor shaft: rotor, machine, and a belt with what lies on it in steady feed, or what hangs on a rope. kg·m² */
export function totalInertia({ inertia, load, circuit }: MachineSpec): number {
  if (load.kind === 'hoist') return inertia + (load.mass + load.hookMass) * load.travel * load.travel;
  if (load.kind !== 'conveyor') return inertia;
  const arm = load.radius / load.ratio;
  return inertia + (load.beltMass + beltMassAt(load, circuit.ratedSpeed)) * arm * arm;
}

export interface HoldingBrake {
  /** N·m at the motor shaft */
  torque: number;
  /** s to open and to close */
  lag: number;
}

/** What surrounds the drive and may go wrong: contacts, wires, air. The bench's handles and faults turn these. 0 and 1 for no and yes. */
export interface Conditions {
  /** °C */
  ambient: number;
  /** torque permitted, per channel of safe torque off */
  sto1: number;
  sto2: number;
  externalTrip: number;
  /** an input chooses the second ramps */
  secondRamp: number;
  /** emergency ventilation runs on through trips, see EmergencyOverride */
  emergency: number;
  /** the live-zero input has lost its signal */
  liveZeroLost: number;
  /** one supply phase is missing */
  inputPhaseOpen: number;
  /** one motor lead is open */
  motorPhaseOpen: number;
  /** two motor leads are changed over at the terminals: the field turns the other way */
  phasesSwapped: number;
  shortCircuit: number;
  /** S from a motor lead to earth */
  earthConductance: number;
  /** N·m of friction at the motor shaft on top of the load's */
  jam: number;
  /** 0 when the coupling or belt is broken */
  coupling: number;
  heatsinkFan: number;
  motorFan: number;
  resistorOpen: number;
}

export const soundConditions = (): Conditions => ({
  ambient: 25,
  sto1: 1,
  sto2: 1,
  externalTrip: 0,
  secondRamp: 0,
  emergency: 0,
  liveZeroLost: 0,
  inputPhaseOpen: 0,
  motorPhaseOpen: 0,
  phasesSwapped: 0,
  shortCircuit: 0,
  earthConductance: 0,
  jam: 0,
  coupling: 1,
  heatsinkFan: 1,
  motorFan: 1,
  resistorOpen: 0,
});

/**
 * Everything sound, and the shaft turning the way it should: leads are taken to be as the setting that turns the field round makes them right.
 * What the application foresees starts from here; that they are not shows at the shaft, on Direction.
 */
export const ledRight = (spec: MachineSpec): Conditions => ({ ...soundConditions(), phasesSwapped: spec.drive.phaseOrder });

/** What the output does while the drive is enabled. */
export const Phase = { run: 0, catching: 1, demagnetising: 2, directCurrent: 3, test: 4 } as const;
export type Phase = (typeof Phase)[keyof typeof Phase];

/** What the drive remembers of a trip. */
export interface TripSnapshot {
  cause: TripCause;
  /** s since the machine was made */
  time: number;
  state: DriveState;
  /** Hz */
  frequency: number;
  reference: number;
  /** A */
  current: number;
  /** V, line to line at the motor */
  voltage: number;
  busVoltage: number;
  /** N·m */
  torque: number;
  /** °C */
  heatsink: number;
  winding: number;
  /** share of the trip point */
  motorHeat: number;
  driveHeat: number;
  /** the inputs as the drive's terminals stood */
  inputs: number;
  /** the last two seconds at full rate; null when nobody asked to keep them */
  history: TripHistoryCopy | null;
}

/** What holds a ramp back. */
export const Holding = { nothing: 0, currentLimit: 1, torqueLimit: 2, highBus: 3 } as const;

/** A drive, its motor and load at one instant. Advanced in place by `stepMachine`. */
export interface Machine {
  spec: MachineSpec;
  conditions: Conditions;
  time: number;
  steps: number;
  state: DriveState;
  phase: Phase;
  /** s in the phase */
  phaseTime: number;
  /** 1 once a stop has come to its end */
  finished: number;
  /** Hz, signed: where the ramp stands, and its rate in Hz/s */
  ramp: number;
  rampRate: number;
  /** Hz, signed: what the ramp goes to */
  goal: number;
  /** Hz, signed: at the terminals, slip compensation and current limit included */
  frequency: number;
  /** phase RMS, V */
  voltage: number;
  /** Hz taken off (motoring) or added (regenerating) by the current limit */
  limitShift: number;
  /** share of the start boost the current limit leaves */
  boostShare: number;
  /** what holds the ramp, see Holding */
  holding: number;
  /** Hz added while a high bus holds the ramp */
  busShift: number;
  slipShift: number;
  /** what a test at standstill sends through two leads: A, and Hz (0 for direct current) */
  testCurrent: number;
  testFrequency: number;
  /** rad/s, mechanical, signed */
  speed: number;
  motor: Operation;
  /** the circuit as warm as its windings are; see `warmCircuit` */
  warm: Circuit;
  /** share of xm that the flux leaves */
  magnetising: number;
  /** 1 while the rotor's flux builds up after a start; that flux, and s for which it has been what the steady state has */
  fluxRises: number;
  flux: RotorFlux;
  fluxTime: number;
  openPhase: SequenceOperation & { current: number };
  /** N·m per rad/s, motor torque over speed, renewed every few steps */
  slope: number;
  loadState: LoadState;
  /** s since the ramp came to its end */
  endTime: number;
  /** what the drive tells its brake, s since it last changed, and how far the brake is open */
  brakeCommand: number;
  brakeTimer: number;
  brakeOpening: number;
  bus: BusState;
  /** W the inverter and the drive's own losses take from the bus; below zero the motor gives back */
  drawn: number;
  /** peak ripple of the bus over its mean, renewed with the heat */
  ripple: number;
  motorHeat: number;
  driveHeat: number;
  resistorHeat: number;
  /** °C */
  heatsink: number;
  temperature: MotorTemperature;
  /** s each slow protection has waited, in the order of `tripCauses` */
  waiting: Float64Array;
  lowBusTime: number;
  /** Hz, where the output stood when the current limit began to hold it */
  stallAt: number;
  /** set by whoever reads the terminals, for the snapshot */
  inputs: number;
  resetWas: number;
  trip: TripSnapshot | null;
  /** trips that emergency ventilation ran on through, 1 each, in the order of `tripCauses` */
  ignored: Uint8Array;
  history: TripHistory | null;
}

export function createMachine(spec: MachineSpec, conditions: Conditions = soundConditions()): Machine {
  const motor = emptyOperation();
  for (const key of Object.keys(motor) as Array<keyof Operation>) motor[key] = 0;
  const loadState = restingLoad();
  // a belt is taken as loaded, which is what it has to start with after a stop
  if (spec.load.kind === 'conveyor') loadState.mass = beltMassAt(spec.load, spec.circuit.ratedSpeed);
  const m: Machine = {
    spec,
    conditions,
    time: 0,
    steps: 0,
    state: DriveState.switchOnDisabled,
    phase: Phase.run,
    phaseTime: 0,
    finished: 1,
    ramp: 0,
    rampRate: 0,
    goal: 0,
    frequency: 0,
    voltage: 0,
    limitShift: 0,
    boostShare: 1,
    holding: 0,
    busShift: 0,
    slipShift: 0,
    testCurrent: 0,
    testFrequency: 0,
    speed: 0,
    motor,
    warm: { ...spec.circuit },
    magnetising: 1,
    fluxRises: 0,
    flux: noFlux(),
    fluxTime: 0,
    openPhase: { current: 0, positiveCurrent: 0, negativeCurrent: 0, torque: 0, copperLoss: 0, input: 0 },
    slope: 0,
    loadState,
    endTime: 0,
    brakeCommand: 0,
    brakeTimer: 0,
    brakeOpening: 0,
    bus: restingBus(spec.supply),
    drawn: 0,
    ripple: 0,
    motorHeat: 0,
    driveHeat: 0,
    resistorHeat: 0,
    heatsink: conditions.ambient,
    temperature: coldMotor(conditions.ambient),
    waiting: new Float64Array(tripCauses.length),
    lowBusTime: 0,
    stallAt: 0,
    inputs: 0,
    resetWas: 0,
    trip: null,
    ignored: new Uint8Array(tripCauses.length),
    history: null,
  };
  warmCircuit(m);
  return m;
}

/** Resistances of stator and cage follow the temperature of the windings. */
export function warmCircuit(m: Machine): void {
  const { circuit } = m.spec;
  const { winding } = m.temperature;
  m.warm.r1 = circuit.r1 * copperAt(winding);
  m.warm.r2 = circuit.r2 * cageAt(winding);
}

/** Stops output and remembers what the drive saw; in emergency ventilation it runs on through what it may, and only notes it. True when it stops. */
export function tripMachine(m: Machine, cause: TripCause): boolean {
  if (runsThrough(m.conditions.emergency, cause)) {
    m.ignored[tripCauses.indexOf(cause)] = 1;
    return false;
  }
  m.trip = {
    cause,
    time: m.time,
    state: m.state,
    frequency: m.frequency,
    reference: m.goal,
    current: m.motor.current,
    voltage: m.voltage * Math.sqrt(3),
    busVoltage: m.bus.voltage,
    torque: m.motor.torque,
    heatsink: m.heatsink,
    winding: m.temperature.winding,
    motorHeat: m.motorHeat,
    driveHeat: m.driveHeat,
    inputs: m.inputs,
    history: m.history === null ? null : m.history.copy(),
  };
  m.state = DriveState.fault;
  return true;
}

/** Power off long enough to forget, then on again: trips that need it are cleared, the bus is charged anew, heat stays. */
export function powerCycle(m: Machine): void {
  m.trip = null;
  m.state = DriveState.switchOnDisabled;
  m.waiting.fill(0);
  m.bus.voltage = busAtRest(m.spec.supply);
}

/** A start from rest: there is no flux, and it has to build up. */
export function beginFlux(m: Machine): void {
  m.fluxRises = 1;
  m.flux.re = 0;
  m.flux.im = 0;
  m.fluxTime = 0;
}
