import { clampReference, DriveState, StartMode, StopMode, Switch } from '../drive';
import { fieldOrder, rotorFrequency } from './fieldOrder';
import { beginFlux, Holding, Phase, type Machine } from './state';

/** Output frequency in Hz below which the drive counts as standing. */
export const standstill = 0.05;
/** The current limit leaves the ramp alone below this, Hz: there the current is the boost's, and the boost is what it takes back. */
const limitFrom = 1;
/** Up to this frequency the current limit also takes back the boost, Hz. */
const boostLimitTo = 5;
/**
 * Shares of the limit above which the ramp is held, boost is taken back, and below which it is given again. Boost goes until the ramp is free:
 * its current flows at no slip at all, so that waiting for it to fall by itself is waiting for ever.
 */
const holdFrom = -0.02;
const boostFrom = -0.06;
const boostBack = -0.12;
/** The deceleration ramp waits from this far below the overvoltage trip, V, and the output is raised to take less back. */
const holdBelowTrip = 60;

const stepToward = (value: number, goal: number, by: number): number => (value < goal ? Math.min(goal, value + by) : Math.max(goal, value - by));

/** Slip at the plate's load as the drive knows it, Hz. */
export const ratedSlipFrequency = (m: Machine): number => {
  const p = m.spec.drive;
  return p.motorFrequency - (p.motorSpeed * m.spec.circuit.poles) / 120;
};

/** s for a change from 0 to rated frequency: quick stop, or the first or second ramp, up or down. */
function rampTime(m: Machine, slowing: boolean, stopping: boolean): number {
  const p = m.spec.drive;
  if (m.state === DriveState.quickStop || (stopping && p.stopMode === StopMode.quickStop)) return p.quickStopTime;
  const second = m.conditions.secondRamp === 1 || (p.rampChangeOver > 0 && Math.abs(m.ramp) >= p.rampChangeOver);
  if (slowing) return second ? p.secondDecelerationTime : p.decelerationTime;
  return second ? p.secondAccelerationTime : p.accelerationTime;
}

/** One step of a linear ramp, or of one rounded at both ends over `sShare` of its time, which keeps the time. */
function advance(m: Machine, goal: number, time: number, dt: number): void {
  const p = m.spec.drive;
  const s = p.sShare;
  const span = time > 0.01 ? time : 0.01;
  if (s === 0) {
    const rate = p.motorFrequency / span;
    const before = m.ramp;
    m.ramp = stepToward(before, goal, rate * dt);
    return;
  }
  const rate = p.motorFrequency / (span * (1 - s / 2));
  const jerk = rate / ((span * s) / 2);
  const left = goal - m.ramp;
  const size = Math.abs(left);
  const wanted = Math.sign(left) * Math.min(rate, Math.sqrt(2 * jerk * size));
  m.rampRate = stepToward(m.rampRate, wanted, jerk * dt);
  const change = m.rampRate * dt;
  if (Math.abs(change) >= size && change * left >= 0) {
    m.ramp = goal;
    m.rampRate = 0;
  } else m.ramp += change;
}

/** Hz from its goal at which a ramp is there: a tenth of the finest step a drive book shows. */
const arrived = 1e-3;

/** The part of the goal the holding brake allows: no further than its frequency until it has opened, and there again until it has closed. */
function brakeGoal(m: Machine, goal: number, stopping: boolean, dt: number): number {
  const p = m.spec.drive;
  m.brakeTimer += dt;
  if (!stopping) {
    const size = Math.min(Math.abs(goal), p.brakeFrequency);
    if (m.brakeCommand === 0 && goal !== 0 && Math.abs(m.ramp) >= size - arrived) {
      m.brakeCommand = 1;
      m.brakeTimer = 0;
    }
    return m.brakeCommand === 1 && m.brakeTimer >= p.brakeOpenDelay ? goal : Math.sign(goal) * size;
  }
  if (Math.abs(m.ramp) > p.brakeFrequency + arrived) return 0;
  if (m.brakeCommand === 1) {
    m.brakeCommand = 0;
    m.brakeTimer = 0;
  }
  if (m.brakeTimer < p.brakeCloseDelay) return m.ramp;
  m.ramp = 0;
  return 0;
}

/** Moves the ramp one step toward what is asked, held by current limit and high bus. */
export function stepRamp(m: Machine, stopping: boolean, reference: number, dt: number): void {
  const p = m.spec.drive;
  let goal = stopping ? 0 : clampReference(p, reference, m.ramp);
  m.goal = goal;
  if (p.holdingBrake === Switch.on) goal = brakeGoal(m, goal, stopping, dt);
  const slowing = Math.abs(goal) < Math.abs(m.ramp) || goal * m.ramp < 0;
  const motoring = m.fluxRises === 1 || m.motor.torque * m.frequency * fieldOrder(m) >= 0;
  // a linear limiter: the shift grows while the current is above the limit and drains when it is below
  const over = m.motor.current / p.currentLimit - 1;
  const most = Math.max(0, Math.abs(m.ramp) - limitFrom);
  m.limitShift = over > 0 ? Math.min(most, m.limitShift + over * 60 * dt) : Math.max(0, m.limitShift - 15 * dt);
  // bent iron makes a boost that is too high cost far more current than torque
  if (over > boostFrom && Math.abs(m.ramp) < boostLimitTo) m.boostShare = Math.max(0, m.boostShare - 5 * (over - boostFrom) * dt);
  else if (m.boostShare < 1 && over < boostBack) m.boostShare = Math.min(1, m.boostShare + 0.5 * dt);
  const limitHolds = over > holdFrom && most > 0 && (slowing ? !motoring : motoring);
  const { overvoltageTrip } = m.spec.rating;
  const busHolds = p.busRampHold === Switch.on && slowing && m.bus.voltage > overvoltageTrip - holdBelowTrip;
  m.busShift = busHolds ? Math.min(1, (m.bus.voltage - overvoltageTrip + holdBelowTrip) / (0.5 * holdBelowTrip)) * 2 * ratedSlipFrequency(m) : 0;
  m.holding = busHolds ? Holding.highBus : limitHolds ? Holding.currentLimit : Holding.nothing;
  if (m.holding === Holding.nothing) advance(m, goal, rampTime(m, slowing, stopping), dt);
  else m.rampRate = 0;
  if (p.busRampHold === Switch.on && slowing) followRotor(m, dt);
}

/** Rated slips the output may run ahead of the rotor while the ramp waits for the bus: further on a motor brakes less, not more. */
const mostAhead = 1.25;
/** s in which a held ramp that ran ahead comes back to the rotor over its whole range. */
const comeBack = 1;

/**
 * A ramp that gives way to a high bus stays with the rotor, held or not: left far below it, the motor is beyond its breakdown slip and hardly
 * brakes, and a ramp at its end lets a shaft go that still turns.
 */
function followRotor(m: Machine, dt: number): void {
  const side = m.ramp < 0 ? -1 : 1;
  const least = side * rotorFrequency(m) - mostAhead * ratedSlipFrequency(m);
  if (Math.abs(m.ramp) >= least) return;
  m.ramp = side * stepToward(Math.abs(m.ramp), least, (m.spec.drive.motorFrequency / comeBack) * dt);
  m.holding = Holding.highBus;
}

/** s the drive looks for the rotor's frequency before it takes hold of a spinning load. */
const searchTime = 0.4;
/** s the flux needs to die before direct current may be sent in. */
const demagnetiseTime = 0.25;

/** s at the end of a ramp in which a shaft that still turns is braked on. */
const longestEnd = 10;

/** Which phase a fresh enable begins with. */
export function beginRun(m: Machine): void {
  m.ramp = 0;
  m.rampRate = 0;
  m.limitShift = 0;
  m.boostShare = 1;
  m.finished = 0;
  m.phaseTime = 0;
  m.endTime = 0;
  m.brakeTimer = 0;
  // a motor at rest has to build its flux up; one that turns is caught with care
  m.fluxRises = 0;
  if (Math.abs(rotorFrequency(m)) < standstill) beginFlux(m);
  m.phase = m.spec.drive.startMode === StartMode.catchSpinning ? Phase.catching : Phase.run;
}

const enter = (m: Machine, phase: Phase): void => {
  m.phase = phase;
  m.phaseTime = 0;
};

/** Moves through catching, running, demagnetising and direct current; says in `finished` when a stop is over. */
export function stepSequence(m: Machine, stopping: boolean, dt: number): void {
  const p = m.spec.drive;
  m.phaseTime += dt;
  const injects = p.dcTime > 0 && p.dcCurrent > 0;
  switch (m.phase) {
    case Phase.catching:
      if (stopping) m.finished = 1;
      else if (m.phaseTime >= searchTime) {
        const rotor = rotorFrequency(m);
        m.ramp = Math.abs(rotor) > 1 && Math.abs(rotor) <= p.maximumFrequency * 1.1 ? rotor : 0;
        enter(m, Phase.run);
      }
      return;
    case Phase.run:
      if (!stopping) m.finished = 0;
      else if (m.state === DriveState.quickStop || p.stopMode === StopMode.ramp || p.stopMode === StopMode.quickStop) {
        if (Math.abs(m.ramp) >= standstill) {
          m.endTime = 0;
          return;
        }
        // at the end of a ramp that gave way the shaft may still turn: it is braked on, not let go. A load that drives it would do so for ever
        m.endTime += dt;
        if (p.busRampHold === Switch.on && m.endTime < longestEnd && Math.abs(rotorFrequency(m)) > ratedSlipFrequency(m) / 2) return;
        if (injects && p.stopMode === StopMode.ramp && m.state !== DriveState.quickStop) enter(m, Phase.directCurrent);
        else m.finished = 1;
      } else if (p.stopMode === StopMode.coast || !injects) m.finished = 1;
      else enter(m, Phase.demagnetising);
      return;
    case Phase.demagnetising:
      if (!stopping) beginRun(m);
      else if (m.phaseTime >= demagnetiseTime) enter(m, Phase.directCurrent);
      return;
    case Phase.test:
      if (stopping) m.finished = 1;
      return;
    case Phase.directCurrent:
      if (!stopping) beginRun(m);
      else if (m.phaseTime >= p.dcTime) m.finished = 1;
  }
}
