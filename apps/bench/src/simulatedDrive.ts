import {
  bookById,
  driveParameters,
  factoryValue,
  findSetting,
  fromWord,
  refuseDependency,
  refuseValue,
  settingsOf,
  storedValue,
  toWord,
  wordCounts,
  wordValue,
  type DemoMachine,
  type Setting,
} from '@yare/books';
import type { DriveBook, LiveWord } from '@yare/contract';
import {
  asleepBit,
  createMachine,
  powerCycle,
  random,
  ratedTorque,
  restingSensor,
  sensorStep,
  soundConditions,
  stampedPower,
  statusWord,
  stepMachine,
  stepSensor,
  toSi,
  tripMachine,
  Control,
  ControlWord,
  DriveState,
  TripHistory,
  type Load,
  type Machine,
  type Sensor,
  type TripSnapshot,
} from '@yare/core';
import { Firmware } from './firmware';
import { ArmedFault, faults, type Trigger } from './faults';
import { panelOf, type Panel } from './panels';
import { truthOf, type DriveSensors } from './truth';

/** Modbus exception codes (Modbus Application Protocol V1.1b3, section 7). */
export const ModbusException = { illegalAddress: 2, illegalValue: 3, busy: 6, noAnswer: 0x0b } as const;

export class Refusal extends Error {
  readonly modbusErrorCode: number;
  constructor(modbusErrorCode: number) {
    super(`Modbus exception ${modbusErrorCode}`);
    this.modbusErrorCode = modbusErrorCode;
  }
}

/** `lastRefusal` codes of the book. */
const Why = { none: 0, range: 1, running: 2, readOnly: 3, contradiction: 4 } as const;

const dt = 0.001;
const scanEvery = Math.round(sensorStep / dt);

/** What survives a power-off. */
export interface KeptState {
  values: Record<string, number>;
  hours: number;
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
  private kept: Record<string, number>;
  private hours: number;
  private readonly book: DriveBook;
  private readonly settings: readonly Setting[];
  private readonly byRegister: ReadonlyMap<number, Setting>;
  private readonly liveByRegister: ReadonlyMap<number, LiveWord>;
  private readonly sensors: DriveSensors;
  private readonly trueVoltage: number;
  private readonly sensor: Sensor;
  private readonly sensorState;
  private readonly noise;
  private linkHolds = false;
  /** s of real time since the last command */
  private linkAge = 0;
  /** true from a lapse of the link until the motor stands */
  private lapsing = false;
  private control: number = ControlWord.shutdown;
  private reference = 0;
  private lastRefusal: number = Why.none;
  private shownCurrent = 0;
  private shownTorque = 0;
  private steps = 0;

  constructor(
    readonly demo: DemoMachine,
    seed: number,
    state: KeptState | undefined,
    private readonly onKeep: () => void,
  ) {
    this.book = bookById(demo.bookId);
    this.settings = settingsOf(this.book, demo.size);
    this.byRegister = new Map(this.settings.map((s) => [s.register, s]));
    this.liveByRegister = new Map(Object.entries(this.book.words.live).map(([name, w]) => [w.register, name as LiveWord]));
    const factory = Object.fromEntries(this.settings.map((s) => [s.code, factoryValue(s, demo.region)]));
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
    this.panel = panelOf(demo.tag);
    this.panelState = Object.fromEntries(this.panel.devices.map((d) => [d.id, d.rest]));
    this.firmware = new Firmware(this.book, demo.size, this.values);
    this.firmware.powerOn();
  }

  keptState(): KeptState {
    return { values: this.kept, hours: this.hours };
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
    this.giveBack();
  }

  /** Advances by whole milliseconds of real time, so many times as many of the machine's. */
  advance(milliseconds: number): void {
    const m = this.machine;
    if (this.linkHolds && !this.lapsing) {
      this.linkAge += milliseconds * dt;
      if (this.linkAge > m.spec.drive.linkTimeout) this.lapse();
    }
    const smooth = dt / this.book.words.readOutLag;
    for (let i = 0; i < milliseconds * this.pace; i++) {
      if (this.steps++ % scanEvery === 0) this.scan();
      stepMachine(m, this.word(), this.linkHolds ? this.reference : this.firmware.reference, dt);
      if (this.lapsing && !this.running) this.giveBack();
      this.shownCurrent += (m.motor.current - this.shownCurrent) * smooth;
      this.shownTorque += (m.motor.torque - this.shownTorque) * smooth;
    }
    if (m.trip !== null) this.lastTrip = m.trip;
    if (this.running) this.hours += (milliseconds * this.pace) / 3.6e6;
  }

  /** Wires, plant and faults, once a scan. */
  private scan(): void {
    const m = this.machine;
    for (const [id, armed] of this.armed) if (armed.step(this, sensorStep)) this.armed.delete(id);
    m.spec.supply.voltage = this.powered ? this.trueVoltage * this.supplyHandle * this.supplyFault : 1;
    m.conditions.jam = this.jam;
    const stopped = this.panelState.stop === 1;
    // the emergency stop opens both channels, a fault may hold one open on top
    if (stopped) m.conditions.sto1 = m.conditions.sto2 = 0;
    else {
      m.conditions.sto2 = 1;
      m.conditions.sto1 = this.armed.get('sto')?.state === 'struck' ? 0 : 1;
    }
    stepSensor(this.sensorState, this.sensor, this.processValue, this.noise, this.wireBroken);
    const wires = this.panel.wires(this.panelState, this.externalHealthy, this.hasFlow());
    const analogue = wires.knob === null ? (this.sensorState.current - 4) / 16 : this.wireBroken ? (this.firmware.liveZero ? -0.25 : 0) : wires.knob;
    if (!this.powered) return;
    this.firmware.scan(m, { closed: wires.closed, analogue, handSpeed: wires.handSpeed }, this.linkHolds);
    m.inputs = wires.closed.reduce((bits, closed, i) => bits | (closed ? 1 << i : 0), (m.conditions.sto1 << 14) | (m.conditions.sto2 << 15));
  }

  private hasFlow(): boolean {
    const { load } = this.machine.spec;
    return load.kind !== 'pump' || this.machine.loadState.flow > 0.04 * load.bestFlow;
  }

  /** The control word in force: the link's, a stop after its lapse, or the terminals'. */
  private word(): number {
    if (!this.powered) return ControlWord.disableVoltage;
    if (this.lapsing) return this.firmware.onLinkLoss === 1 ? ControlWord.shutdown & ~Control.enableVoltage : ControlWord.switchOn;
    return this.linkHolds ? this.control : this.firmware.word;
  }

  private lapse(): void {
    this.lapsing = true;
    if (this.running && this.firmware.onLinkLoss === 2) tripMachine(this.machine, 'linkLoss');
    if (!this.running) this.giveBack();
  }

  private giveBack(): void {
    this.linkHolds = false;
    this.lapsing = false;
    this.control = ControlWord.shutdown;
    this.reference = 0;
  }

  private answers(): void {
    if (!this.powered || this.linkCut) throw new Refusal(ModbusException.noAnswer);
  }

  /** @throws Refusal with Modbus exception 2 for a register the book does not know */
  readRegister(register: number): number {
    this.answers();
    const setting = this.byRegister.get(register);
    if (setting) return toWord(setting.role === 'hoursRun' ? Math.floor(this.hours) : this.values[setting.code]!, setting.step);
    const live = this.liveByRegister.get(register);
    if (live) return this.liveValue(live) & 0xffff;
    const { command } = this.book.words;
    if (register === command.control.register) return this.control;
    if (register === command.reference.register) return this.counts(command.reference, this.reference) & 0xffff;
    if (register === command.take.register) return this.linkHolds ? 1 : 0;
    if (register === command.keep.register) return 0;
    throw new Refusal(ModbusException.illegalAddress);
  }

  private counts(word: DriveBook['words']['live'][LiveWord], value: number): number {
    return wordCounts(this.book, this.demo.size, this.values, word, value);
  }

  private liveValue(name: LiveWord): number {
    const m = this.machine;
    const scale = (value: number) => this.counts(this.book.words.live[name], value);
    switch (name) {
      case 'status':
        return statusWord(m.state, this.atSpeed) | (this.firmware.asleep && !this.running && m.trip === null && !this.linkHolds ? asleepBit : 0);
      case 'outputFrequency':
        return scale(this.running ? m.frequency : 0);
      case 'motorCurrent':
        return scale(this.shownCurrent * this.sensors.current);
      case 'busVoltage':
        return scale(m.bus.voltage * this.sensors.voltage);
      // a drive without an encoder shows the speed it assumes: synchronous speed of its output
      case 'motorSpeed':
        return scale(this.running ? (m.frequency * 120) / m.spec.circuit.poles : 0);
      case 'torque':
        return scale((100 * this.shownTorque * this.sensors.torque) / this.shownRatedTorque());
      case 'outputVoltage':
        return scale(m.voltage * Math.sqrt(3));
      case 'driveTemperature':
        return scale(m.heatsink);
      case 'tripCode':
        return m.trip ? (this.book.trips.find((t) => t.cause === m.trip!.cause)?.code ?? 99) : 0;
      case 'reference':
        return scale(this.linkHolds ? this.reference : this.firmware.asleep ? 0 : this.firmware.reference);
      case 'commandHolder':
        return this.linkHolds ? 1 : 0;
      case 'inputs':
        return m.inputs;
      case 'analogueInput':
        return scale(Math.max(0, this.firmware.feedback));
      case 'motorHeat':
        return scale(m.motorHeat * 100);
      case 'power':
        return scale(m.motor.input / 1000);
      case 'lastRefusal':
        return this.lastRefusal;
      case 'unkept':
        return this.settings.some((s) => this.values[s.code] !== this.kept[s.code]) ? 1 : 0;
    }
  }

  /** Rated torque as the drive works it out from its own settings, N·m. */
  private shownRatedTorque(): number {
    const power = findSetting(this.book, this.demo.size, 'motorPower');
    const { motorSpeed } = this.machine.spec.drive;
    return ratedTorque((power ? this.values[power.code]! : 1) * 1000, motorSpeed);
  }

  /** @throws Refusal; `lastRefusal` then tells why */
  writeRegister(register: number, word: number): void {
    this.answers();
    const { command, codes } = this.book.words;
    if (register === command.take.register) return this.take(word);
    if (register === command.control.register || register === command.reference.register) {
      if (!this.linkHolds || this.lapsing) throw new Refusal(ModbusException.busy);
      this.linkAge = 0;
      if (register === command.control.register) this.control = word;
      else this.reference = wordValue(this.book, this.demo.size, this.values, command.reference, word);
      return;
    }
    if (register === command.keep.register) {
      if (word !== codes.keep) this.refuse(ModbusException.illegalValue, Why.range);
      this.kept = { ...this.values };
      this.onKeep();
      return;
    }
    const setting = this.byRegister.get(register);
    if (!setting) throw new Refusal(ModbusException.illegalAddress);
    this.writeSetting(setting, fromWord(word, setting.step, setting.signed));
  }

  private take(word: number): void {
    if (word === this.book.words.codes.take) {
      if (this.lapsing || (this.running && !this.linkHolds)) throw new Refusal(ModbusException.busy);
      this.linkHolds = true;
      this.linkAge = 0;
      this.control = ControlWord.shutdown;
      this.reference = 0;
    } else if (this.linkHolds) {
      if (this.running) this.lapse();
      else this.giveBack();
    }
  }

  private writeSetting(setting: Setting, value: number): void {
    if (setting.access === 'read') this.refuse(ModbusException.illegalAddress, Why.readOnly);
    if (setting.access === 'stopped' && this.running) this.refuse(ModbusException.busy, Why.running);
    if (refuseValue(setting, value)) this.refuse(ModbusException.illegalValue, Why.range);
    if (refuseDependency(this.settings, setting, value, this.values)) this.refuse(ModbusException.illegalValue, Why.contradiction);
    this.lastRefusal = Why.none;
    this.values[setting.code] = storedValue(setting, value);
    this.machine.spec.drive = driveParameters(this.book, this.demo.size, this.values);
    this.firmware.read(this.values);
  }

  private refuse(exception: number, why: number): never {
    this.lastRefusal = why;
    throw new Refusal(exception);
  }
}
