import {
  clampReference,
  ControlMethod,
  DriveState,
  Holding,
  Phase,
  StartMode,
  StopMode,
  Switch,
  tripMachine,
  type Machine,
  type Random,
} from '@yare/core';
import { Estimator, type DriveSensors, type Sampled } from './estimator';

/** Where the output stands still for all that counts, Hz. */
export const standing = 0.05;
/** s of one round of the firmware. */
const dt = 0.001;
/** The current limit's controller: Hz at once and Hz a second for each share above the limit, and Hz a second given back below it; the share of the
 * current in step with the volts below which the motor is past its breakdown, and Hz a second by which it is brought back. */
const limiter = { atOnce: 6, perSecond: 45, back: 12, inStep: 0.62, regain: 3 };
/** Shares of the limit at which the ramp waits, boost is taken back and given again. */
const waits = -0.03;
const boostOff = -0.07;
const boostOn = -0.15;
/** Below this share of rated frequency a high current is the boost's. */
const boosted = 0.1;
/** V below the overvoltage level from which a falling ramp waits, and over which it gives way altogether. */
const waitsBelow = 60;
const givesWayOver = 45;
/** Rated slips it gives way by at most, and s in which a ramp that gives way altogether climbs over its range. */
const mostGiven = 2;
const climb = 4;
/** A shaft is looked for from the top down: s, share of flux, s it comes up, settles and is given back in, Hz and share of power of its sign. */
const search = { time: 2, flux: 0.1, rise: 0.15, settle: 0.15, back: 0.3, late: 1.4, least: 0.001 };
/** s without output before direct current may go in. */
const fluxDies = 0.25;
/** s a stop waits at the end of a ramp that gave way, while the motor still gives back. */
const waitsAtEnd = 10;
/** Gains of the controller of direct and test current, V per A of stator resistance, and that a second. */
const injection = { atOnce: 0.5, perSecond: 12 };

const toward = (value: number, goal: number, by: number): number => value + Math.max(-by, Math.min(by, goal - value));

/**
 * What runs inside the bench's drives: ramps, voltage law, current limit, bus, catching, direct current. It knows what its sensors tell and what
 * follows from that ({@link Estimator}), never the shaft. Written for the bench alone; the application foresees with laws of its own.
 */
export class Firmware {
  readonly sees: Estimator;
  /** V peak of a phase asked of the inverter, and the Hz it turns with; direct and test current stand at one angle */
  volts = 0;
  turns = 0;
  /** at one angle, between two leads */
  still = false;
  on = false;
  private rate = 0;
  private pull = 0;
  private boost = 1;
  private given = 0;
  private compensation = 0;
  private flux = 1;
  private endTime = 0;
  private found = false;
  private waited = false;
  private testAngle = 0;
  private was: Phase = Phase.run;

  constructor(
    private readonly m: Machine,
    sensors: DriveSensors,
    noise: Random,
  ) {
    this.sees = new Estimator(m, sensors, noise);
  }

  /** What the sensors saw since the last round. */
  look(s: Sampled): void {
    this.sees.look(s, this.on);
    // a comparator in hardware: no filter, no sampling
    if (this.on && s.peak / Math.SQRT2 > this.m.spec.rating.overcurrentTrip) tripMachine(this.m, 'overcurrent');
  }

  begin(): void {
    const { m } = this;
    m.ramp = 0;
    m.finished = 0;
    m.phaseTime = 0;
    m.brakeTimer = 0;
    this.rate = 0;
    this.pull = 0;
    this.boost = 1;
    this.given = 0;
    this.compensation = 0;
    this.endTime = 0;
    this.found = false;
    this.waited = false;
    this.flux = 1;
    m.phase = m.spec.drive.startMode === StartMode.catchSpinning ? Phase.catching : Phase.run;
    if (m.phase === Phase.catching) this.flux = search.flux;
  }

  /** Takes a shaft that turns with a frequency, as after catching it. Hz. */
  takeHold(frequency: number): void {
    this.m.ramp = frequency;
    this.m.phase = Phase.run;
    this.m.phaseTime = 0;
    this.flux = search.flux;
  }

  /** One round while the drive is enabled. */
  run(stopping: boolean, reference: number): void {
    const { m } = this;
    this.on = true;
    this.still = false;
    m.phaseTime += dt;
    this.sequence(stopping);
    if (m.phase !== this.was) this.volts = 0;
    this.was = m.phase;
    if (m.phase === Phase.run) {
      this.ramp(stopping, reference);
      if (!stopping && m.goal === 0 && Math.abs(m.ramp) < standing) this.off();
      else this.drive();
    } else if (m.phase === Phase.catching) this.lookForShaft();
    else if (m.phase === Phase.directCurrent) this.inject((2 / Math.sqrt(3)) * m.spec.drive.dcCurrent * m.spec.drive.motorCurrent, 0);
    else if (m.phase === Phase.test) this.inject((2 / Math.sqrt(3)) * (m.testFrequency > 0 ? Math.SQRT2 : 1) * m.testCurrent, m.testFrequency);
    else this.off();
  }

  off(): void {
    const { m } = this;
    this.on = false;
    this.volts = 0;
    this.turns = 0;
    this.pull = 0;
    this.given = 0;
    this.compensation = 0;
    m.frequency = 0;
    m.voltage = 0;
    m.holding = Holding.nothing;
  }

  /** Catching, running, demagnetising and direct current one after the other; says in `finished` when a stop is over. */
  private sequence(stopping: boolean): void {
    const { m } = this;
    const p = m.spec.drive;
    const enter = (phase: Phase) => {
      m.phase = phase;
      m.phaseTime = 0;
    };
    const injects = p.dcTime > 0 && p.dcCurrent > 0;
    const ramped = m.state === DriveState.quickStop || p.stopMode === StopMode.ramp || p.stopMode === StopMode.quickStop;
    if (m.phase === Phase.test) {
      if (stopping) m.finished = 1;
    } else if (m.phase === Phase.catching) {
      if (stopping) m.finished = 1;
    } else if (!stopping) {
      m.finished = 0;
      if (m.phase !== Phase.run) this.begin();
    } else if (m.phase === Phase.demagnetising) {
      if (m.phaseTime >= fluxDies) enter(Phase.directCurrent);
    } else if (m.phase === Phase.directCurrent) {
      if (m.phaseTime >= p.dcTime) m.finished = 1;
    } else if (!ramped) {
      if (p.stopMode === StopMode.coast || !injects) m.finished = 1;
      else enter(Phase.demagnetising);
    } else if (Math.abs(m.ramp) < standing) {
      this.endTime += dt;
      // at the end of a ramp that gave way the shaft may still give back: it is braked on, but not for ever
      if (this.waited && this.endTime < waitsAtEnd && this.sees.givesBack) return;
      if (injects && p.stopMode === StopMode.ramp && m.state !== DriveState.quickStop) enter(Phase.directCurrent);
      else m.finished = 1;
    } else this.endTime = 0;
  }

  /** Seconds for the whole range, by which ramp is in force. */
  private rampTime(slowing: boolean, stopping: boolean): number {
    const { m } = this;
    const p = m.spec.drive;
    if (m.state === DriveState.quickStop || (stopping && p.stopMode === StopMode.quickStop)) return p.quickStopTime;
    const second = m.conditions.secondRamp === 1 || (p.rampChangeOver > 0 && Math.abs(m.ramp) >= p.rampChangeOver);
    const [up, down] = second ? [p.secondAccelerationTime, p.secondDecelerationTime] : [p.accelerationTime, p.decelerationTime];
    return Math.max(0.01, slowing ? down : up);
  }

  /** Where the holding brake lets the ramp go to: no further than its frequency until it is open, there again until it has closed. */
  private braked(goal: number, stopping: boolean): number {
    const { m } = this;
    const p = m.spec.drive;
    const there = Math.abs(m.ramp);
    const hair = 1e-3;
    m.brakeTimer += dt;
    if (stopping && there <= p.brakeFrequency + hair) {
      if (m.brakeCommand === 1) {
        m.brakeCommand = 0;
        m.brakeTimer = 0;
      }
      if (m.brakeTimer < p.brakeCloseDelay) return m.ramp;
      m.ramp = 0;
      return 0;
    }
    if (stopping) return 0;
    const least = Math.min(Math.abs(goal), p.brakeFrequency);
    if (m.brakeCommand === 0 && goal !== 0 && there >= least - hair) {
      m.brakeCommand = 1;
      m.brakeTimer = 0;
    }
    return m.brakeCommand === 1 && m.brakeTimer >= p.brakeOpenDelay ? goal : Math.sign(goal) * least;
  }

  private ramp(stopping: boolean, reference: number): void {
    const { m, sees } = this;
    const p = m.spec.drive;
    m.goal = stopping ? 0 : clampReference(p, reference, m.ramp);
    const goal = p.holdingBrake === Switch.on ? this.braked(m.goal, stopping) : m.goal;
    const slowing = Math.abs(goal) < Math.abs(m.ramp) || goal * m.ramp < 0;
    const over = this.limit(slowing);
    const high = p.busRampHold === Switch.on && slowing ? sees.bus - (m.spec.rating.overvoltageTrip - waitsBelow) : -1;
    const gives = high > 0 ? Math.min(1, high / givesWayOver) : 0;
    this.given = toward(this.given, gives * mostGiven * sees.ratedSlip, 200 * dt * sees.ratedSlip);
    m.busShift = this.given;
    if (high > 0) {
      m.holding = Holding.highBus;
      this.waited = true;
      this.rate = 0;
      if (gives === 1) m.ramp += Math.sign(m.ramp) * Math.min((p.motorFrequency / climb) * dt, Math.max(0, p.maximumFrequency - Math.abs(m.ramp)));
    } else if (over) this.rate = 0;
    else {
      m.holding = Holding.nothing;
      this.advance(goal, this.rampTime(slowing, stopping));
    }
  }

  /** Linear, or rounded at both ends over a share of its time that leaves the whole as it is. */
  private advance(goal: number, time: number): void {
    const { m } = this;
    const { sShare, motorFrequency } = m.spec.drive;
    const straight = motorFrequency / (time * (1 - sShare / 2));
    if (sShare === 0) m.ramp = toward(m.ramp, goal, straight * dt);
    else {
      const jerk = straight / (time * (sShare / 2));
      const left = goal - m.ramp;
      this.rate = toward(this.rate, Math.sign(left) * Math.min(straight, Math.sqrt(2 * jerk * Math.abs(left))), jerk * dt);
      if (Math.abs(this.rate * dt) >= Math.abs(left)) {
        m.ramp = goal;
        this.rate = 0;
      } else m.ramp += this.rate * dt;
    }
    m.rampRate = this.rate;
  }

  /** The current and torque limit's controller. True while the ramp has to wait for it. */
  private limit(slowing: boolean): boolean {
    const { m, sees } = this;
    const p = m.spec.drive;
    const size = Math.abs(m.ramp);
    const current = m.motor.current / p.currentLimit - 1;
    const torque = p.controlMethod === ControlMethod.sensorlessVector ? Math.abs(sees.torqueShare) / p.torqueLimit - 1 : -1;
    const worst = Math.max(current, torque);
    // at the limit with little of the current in step with the volts, the motor is past its breakdown: less slip gives more torque
    const past =
      current > waits && size > boosted * p.motorFrequency && sees.activeCurrent < limiter.inStep * m.motor.current && sees.torqueShare > 0;
    if (past) this.pull += limiter.regain * dt;
    else this.pull = worst > 0 ? this.pull + limiter.perSecond * worst * dt : Math.max(0, this.pull - limiter.back * dt);
    this.pull = Math.min(this.pull, Math.max(0, size - 1));
    if (current > boostOff && size < boosted * p.motorFrequency) this.boost = Math.max(0, this.boost - 5 * (current - boostOff) * dt);
    else if (current < boostOn) this.boost = Math.min(1, this.boost + 0.5 * dt);
    const against = slowing ? sees.torqueShare < 0 : sees.torqueShare >= 0;
    const holds = worst > waits && size > 1 && against;
    if (holds) m.holding = torque > current ? Holding.torqueLimit : Holding.currentLimit;
    m.limitShift = this.pull + limiter.atOnce * Math.max(0, worst);
    return holds;
  }

  /** Frequency and volts of the present ramp. */
  private drive(): void {
    const { m, sees } = this;
    const p = m.spec.drive;
    const side = m.ramp < 0 ? -1 : 1;
    const wanted = (p.controlMethod === ControlMethod.sensorlessVector ? 1 : p.slipCompensation) * sees.ratedSlip * sees.torqueShare;
    this.compensation += (Math.max(-2 * sees.ratedSlip, Math.min(2 * sees.ratedSlip, wanted)) - this.compensation) * (dt / 0.1);
    const pulled = Math.min(m.limitShift, Math.max(0, Math.abs(m.ramp) - 1));
    const size = Math.max(0, Math.abs(m.ramp) + this.compensation + this.given + (sees.torqueShare >= 0 ? -pulled : pulled));
    m.slipShift = this.compensation;
    this.flux = Math.min(1, this.flux + ((1 - search.flux) * dt) / search.back);
    this.give(side * size, this.flux * this.law(size));
  }

  /** V phase RMS of the control method at a frequency. */
  private law(size: number): number {
    const { m, sees } = this;
    const p = m.spec.drive;
    const rated = p.motorVoltage / Math.sqrt(3);
    const x = Math.min(1, size / p.motorFrequency);
    if (p.controlMethod === ControlMethod.sensorlessVector && p.statorResistance > 0) {
      // the drop across the stator is made up for by the current that flows, in step with the volts and across them
      const usual = p.statorResistance * p.motorCurrent * 0.85;
      return Math.hypot(x * (rated - usual) + p.statorResistance * sees.activeCurrent, p.statorResistance * 0.4 * p.motorCurrent);
    }
    const start = p.startBoost * this.boost;
    const bent = p.controlMethod === ControlMethod.quadratic ? x * x : x;
    return rated * (start + (1 - start) * bent);
  }

  private give(frequency: number, volts: number): void {
    const { m, sees } = this;
    const ceiling = sees.bus / Math.sqrt(6);
    this.turns = frequency;
    this.volts = Math.SQRT2 * Math.min(volts, ceiling);
    m.frequency = frequency;
    m.voltage = this.volts / Math.SQRT2;
  }

  /** From the top down with little flux until power comes back: there the field has passed the rotor by a little. */
  private lookForShaft(): void {
    const { m, sees } = this;
    const p = m.spec.drive;
    const at = p.maximumFrequency * (1 - Math.max(0, m.phaseTime - search.settle) / search.time);
    if (m.phaseTime > 2 * search.settle && sees.quickPower < -search.least * Math.sqrt(3) * p.motorVoltage * p.motorCurrent) this.found = true;
    if (this.found || at < 1) {
      this.takeHold(this.found ? Math.min(p.maximumFrequency, at + search.late) : 0);
      if (!this.found) this.flux = 1;
      return;
    }
    m.holding = Holding.nothing;
    // the same flux all the way, whatever law the load is given
    const whole = (p.motorVoltage / Math.sqrt(3)) * Math.min(1, at / p.motorFrequency);
    this.give(at, Math.min(1, m.phaseTime / search.rise) * search.flux * whole);
  }

  /** Current through two leads, standing or to and fro, held by a controller of its own. A of the space vector's peak. */
  private inject(amperes: number, frequency: number): void {
    const { m, sees } = this;
    const ohms = sees.statorGuess;
    const seen = sees.rms * (frequency > 0 ? 2 : Math.SQRT2);
    this.volts = Math.max(0, this.volts + ohms * injection.perSecond * (amperes - seen) * dt);
    this.volts = Math.min(this.volts, sees.bus / Math.sqrt(3));
    this.still = true;
    this.testAngle = frequency > 0 ? this.testAngle + 2 * Math.PI * frequency * dt : Math.PI / 2;
    this.turns = frequency;
    m.frequency = 0;
    m.voltage = this.volts / Math.SQRT2;
  }

  /** Of the current between two leads: what of its volts is asked for now. */
  get swing(): number {
    return this.turns > 0 ? Math.sin(this.testAngle) : 1;
  }
}
