import { ratedTorqueOf, type Machine, type Random } from '@yare/core';

/** What the drive's own sensors are off by: gains, and A of offset and noise. */
export interface DriveSensors {
  current: number;
  voltage: number;
  offset: number;
  noise: number;
}

/** What the sensors saw at the end of a millisecond. */
export interface Sampled {
  /** A, α and β of the output current, and the largest length since the last time */
  alpha: number;
  beta: number;
  peak: number;
  /** V asked of the inverter then, α and β */
  voltsAlpha: number;
  voltsBeta: number;
  /** V of the bus */
  bus: number;
}

const dt = 0.001;
/** s of the filters on current, power, and on what the search for a spinning shaft looks at. */
const smooth = { current: 0.01, power: 0.02, quick: 0.008, lead: 0.15 };
/** Milliseconds over which the ripple of the bus is told: a period of the mains. */
const rippleOver = 20;
/** Of volts over amperes what the stator of a motor of 1 kVA usually resists, less of it in larger ones, where nobody measured it (common practice). */
const usualStator = 0.045;
/** Share of rated power that goes into iron at rated flux and frequency, as a drive assumes. */
const usualIron = 0.02;
/** Hz below which torque is no longer told from the copper's watts. */
const leastTold = 3;
/** Rated slips a drive believes at most. */
const mostSlips = 2.5;
/** Share of rated torque, given back, that tells of a shaft that still turns. */
const givingBack = 0.05;

/** Current, power, torque and slip as a drive works them out of sampled phase currents, its own voltage and what it was told of the motor. */
export class Estimator {
  /** V, smoothed over a pulse of the rectifier */
  bus: number;
  /** A RMS of the space vector */
  rms = 0;
  /** A in step with the volts */
  activeCurrent = 0;
  /** over rated torque, motoring positive */
  torqueShare = 0;
  /** W of the last few milliseconds */
  quickPower = 0;
  /** V, A and W between two leads */
  readonly lead = { voltage: 0, current: 0, power: 0 };
  private square = 0;
  private power = 0;
  private highest = 0;
  private lowest = 0;
  private looked = 0;
  private began = 0;
  private readonly leadSquares = { voltage: 0, current: 0, power: 0 };

  constructor(
    private readonly m: Machine,
    private readonly sensors: DriveSensors,
    private readonly noise: Random,
  ) {
    this.bus = m.bus.voltage;
    this.began = this.highest = this.lowest = this.bus;
  }

  /** Hz at the plate's load, of the motor the drive was told. */
  get ratedSlip(): number {
    const p = this.m.spec.drive;
    return p.motorFrequency - (p.motorSpeed * this.pairs) / 60;
  }

  private get pairs(): number {
    const p = this.m.spec.drive;
    return Math.max(1, Math.floor((60 * p.motorFrequency) / p.motorSpeed));
  }

  /** Ω of a phase, measured or guessed. */
  get statorGuess(): number {
    const p = this.m.spec.drive;
    if (p.statorResistance > 0) return p.statorResistance;
    const kilovoltAmperes = (Math.sqrt(3) * p.motorVoltage * p.motorCurrent) / 1000;
    return (usualStator * kilovoltAmperes ** -0.3 * p.motorVoltage) / (Math.sqrt(3) * p.motorCurrent);
  }

  /** At the end of a ramp the motor still gives back. */
  get givesBack(): boolean {
    return this.torqueShare < -givingBack;
  }

  look(s: Sampled, on: boolean): void {
    const { m, sensors, noise } = this;
    const volts = s.bus * sensors.voltage;
    m.bus.voltage = volts;
    this.bus += (volts - this.bus) * (dt / 0.003);
    this.watchRipple(volts);
    if (!on) {
      this.square = this.power = this.rms = this.activeCurrent = this.torqueShare = this.quickPower = 0;
      m.motor.current = m.motor.torque = m.motor.input = 0;
      return;
    }
    const alpha = s.alpha * sensors.current + sensors.offset + sensors.noise * noise.normal();
    const beta = s.beta * sensors.current - sensors.offset + sensors.noise * noise.normal();
    this.square += (alpha * alpha + beta * beta - this.square) * (dt / smooth.current);
    this.rms = Math.sqrt(this.square / 2);
    const watts = 1.5 * (s.voltsAlpha * alpha + s.voltsBeta * beta);
    this.power += (watts - this.power) * (dt / smooth.power);
    this.quickPower += (watts - this.quickPower) * (dt / smooth.quick);
    m.motor.current = this.rms;
    m.motor.input = this.power;
    this.activeCurrent = m.voltage > 1 ? this.power / (3 * m.voltage) : 0;
    this.torque();
    this.between(alpha, beta, s.voltsAlpha, s.voltsBeta);
  }

  private torque(): void {
    const { m } = this;
    const p = m.spec.drive;
    const size = Math.abs(m.frequency);
    const field = (2 * Math.PI * Math.max(size, leastTold)) / this.pairs;
    const flux = size > 1 ? Math.min(1.2, (m.voltage * Math.sqrt(3) * p.motorFrequency) / (p.motorVoltage * size)) : 1;
    const rated = ratedTorqueOf(m);
    const iron = usualIron * rated * ((2 * Math.PI * p.motorFrequency) / this.pairs) * flux * flux * Math.pow(size / p.motorFrequency, 1.5);
    const copper = 3 * this.statorGuess * this.rms * this.rms;
    this.torqueShare = Math.max(-mostSlips, Math.min(mostSlips, (this.power - copper - iron) / field / rated));
    m.motor.torque = (m.frequency < 0 ? -1 : 1) * this.torqueShare * rated;
  }

  /** Readings between the two leads of a test: U and V carry the same current to and fro. */
  private between(alpha: number, beta: number, voltsAlpha: number, voltsBeta: number): void {
    const amperes = (Math.sqrt(3) / 2) * (alpha * cosTest + beta * sinTest);
    const volts = Math.sqrt(3) * (voltsAlpha * cosTest + voltsBeta * sinTest);
    const by = dt / smooth.lead;
    const q = this.leadSquares;
    q.voltage += (volts * volts - q.voltage) * by;
    q.current += (amperes * amperes - q.current) * by;
    q.power += (volts * amperes - q.power) * by;
    this.lead.voltage = Math.sqrt(q.voltage);
    this.lead.current = Math.sqrt(q.current);
    this.lead.power = q.power;
  }

  private watchRipple(volts: number): void {
    const { m } = this;
    this.highest = Math.max(this.highest, volts);
    this.lowest = Math.min(this.lowest, volts);
    // a chopper that switches on and off is no missing phase
    if (m.bus.chopperPower > 0) this.looked = -1;
    if (this.looked < 0) this.began = this.highest = this.lowest = volts;
    if (++this.looked < rippleOver) return;
    // a bus that falls or rises as a whole does not ripple by that
    const moved = Math.abs(volts - this.began);
    m.ripple = Math.max(0, this.highest - this.lowest - moved) / Math.max(1, this.highest + this.lowest);
    this.looked = 0;
    this.began = this.highest = this.lowest = volts;
  }
}

/** Direction of a current in at U and out at V. */
export const cosTest = Math.cos(-Math.PI / 6);
export const sinTest = Math.sin(-Math.PI / 6);
