import { fromWord, refuseValue, storedValue, toWord, type DriveSettings, type Setting } from '@yare/books';
import type { DriveBook, LiveWord } from '@yare/contract';
import {
  asleepBit,
  bitsOf,
  LinkLossAction,
  ratedTorque,
  SpeedSource,
  StartSource,
  SettingsLock,
  statusWord,
  tripMachine,
  Control,
  ControlWord,
  type CommandInputs,
  type ControlSettings,
  type HoldBack,
  type Machine,
  type Resolution,
} from '@yare/core';
import { ignoredInAll, sideBySide, type ControlState, type StationWire } from '@yare/core/firmware';
import type { Plant } from '../plant/plant';
import type { TripMemory } from './tripMemory';
import type { Tuner, TuneKind } from './tuner';

/** What the link reaches of a drive. */
interface LinkedDrive {
  readonly book: DriveBook;
  readonly settings: DriveSettings;
  readonly machine: Machine;
  readonly plant: Plant;
  readonly controls: ControlState;
  readonly controlSettings: ControlSettings;
  readonly running: boolean;
  /** share of the second analogue input */
  readonly second: number;
  readonly hours: number;
  readonly shownCurrent: number;
  readonly shownTorque: number;
  readonly shownBus: number;
  readonly tuner: Tuner | null;
  readonly tripMemory: TripMemory;
  readonly station: StationWire | null;
  set(code: string, value: number): void;
  keep(): boolean;
  isKept(code: string): boolean;
  tune(kind: TuneKind): void;
}

/** Modbus exception codes (Modbus Application Protocol V1.1b3, section 7). */
export const ModbusException = { illegalAddress: 2, illegalValue: 3, busy: 6, noAnswer: 0x0b } as const;

export class Refusal extends Error {
  readonly modbusErrorCode: number;
  constructor(modbusErrorCode: number) {
    super(`Modbus exception ${modbusErrorCode}`);
    this.modbusErrorCode = modbusErrorCode;
  }
}

/** What a drive says for a trip its book has no code for. */
const unknownTrip = 99;
/** W a drive takes for a motor whose power it is not told. */
const unknownPower = 1000;

/** `lastRefusal` codes of the book. */
const Why = { none: 0, range: 1, running: 2, readOnly: 3, contradiction: 4, locked: 6 } as const;

/** A drive's side of its link: registers as its book says, one holder of command, and what happens when the link falls silent. */
export class LinkSide {
  /** the link has command */
  holds = false;
  /** Hz, signed */
  reference = 0;
  /** s of real time since the last command */
  private age = 0;
  /** true from a lapse of the link until the motor stands */
  private lapsing = false;
  private control: number = ControlWord.shutdown;
  /** what a controller says that has not taken command for itself, and s since it said so */
  private readonly told = { control: ControlWord.shutdown as number, reference: 0, silent: Infinity };
  private lastRefusal: number = Why.none;
  /** operation was enabled since a tune was begun */
  private enabled = false;
  private readonly book: DriveBook;
  private readonly settings: DriveSettings;
  private readonly byRegister: ReadonlyMap<number, Setting>;
  private readonly liveByRegister: ReadonlyMap<number, LiveWord>;

  constructor(private readonly drive: LinkedDrive) {
    this.book = drive.book;
    this.settings = drive.settings;
    this.byRegister = new Map(this.settings.all.map((s) => [s.register, s]));
    this.liveByRegister = new Map(Object.entries(this.book.words.live).map(([name, w]) => [w.register, name as LiveWord]));
  }

  /** Counts the silence in s of real time; past the drive's time-out command lapses. */
  wait(seconds: number): void {
    this.told.silent += seconds;
    if (!this.holds || this.lapsing) return;
    this.age += seconds;
    if (this.age > this.drive.machine.spec.drive.linkTimeout) this.lapse();
  }

  /** After each step: a stop that a lapse began is over once the motor stands. */
  settle(): void {
    if (this.lapsing && !this.drive.running) this.giveBack();
  }

  /** The control word the link has in force; null when the terminals have command. */
  word(): number | null {
    const { tuner } = this.drive;
    if (tuner?.state === 'busy') {
      // the link must go on asking for operation, or the measuring ends
      if (this.lapsing || !this.holds || (this.enabled && this.control !== ControlWord.enableOperation)) tuner.stop();
      else if (this.control === ControlWord.enableOperation) this.enabled = true;
      return this.enabled ? tuner.word : this.control;
    }
    if (this.lapsing)
      return this.drive.controlSettings.onLinkLoss === LinkLossAction.coast ? ControlWord.shutdown & ~Control.enableVoltage : ControlWord.switchOn;
    return this.holds ? this.control : null;
  }

  /** A controller that starts it or sets its speed, where the settings say that the link may. */
  get master(): CommandInputs['link'] {
    const { control, reference, silent } = this.told;
    return {
      alive: silent <= this.drive.machine.spec.drive.linkTimeout,
      run: (control & Control.enableOperation) !== 0 && (control & Control.quickStopOff) !== 0,
      reference,
    };
  }

  /** The settings let a controller on the link give starts or speeds without taking command. */
  private get listens(): boolean {
    const { remote, local } = this.drive.controlSettings.command;
    return [remote, local].some((pair) => pair.start === StartSource.link || pair.speed === SpeedSource.link);
  }

  private lapse(): void {
    this.lapsing = true;
    if (this.drive.running && this.drive.controlSettings.onLinkLoss === LinkLossAction.trip) tripMachine(this.drive.machine, 'linkLoss');
    if (!this.drive.running) this.giveBack();
  }

  giveBack(): void {
    this.holds = false;
    this.lapsing = false;
    this.control = ControlWord.shutdown;
    this.reference = 0;
  }

  private answers(): void {
    const { plant } = this.drive;
    if (!plant.awake || plant.wiring.linkCut) throw new Refusal(ModbusException.noAnswer);
  }

  /** What the drive says it is: the objects of Modbus Application Protocol V1.1b3, section 6.21, by their numbers. */
  identification(): Record<number, string> {
    this.answers();
    return { 0: 'Bench', 1: this.settings.size, 2: `edition ${this.book.edition}`, 5: this.book.family };
  }

  /** @throws Refusal with Modbus exception 2 for a register the book does not know */
  read(register: number): number {
    this.answers();
    const setting = this.byRegister.get(register);
    if (setting) return toWord(this.counted(setting) ?? this.settings.value(setting), setting.step);
    const live = this.liveByRegister.get(register);
    if (live) return this.liveValue(live) & 0xffff;
    const { command } = this.book.words;
    if (register === command.control.register) return this.holds ? this.control : this.told.control;
    if (register === command.reference.register) return this.counts(command.reference, this.holds ? this.reference : this.told.reference) & 0xffff;
    if (register === command.take.register) return this.holds ? 1 : 0;
    if (register === command.keep.register) return 0;
    const tune = this.readTune(register);
    if (tune !== null) return tune;
    const remembered = this.drive.tripMemory.word(register);
    if (remembered !== null) return remembered;
    throw new Refusal(ModbusException.illegalAddress);
  }

  /** What the drive counts and can only be read; null for a setting that is set. */
  private counted({ role }: Setting): number | null {
    const { emergency } = this.drive.controls;
    switch (role) {
      case 'hoursRun':
        return Math.floor(this.drive.hours);
      case 'emergencyCount':
        return emergency.count;
      case 'emergencyMinutes':
        return Math.floor(emergency.seconds / 60);
      case 'emergencyIgnored':
        return ignoredInAll(emergency, this.drive.machine);
      default:
        return null;
    }
  }

  /** The words of a measurement; null for a register that is none of them. */
  private readTune(register: number): number | null {
    const { tune } = this.book.words;
    const { tuner } = this.drive;
    if (!tune) return null;
    if (register === tune.command.register) return tuner?.state === 'busy' ? tune.codes[tuner.kind] : tune.codes.none;
    if (register === tune.state.register) return tune.states[tuner?.state ?? 'idle'];
    if (register === tune.progress.register) return Math.round(tuner?.progress ?? 0);
    if (register === tune.fault.register) return tuner?.fault ? (tune.faults[tuner.faultIndex]?.code ?? 0) : 0;
    return null;
  }

  private beginTune(codes: NonNullable<DriveBook['words']['tune']>['codes'], word: number): void {
    if (word === codes.none) return this.drive.tuner?.stop();
    if (word !== codes.standstill && word !== codes.rotating) this.refuse(ModbusException.illegalValue, Why.range);
    if (!this.holds || this.lapsing || this.drive.running || this.drive.machine.trip !== null) throw new Refusal(ModbusException.busy);
    this.enabled = false;
    this.drive.tune(word === codes.standstill ? 'standstill' : 'rotating');
  }

  /** It is told to run and stands by itself: asleep, resting, or while others run. It will start by itself. */
  private get asleep(): boolean {
    const { controls, running } = this.drive;
    const told = controls.resolution?.run === true && this.drive.machine.trip === null && !this.holds;
    return controls.process.sleep.asleep || (told && !running && (controls.doing === 'resting' || controls.doing === 'standby'));
  }

  /** Pumps of its station that are to run, whether it takes part itself or not. */
  private get pumpsOn(): readonly number[] {
    const { station, controls, controlSettings } = this.drive;
    return station && sideBySide(controlSettings.station) ? station.order : controls.station.order;
  }

  /** What it warns of, and what it rests for. */
  private warns(): number {
    const { warns, restsFor } = this.drive.controls.guards;
    return [...warns, ...(restsFor ? [restsFor] : [])].reduce((word, w) => word | (1 << (this.book.told.warns?.[w] ?? 15)), 0);
  }

  private counts(word: DriveBook['words']['live'][LiveWord], value: number): number {
    return this.settings.wordCounts(word, value);
  }

  private liveValue(name: LiveWord): number {
    const m = this.drive.machine;
    const scale = (value: number) => this.counts(this.book.words.live[name], value);
    switch (name) {
      case 'status':
        return statusWord(m.state, this.drive.plant.atSpeed) | (this.asleep && !this.drive.running && m.trip === null && !this.holds ? asleepBit : 0);
      case 'outputFrequency':
        return scale(this.drive.running ? m.frequency : 0);
      case 'motorCurrent':
        return scale(this.drive.shownCurrent);
      case 'busVoltage':
        return scale(this.drive.shownBus);
      // a drive without an encoder shows the speed it assumes: synchronous speed of its output
      case 'motorSpeed':
        return scale(this.drive.running ? (m.frequency * 120) / m.spec.circuit.poles : 0);
      case 'torque':
        return scale((100 * this.drive.shownTorque) / this.shownRatedTorque());
      case 'outputVoltage':
        return scale(m.voltage * Math.sqrt(3));
      case 'driveTemperature':
        return scale(m.heatsink);
      case 'tripCode':
        return this.tripCode();
      case 'reference':
        return scale(this.holds ? this.reference : this.asleep ? 0 : this.drive.controls.reference);
      case 'commandHolder':
        return this.holds ? 1 : 0;
      case 'inputs':
        return m.inputs;
      case 'analogueInput':
        return scale(this.drive.controls.feedback);
      case 'analogueInput2':
        return scale(100 * this.drive.second);
      case 'setpoint':
        return scale(this.drive.controls.process.setpoint);
      case 'mode':
        return this.book.told.mode[this.resolution?.mode ?? 'off'] ?? 0;
      case 'startedBy':
        return this.book.told.start[this.resolution?.start ?? 'nothing'] ?? 0;
      case 'speedBy':
        return this.book.told.speed[this.resolution?.speed ?? 'keypad'] ?? 0;
      case 'heldBack':
        return this.heldBack();
      case 'outputs':
        return bitsOf(this.drive.controls.outputs);
      case 'motorHeat':
        return scale(m.motorHeat * 100);
      case 'power':
        return scale(m.motor.input / 1000);
      case 'lastRefusal':
        return this.lastRefusal;
      case 'doing':
        return this.book.told.doing?.[this.drive.controls.doing] ?? 0;
      case 'warns':
        return this.warns();
      case 'pumpsOn':
        return this.pumpsOn.reduce((word, n) => word | (1 << (n - 1)), 0);
      case 'unkept':
        return this.settings.all.some((s) => !this.drive.isKept(s.code)) ? 1 : 0;
    }
  }

  private get resolution(): Resolution | null {
    return this.drive.controls.resolution;
  }

  private heldBack(): number {
    const holds: HoldBack[] = [...(this.resolution?.holds ?? []), ...(this.asleep ? (['asleep'] as const) : [])];
    return holds.reduce((word, h) => word | (1 << (this.book.told.held[h] ?? 0)), 0);
  }

  /** The family's code of the trip in force; 0 without one. */
  tripCode(): number {
    const { trip } = this.drive.machine;
    return trip ? (this.book.trips.find((t) => t.cause === trip.cause)?.code ?? unknownTrip) : 0;
  }

  /** Rated torque as the drive works it out from its own settings, N·m. */
  shownRatedTorque(): number {
    const { motorSpeed } = this.drive.machine.spec.drive;
    return ratedTorque(this.settings.role('motorPower') ?? unknownPower, motorSpeed);
  }

  /** @throws Refusal; `lastRefusal` then tells why */
  write(register: number, word: number): void {
    this.answers();
    const { command, codes } = this.book.words;
    if (register === command.take.register) return this.take(word);
    if (register === command.control.register || register === command.reference.register) {
      if (!this.holds && this.listens && !this.lapsing) return this.listen(register, word);
      if (!this.holds || this.lapsing) throw new Refusal(ModbusException.busy);
      this.age = 0;
      if (register === command.control.register) this.control = word;
      else this.reference = this.settings.wordValue(command.reference, word);
      return;
    }
    if (register === command.keep.register) {
      if (word !== codes.keep) this.refuse(ModbusException.illegalValue, Why.range);
      this.drive.keep();
      return;
    }
    const { tune } = this.book.words;
    if (tune && register === tune.command.register) return this.beginTune(tune.codes, word);
    const setting = this.byRegister.get(register);
    if (!setting) throw new Refusal(ModbusException.illegalAddress);
    this.writeSetting(setting, fromWord(word, setting.step, setting.signed));
  }

  private listen(register: number, word: number): void {
    const { command } = this.book.words;
    this.told.silent = 0;
    if (register === command.control.register) this.told.control = word;
    else this.told.reference = this.settings.wordValue(command.reference, word);
  }

  private take(word: number): void {
    if (word === this.book.words.codes.take) {
      if (this.lapsing || (this.drive.running && !this.holds)) throw new Refusal(ModbusException.busy);
      this.holds = true;
      this.age = 0;
      this.control = ControlWord.shutdown;
      this.reference = 0;
    } else if (this.holds) {
      if (this.drive.running) this.lapse();
      else this.giveBack();
    }
  }

  private writeSetting(setting: Setting, value: number): void {
    if (setting.role !== 'settingsLock' && this.settings.role('settingsLock') === SettingsLock.locked)
      this.refuse(ModbusException.illegalAddress, Why.locked);
    if (setting.access === 'read') this.refuse(ModbusException.illegalAddress, Why.readOnly);
    if (setting.access === 'stopped' && this.drive.running) this.refuse(ModbusException.busy, Why.running);
    if (refuseValue(setting, value)) this.refuse(ModbusException.illegalValue, Why.range);
    if (this.settings.contradiction(setting, value)) this.refuse(ModbusException.illegalValue, Why.contradiction);
    this.lastRefusal = Why.none;
    this.drive.set(setting.code, storedValue(setting, value));
  }

  private refuse(exception: number, why: number): never {
    this.lastRefusal = why;
    throw new Refusal(exception);
  }
}
