import {
  bookById,
  driveParameters,
  factoryValue,
  fromWord,
  refuseDependency,
  refuseValue,
  settingsOf,
  storedValue,
  toWord,
  type DemoMachine,
  type Setting,
} from '@yare/books';
import type { DriveBook, LiveWord } from '@yare/contract';
import { createMachine, ControlWord, DriveState, statusWord, stepMachine, tripMachine, Control, type Machine } from '@yare/core';
import { trueMachine } from './truth';

/** Modbus exception codes (Modbus Application Protocol V1.1b3, section 7). */
export const ModbusException = { illegalAddress: 2, illegalValue: 3, busy: 6 } as const;

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
/** Read-outs are smoothed like a real drive's display, s. */
const readOutLag = 0.05;

/** What survives a power-off. */
export interface KeptState {
  values: Record<string, number>;
  hours: number;
}

/**
 * One simulated drive with its true machine: settings in working memory and kept, command over the link or from its terminals,
 * registers as its book says. Knows nothing of the application.
 */
export class SimulatedDrive {
  readonly machine: Machine;
  readonly values: Record<string, number>;
  private kept: Record<string, number>;
  private hours: number;
  private readonly book: DriveBook;
  private readonly settings: readonly Setting[];
  private readonly byRegister: ReadonlyMap<number, Setting>;
  private readonly liveByRegister: ReadonlyMap<number, LiveWord>;
  private linkHolds = false;
  private linkAge = 0;
  /** true from a lapse of the link until the motor stands */
  private lapsing = false;
  private control: number = ControlWord.shutdown;
  private reference = 0;
  private lastRefusal: number = Why.none;
  private shownCurrent = 0;
  private shownTorque = 0;

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
    this.values = { ...factory, ...demo.asFound, ...state?.values };
    this.kept = { ...this.values };
    this.hours = state?.hours ?? 1200 + demo.unit * 317;
    this.machine = createMachine(trueMachine(demo, this.values, seed));
  }

  keptState(): KeptState {
    return { values: this.kept, hours: this.hours };
  }

  get running(): boolean {
    return this.machine.state === DriveState.operationEnabled || this.machine.state === DriveState.quickStop;
  }

  private get onLinkLoss(): number {
    return this.values['5d'] ?? 0;
  }

  /** Advances by whole milliseconds. */
  advance(milliseconds: number): void {
    const m = this.machine;
    for (let i = 0; i < milliseconds; i++) {
      if (this.linkHolds && !this.lapsing) {
        this.linkAge += dt;
        if (this.linkAge > m.spec.drive.linkTimeout) this.lapse();
      }
      stepMachine(m, this.word(), this.linkHolds ? this.reference : 0, dt);
      if (this.lapsing && !this.running) this.giveBack();
      this.shownCurrent += (m.motor.current - this.shownCurrent) * (dt / readOutLag);
      this.shownTorque += (m.motor.torque - this.shownTorque) * (dt / readOutLag);
    }
    if (this.running) this.hours += milliseconds / 3.6e6;
  }

  /** The control word in force: the link's, a stop after its lapse, or the terminals', whose run input is open. */
  private word(): number {
    if (this.lapsing) return this.onLinkLoss === 1 ? ControlWord.shutdown & ~Control.enableVoltage : ControlWord.switchOn;
    return this.linkHolds ? this.control : ControlWord.shutdown;
  }

  private lapse(): void {
    this.lapsing = true;
    if (this.running && this.onLinkLoss === 2) tripMachine(this.machine, 'linkLoss');
    if (!this.running) this.giveBack();
  }

  private giveBack(): void {
    this.linkHolds = false;
    this.lapsing = false;
    this.control = ControlWord.shutdown;
    this.reference = 0;
  }

  /** @throws Refusal with Modbus exception 2 for a register the book does not know */
  readRegister(register: number): number {
    const setting = this.byRegister.get(register);
    if (setting) return toWord(setting.name === 'Hours run' ? Math.floor(this.hours) : this.values[setting.code]!, setting.step);
    const live = this.liveByRegister.get(register);
    if (live) return this.liveValue(live);
    const { command } = this.book.words;
    if (register === command.control.register) return this.control;
    if (register === command.reference.register) return toWord(this.reference, command.reference.step);
    if (register === command.take.register) return this.linkHolds ? 1 : 0;
    if (register === command.keep.register) return 0;
    throw new Refusal(ModbusException.illegalAddress);
  }

  private liveValue(name: LiveWord): number {
    const m = this.machine;
    const scale = (value: number) => toWord(value, this.book.words.live[name].step) & 0xffff;
    switch (name) {
      case 'status':
        return statusWord(m.state, this.running && Math.abs(m.ramp - this.reference) < 0.05);
      case 'outputFrequency':
        return scale(this.running ? m.frequency : 0);
      case 'motorCurrent':
        return scale(this.shownCurrent);
      case 'busVoltage':
        return scale(m.bus.voltage);
      // a drive without an encoder shows the speed it assumes: synchronous speed of its output
      case 'motorSpeed':
        return scale(this.running ? (m.frequency * 120) / m.spec.circuit.poles : 0);
      case 'torque':
        return scale((100 * this.shownTorque) / this.ratedTorque());
      case 'outputVoltage':
        return scale(m.voltage * Math.sqrt(3));
      case 'driveTemperature':
        return scale(28 + 45 * m.driveHeat);
      case 'tripCode':
        return m.trip ? (this.book.trips.find((t) => t.cause === m.trip!.cause)?.code ?? 99) : 0;
      case 'reference':
        return scale(this.linkHolds ? this.reference : 0);
      case 'commandHolder':
        return this.linkHolds ? 1 : 0;
      case 'inputs':
        return 0;
      case 'analogueInput':
        return 0;
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

  private ratedTorque(): number {
    const v = this.values;
    return ((v['1a'] ?? 1) * 1000 * 60) / (2 * Math.PI * (v['1e'] ?? 1500));
  }

  /** @throws Refusal; `lastRefusal` then tells why */
  writeRegister(register: number, word: number): void {
    const { command, codes } = this.book.words;
    if (register === command.take.register) return this.take(word);
    if (register === command.control.register || register === command.reference.register) {
      if (!this.linkHolds || this.lapsing) throw new Refusal(ModbusException.busy);
      this.linkAge = 0;
      if (register === command.control.register) this.control = word;
      else this.reference = fromWord(word, command.reference.step, true);
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
  }

  private refuse(exception: number, why: number): never {
    this.lastRefusal = why;
    throw new Refusal(exception);
  }
}
