import type { DriveSettings } from '@yare/books';
import {
  standstillConstants,
  ControlMethod,
  ControlWord,
  DriveState,
  Phase,
  type DriveParameters,
  type SettingRole,
  type LeadReading,
  type Machine,
  type StandstillConstants,
  present,
} from '@yare/core';
import type { Plant } from '../plant/plant';

/** What measuring needs of a drive. */
interface Measured {
  readonly machine: Machine;
  readonly plant: Plant;
  readonly settings: DriveSettings;
  set(code: string, value: number): void;
}

export type TuneKind = 'standstill' | 'rotating';
/** In the order of the books' tune faults. */
const faultOrder = ['lead open', 'loaded', 'no such motor', 'stopped', 'not up to speed'] as const;
export type TuneFault = (typeof faultOrder)[number];

/** Shares of rated current and how long a test to and fro lasts, s; the second half of each is read. */
const directLow = 0.4;
const directHigh = 0.8;
const singleTime = 3;
const singleCurrent = 0.6;
/** two frequencies, so that what the bars add can be taken out again */
const singleSlow = 0.25;
const singleFast = 0.5;
/** The free motor is measured at this share of rated frequency for so long, s, after so long at speed. */
const turningShare = 0.8;
const settleTime = 2;
const turningTime = 4;
/** A free motor takes no more than its own friction; above this share of rated torque something is coupled. */
const freeTorque = 0.12;
/** Mean over RMS of a sine: what a fixed drop takes of a current to and fro. */
const meanOfSine = (2 * Math.SQRT2) / Math.PI;
/** R1 over U/(√3 I) of machines that exist (common practice). */
const leastResistance = 0.003;
const mostResistance = 0.35;

type Step = 'begin' | 'direct low' | 'direct high' | 'single slow' | 'single fast' | 'run up' | 'turning' | 'run down';

/** A drive measuring its motor: takes real time, can be stopped, can fail. Results go to working memory, unkept. */
export class Tuner {
  state: 'busy' | 'done' | 'failed' = 'busy';
  fault: TuneFault | null = null;
  /** Hz, what the ramp is given */
  reference = 0;
  private step: Step = 'begin';
  private age = 0;
  private total = 0;
  private readonly sums = { voltage: 0, current: 0, power: 0, torque: 0, count: 0 };
  private readonly readings: LeadReading[] = [];
  private constants: StandstillConstants | null = null;
  private noLoadCurrent: number | null = null;
  /** what the drive works with, while the tune has it turn under a law of its own */
  private own: DriveParameters | null = null;

  constructor(
    private readonly drive: Measured,
    readonly kind: TuneKind,
  ) {}

  /** s of each level of direct current: the larger a motor, the longer its rotor holds the flux back */
  private get directTime(): number {
    const p = this.drive.machine.spec.drive;
    return 2 + Math.sqrt((Math.sqrt(3) * p.motorVoltage * p.motorCurrent) / 1000);
  }

  get faultIndex(): number {
    return this.fault === null ? -1 : faultOrder.indexOf(this.fault);
  }

  /** % of the time it takes when nothing goes wrong. */
  get progress(): number {
    if (this.state === 'done') return 100;
    const { accelerationTime, decelerationTime } = this.drive.machine.spec.drive;
    const still = 2 * this.directTime + 2 * singleTime;
    const turning = this.kind === 'rotating' ? turningShare * (accelerationTime + decelerationTime) + settleTime + turningTime : 0;
    return Math.min(99, (100 * this.total) / (still + turning));
  }

  /** The control word it wants; the link must go on asking for operation. */
  get word(): number {
    return this.state === 'busy' ? ControlWord.enableOperation : ControlWord.switchOn;
  }

  stop(): void {
    this.fail('stopped');
  }

  private fail(fault: TuneFault): void {
    if (this.state !== 'busy') return;
    this.state = 'failed';
    this.fault = fault;
    this.end();
  }

  /** Gives the drive its own settings back. */
  private restore(): void {
    if (this.own) this.drive.machine.spec.drive = this.own;
    this.own = null;
  }

  private end(): void {
    const m = this.drive.machine;
    this.restore();
    this.reference = 0;
    m.testCurrent = 0;
    if (m.phase === Phase.test) m.finished = 1;
  }

  private enter(step: Step): void {
    this.step = step;
    this.age = 0;
    Object.assign(this.sums, { voltage: 0, current: 0, power: 0, torque: 0, count: 0 });
  }

  /** Sends a test current through two leads. */
  private send(share: number, frequencyShare: number): void {
    const m = this.drive.machine;
    m.phase = Phase.test;
    m.testCurrent = share * m.spec.drive.motorCurrent;
    m.testFrequency = frequencyShare * m.spec.drive.motorFrequency;
  }

  private read(): void {
    const m = this.drive.machine;
    const { lead } = this.drive.plant.truth.firmware.sees;
    const turning = m.phase === Phase.run;
    this.sums.voltage += turning ? m.voltage * Math.sqrt(3) : lead.voltage;
    this.sums.current += turning ? m.motor.current : lead.current;
    this.sums.power += turning ? m.motor.input : lead.power;
    this.sums.torque += Math.abs(m.motor.torque);
    this.sums.count++;
  }

  private mean(): LeadReading & { torque: number } {
    const { voltage, current, power, torque, count } = this.sums;
    return { voltage: voltage / count, current: current / count, power: power / count, torque: torque / count };
  }

  /** After each step of the machine, dt s. */
  advance(dt: number): void {
    if (this.state !== 'busy') return;
    const m = this.drive.machine;
    if (m.trip !== null || (m.state !== DriveState.operationEnabled && this.step !== 'begin')) return this.fail('stopped');
    this.age += dt;
    if (this.step !== 'begin') this.total += dt;
    switch (this.step) {
      case 'begin':
        if (m.state === DriveState.operationEnabled) {
          this.send(directLow, 0);
          this.enter('direct low');
        } else if (this.age > 2) this.fail('stopped');
        return;
      case 'direct low':
        return this.test(this.directTime, () => {
          this.send(directHigh, 0);
          this.enter('direct high');
        });
      case 'direct high':
        return this.test(this.directTime, () => {
          this.send(singleCurrent, singleSlow);
          this.enter('single slow');
        });
      case 'single slow':
        return this.test(singleTime, () => {
          this.send(singleCurrent, singleFast);
          this.enter('single fast');
        });
      case 'single fast':
        return this.test(singleTime, () => this.afterStandstill());
      case 'run up':
        if (Math.abs(m.ramp - this.reference) < 0.05) this.enter('turning');
        else if (this.age > 10 + 3 * m.spec.drive.accelerationTime) this.fail('not up to speed');
        return;
      case 'turning':
        return this.turning();
      case 'run down':
        if (Math.abs(m.ramp) < 0.1) this.succeed();
    }
  }

  private test(lasts: number, then: () => void): void {
    if (this.age > lasts / 2) this.read();
    if (this.age < lasts) return;
    const reading = this.mean();
    if (reading.current < 0.1 * this.drive.machine.testCurrent) return this.fail('lead open');
    this.readings.push(reading);
    then();
  }

  private afterStandstill(): void {
    const [low, high, slow, fast] = this.readings;
    const p = this.drive.machine.spec.drive;
    // what the inverter takes off whatever the current: two levels of direct current show it, and it stands in the others too
    const [a, b] = [present(low), present(high)];
    const drop = a.voltage - (a.current * (b.voltage - a.voltage)) / (b.current - a.current);
    const without = (r: LeadReading): LeadReading => {
      const active = r.power / r.current - drop * meanOfSine;
      const across = Math.max(0, r.voltage ** 2 - (r.power / r.current) ** 2);
      return { current: r.current, power: active * r.current, voltage: Math.sqrt(active * active + across) };
    };
    const c = standstillConstants(
      [a, b],
      [
        { ...without(present(slow)), share: singleSlow },
        { ...without(present(fast)), share: singleFast },
      ],
    );
    const base = p.motorVoltage / (Math.sqrt(3) * p.motorCurrent);
    if (c.statorResistance < leastResistance * base || c.statorResistance > mostResistance * base || c.rotorResistance <= 0)
      return this.fail('no such motor');
    this.constants = c;
    if (this.kind === 'standstill') return this.succeed();
    const m = this.drive.machine;
    m.testCurrent = 0;
    m.phase = Phase.run;
    // full flux, whatever law the load is given afterwards
    this.own = p;
    m.spec.drive = { ...p, controlMethod: ControlMethod.linear, slipCompensation: 0 };
    this.reference = Math.min(turningShare * p.motorFrequency, p.maximumFrequency);
    this.enter('run up');
  }

  private turning(): void {
    if (this.age > settleTime) this.read();
    if (this.age < settleTime + turningTime) return;
    const r = this.mean();
    if (r.torque > freeTorque * this.drive.plant.ratedTorque) return this.fail('loaded');
    const active = r.power / (Math.sqrt(3) * r.voltage);
    const { frequency, spec } = this.drive.machine;
    const flux = (r.voltage * spec.drive.motorFrequency) / (spec.drive.motorVoltage * Math.abs(frequency));
    this.noLoadCurrent = Math.sqrt(Math.max(0, r.current * r.current - active * active)) / flux;
    this.reference = 0;
    this.enter('run down');
  }

  private succeed(): void {
    const c = present(this.constants);
    this.restore();
    this.keepInMemory('statorResistance', c.statorResistance);
    this.keepInMemory('rotorResistance', c.rotorResistance);
    this.keepInMemory('leakageReactance', c.leakageReactance);
    if (this.noLoadCurrent !== null) this.keepInMemory('noLoadCurrent', this.noLoadCurrent);
    this.state = 'done';
    this.end();
  }

  private keepInMemory(role: SettingRole, value: number): void {
    for (const c of this.drive.settings.change(role, value)) this.drive.set(c.code, c.value);
  }
}
