import { bookById, driveParameters, factoryValue, settingsOf, type DemoMachine } from '@yare/books';
import type { DriveBook } from '@yare/contract';
import {
  createMachine,
  powerCycle,
  random,
  ratedTorque,
  restingSensor,
  sensorStep,
  soundConditions,
  stampedPower,
  stepMachine,
  stepSensor,
  toSi,
  ControlWord,
  DriveState,
  TripHistory,
  type Load,
  type Machine,
  type Random,
  type Sensor,
  type TripSnapshot,
} from '@yare/core';
import { Firmware } from './firmware';
import { LinkSide } from './linkSide';
import { ArmedFault, faults, type Trigger } from './faults';
import { panelOf, type Panel } from './panels';
import { truthOf, type DriveSensors } from './truth';
import { Tuner, type TuneKind } from './tuner';

const dt = 0.001;
const scanEvery = Math.round(sensorStep / dt);

/** What survives a power-off. */
export interface KeptState {
  values: Record<string, number>;
  hours: number;
  /** two motor leads are changed over at the terminals */
  leadsSwapped?: boolean;
}

/**
 * One simulated drive with its true machine and its panel: settings in working memory and kept, command over the link or from its
 * terminals, registers as its book says. Knows nothing of the application.
 */
export class SimulatedDrive {
  readonly machine: Machine;
  readonly values: Record<string, number>;
  readonly panel: Panel;
  readonly panelState: Record<string, number>;
  readonly firmware: Firmware;
  /** times real time, 1, 5 or 20 */
  pace = 1;
  powered = true;
  // what faults and handles turn
  supplyFault = 1;
  supplyHandle = 1;
  jam = 0;
  wireBroken = false;
  externalHealthy = true;
  channel1Broken = false;
  linkCut = false;
  readonly armed = new Map<string, ArmedFault>();
  /** N·m from the plate */
  readonly ratedTorque: number;
  /** the load as the seed made it, for handles and faults to go back to */
  readonly dryLevel: number;
  readonly feed: number;
  readonly slope: number;
  readonly friction: number;
  lastTrip: TripSnapshot | null = null;
  trips = 0;
  private kept: Record<string, number>;
  hours: number;
  readonly book: DriveBook;
  readonly sensors: DriveSensors;
  readonly link: LinkSide;
  private readonly trueVoltage: number;
  private readonly sensor: Sensor;
  private readonly sensorState;
  readonly noise: Random;
  /** measuring the motor; null when not */
  tuner: Tuner | null = null;
  /** A and N·m as the drive smooths them before it tells them */
  shownCurrent = 0;
  shownTorque = 0;
  private steps = 0;

  constructor(
    readonly demo: DemoMachine,
    seed: number,
    state: KeptState | undefined,
    private readonly onKeep: () => void,
  ) {
    this.book = bookById(demo.bookId);
    const factory = Object.fromEntries(settingsOf(this.book, demo.size).map((s) => [s.code, factoryValue(s, demo.region)]));
    const keptValues = Object.entries(state?.values ?? {}).filter(([code]) => code in factory);
    this.values = { ...factory, ...demo.asFound, ...Object.fromEntries(keptValues) };
    this.kept = { ...this.values };
    this.hours = state?.hours ?? 1200 + demo.unit * 317;
    const truth = truthOf(demo, this.values, seed);
    this.sensors = truth.sensors;
    this.trueVoltage = truth.spec.supply.voltage;
    this.machine = createMachine(truth.spec, soundConditions());
    this.machine.history = new TripHistory();
    const { load } = truth.spec;
    this.dryLevel = load.kind === 'pump' ? load.dryLevel : 0;
    this.feed = load.kind === 'conveyor' ? load.feed : 0;
    this.slope = load.kind === 'conveyor' ? load.slope : 0;
    this.friction = load.kind === 'conveyor' ? load.frictionCoefficient : 0;
    this.ratedTorque = ratedTorque(stampedPower(demo.plate), demo.plate.speed);
    const wired = 'sensor' in demo.driven ? demo.driven.sensor : null;
    const unit = wired?.unit === 'bar' ? toSi(1, 'bar') : 1;
    this.sensor = { low: (wired?.low ?? 0) * unit, high: (wired?.high ?? 1) * unit, step: 0.004, ...truth.transmitter };
    this.sensorState = restingSensor(this.sensor, 0);
    this.noise = random(seed * 31 + demo.unit);
    this.panel = panelOf(demo);
    this.panelState = Object.fromEntries(this.panel.devices.map((d) => [d.id, d.rest]));
    this.firmware = new Firmware(this.book, demo.size, this.values);
    this.firmware.powerOn();
    this.link = new LinkSide(this);
    if (state?.leadsSwapped ?? demo.leadsSwapped) this.arm('leads', 'now');
  }

  keptState(): KeptState {
    return { values: this.kept, hours: this.hours, leadsSwapped: this.machine.conditions.phasesSwapped === 1 };
  }

  /** Keeps working memory through power-off. False when it could not be stored: then nothing is kept that was not before. */
  keep(): boolean {
    const before = this.kept;
    this.kept = { ...this.values };
    try {
      this.onKeep();
      return true;
    } catch {
      this.kept = before;
      return false;
    }
  }

  isKept(code: string): boolean {
    return this.values[code] === this.kept[code];
  }

  /** Puts a value in force at once, unkept. */
  set(code: string, value: number): void {
    this.values[code] = value;
    this.machine.spec.drive = driveParameters(this.book, this.demo.size, this.values);
    this.firmware.read(this.values);
  }

  /** @throws Refusal, see {@link LinkSide} */
  readRegister(register: number): number {
    return this.link.read(register);
  }

  /** @throws Refusal, see {@link LinkSide} */
  writeRegister(register: number, word: number): void {
    this.link.write(register, word);
  }

  get running(): boolean {
    return this.machine.state === DriveState.operationEnabled || this.machine.state === DriveState.quickStop;
  }

  get stopping(): boolean {
    return this.running && this.machine.goal === 0 && Math.abs(this.machine.ramp) > 0.5;
  }

  get atSpeed(): boolean {
    return this.running && this.machine.goal !== 0 && Math.abs(this.machine.ramp - this.machine.goal) < 0.3;
  }

  changeLoad<K extends Load['kind']>(kind: K, change: (load: Extract<Load, { kind: K }>) => void): void {
    const { load } = this.machine.spec;
    if (load.kind === kind) change(load as Extract<Load, { kind: K }>);
  }

  /** An agitator's product against the one it was made for. */
  thickness = 1;
  setThickness(times: number): void {
    this.changeLoad('torque', (l) => {
      l.viscous *= times / this.thickness;
      l.quadratic *= times / this.thickness;
    });
    this.thickness = times;
  }

  /** Process value in SI that the transmitter sees. */
  get processValue(): number {
    const { driven } = this.demo;
    return 'sensor' in driven && driven.sensor?.measures === 'level' ? this.machine.loadState.level : this.machine.loadState.pressure;
  }

  /** mA at the first analogue input. */
  get signal(): number {
    return this.sensorState.current;
  }

  arm(id: string, trigger: Trigger): void {
    const fault = faults.find((f) => f.id === id);
    if (fault && fault.applies(this) && !this.armed.has(id)) this.armed.set(id, new ArmedFault(fault, trigger, this));
  }

  /** Takes a waiting fault back, or puts right what one that struck has done. */
  disarm(id: string): void {
    const armed = this.armed.get(id);
    if (armed?.state === 'struck') armed.fault.heal(this);
    this.armed.delete(id);
  }

  powerOff(): void {
    this.powered = false;
  }

  /** The drive wakes with what it kept. */
  powerOn(): void {
    if (this.powered) return;
    this.powered = true;
    Object.assign(this.values, this.kept);
    this.machine.spec.drive = driveParameters(this.book, this.demo.size, this.values);
    this.machine.spec.supply.voltage = this.trueVoltage * this.supplyHandle * this.supplyFault;
    this.firmware.read(this.values);
    this.firmware.powerOn();
    powerCycle(this.machine);
    this.link.giveBack();
  }

  /** Begins to measure the motor, once the link enables operation. */
  tune(kind: TuneKind): void {
    this.tuner = new Tuner(this, kind);
  }

  /** Advances by whole milliseconds of real time, so many times as many of the machine's. */
  advance(milliseconds: number): void {
    const m = this.machine;
    this.link.wait(milliseconds * dt);
    const smooth = dt / this.book.words.readOutLag;
    for (let i = 0; i < milliseconds * this.pace; i++) {
      if (this.steps++ % scanEvery === 0) this.scan();
      stepMachine(m, this.word(), this.reference(), dt);
      this.tuner?.advance(dt);
      this.link.settle();
      this.shownCurrent += (m.motor.current - this.shownCurrent) * smooth;
      this.shownTorque += (m.motor.torque - this.shownTorque) * smooth;
    }
    if (m.trip !== null && m.trip !== this.lastTrip) {
      this.lastTrip = m.trip;
      this.trips++;
    }
    if (this.running) this.hours += (milliseconds * this.pace) / 3.6e6;
  }

  /** Wires, plant and faults, once a scan. */
  private scan(): void {
    const m = this.machine;
    for (const [id, armed] of this.armed) if (armed.step(this, sensorStep)) this.armed.delete(id);
    m.spec.supply.voltage = this.powered ? this.trueVoltage * this.supplyHandle * this.supplyFault : 1;
    m.conditions.jam = this.jam;
    // the emergency stop opens both channels, a broken wire one of them
    const stopped = this.panelState.stop === 1;
    m.conditions.sto1 = stopped || this.channel1Broken ? 0 : 1;
    m.conditions.sto2 = stopped ? 0 : 1;
    stepSensor(this.sensorState, this.sensor, this.processValue, this.noise, this.wireBroken);
    const wires = this.panel.wires(this.panelState, this.externalHealthy, this.hasFlow());
    const analogue = wires.knob === null ? (this.sensorState.current - 4) / 16 : this.wireBroken ? (this.firmware.liveZero ? -0.25 : 0) : wires.knob;
    if (!this.powered) return;
    this.firmware.scan(m, { closed: wires.closed, analogue, handSpeed: wires.handSpeed }, this.link.holds);
    m.inputs = wires.closed.reduce((bits, closed, i) => bits | (closed ? 1 << i : 0), (m.conditions.sto1 << 14) | (m.conditions.sto2 << 15));
  }

  private hasFlow(): boolean {
    const { load } = this.machine.spec;
    return load.kind !== 'pump' || this.machine.loadState.flow > 0.04 * load.bestFlow;
  }

  private reference(): number {
    if (this.tuner?.state === 'busy') return this.tuner.reference;
    return this.link.holds ? this.link.reference : this.firmware.reference;
  }

  /** The control word in force: the link's, a stop after its lapse, or the terminals'. */
  private word(): number {
    if (!this.powered) return ControlWord.disableVoltage;
    return this.link.word() ?? this.firmware.word;
  }
}
