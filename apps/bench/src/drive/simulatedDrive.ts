import { bookById, DriveSettings, factoryValues } from '@yare/books';
import type { DriveBook, BenchTrigger, WireFault } from '@yare/contract';
import { panelFor, panelOf, type DemoMachine, type Panel } from '@yare/demo-plant';
import {
  powerCycle,
  inputsWord,
  sensorStep,
  ControlWord,
  InputSense,
  OutputJob,
  shareOf,
  AnalogueSignal,
  type ControlSettings,
  type Machine,
  Switch,
} from '@yare/core';
import { powerOnControls, restingControls, scanControls, ignoredInAll, type StationWire } from '@yare/core/firmware';
import { Faults } from '../faults/armed';
import { Drill } from '../faults/drill';
import { WiredPanel } from '../panel/wiredPanel';
import { Plant } from '../plant/plant';
import { LinkSide } from './linkSide';
import { TripMemory, type KeptTrips } from './tripMemory';
import { Tuner, type TuneKind } from './tuner';

const dt = 0.001;
/** s over which a drive smooths the bus it tells: a pulse or two of its rectifier. */
const busReadOut = 0.01;
const scanEvery = Math.round(sensorStep / dt);
/** Share of the 4 to 20 mA range that no current at all reads as, and one of 0 to 20 mA. */
const noCurrent = { liveZero: -0.25, zero: 0 };

/** What survives a power-off. */
export interface KeptState {
  values: Record<string, number>;
  hours: number;
  /** two motor leads are changed over at the terminals */
  leadsSwapped?: boolean;
  /** how often and how long it ran in emergency, and trips it ran on through */
  emergency?: { count: number; seconds: number; ignored: number };
  tripMemory?: KeptTrips;
  /** the panel, where it was built anew, and its wires that do not lie as drawn */
  panel?: Panel;
  wireFaults?: WireFault[];
}

/**
 * One simulated drive at its plant: settings in working memory and kept, command over the link or from its terminals, registers as its book
 * says. Knows nothing of the application.
 */
export class SimulatedDrive {
  readonly plant: Plant;
  readonly faults: Faults;
  readonly drill: Drill;
  readonly book: DriveBook;
  /** working memory, by code */
  readonly values: Record<string, number>;
  readonly settings: DriveSettings;
  panel: WiredPanel;
  readonly controls = restingControls();
  controlSettings: ControlSettings;
  readonly link: LinkSide;
  /** times real time, 1, 5 or 20 */
  pace = 1;
  readonly tripMemory: TripMemory;
  /** since the bench began */
  trips = 0;
  hours: number;
  /** what the drives of its station tell one another; null where it stands alone */
  station: StationWire | null = null;
  /** measuring the motor; null when not */
  tuner: Tuner | null = null;
  /** A and N·m as the drive smooths them before it tells them */
  shownCurrent = 0;
  shownTorque = 0;
  /** V, without its ripple */
  shownBus = 0;
  /** the panel that was built in place of the machine's own */
  private builtAnew: Panel | undefined;
  private kept: Record<string, number>;
  /** its inputs are closed by 0 V */
  private waitsForZero = false;
  private steps = 0;

  constructor(
    readonly demo: DemoMachine,
    seed: number,
    state: KeptState | undefined,
    private readonly onKeep: () => void,
    day = 0,
  ) {
    this.book = bookById(demo.bookId);
    const factory = factoryValues(this.book, demo.size, demo.region);
    const keptValues = Object.entries(state?.values ?? {}).filter(([code]) => code in factory);
    this.values = { ...factory, ...demo.asFound, ...Object.fromEntries(keptValues) };
    this.kept = { ...this.values };
    this.settings = new DriveSettings(this.book, demo.size, this.values, demo.region);
    this.tripMemory = new TripMemory(this.settings, state?.tripMemory);
    this.hours = state?.hours ?? 1200 + demo.unitId * 317;
    this.plant = new Plant(demo, this.values, seed, day);
    this.plant.whenSwitched((on) => on && this.wake());
    this.faults = new Faults(this.plant);
    this.drill = new Drill(this.plant, this.faults, (role) => this.settings.role(role) === Switch.on);
    this.shownBus = this.plant.machine.bus.voltage;
    this.builtAnew = state?.panel;
    this.panel = this.wired(this.builtAnew ?? panelOf(demo));
    this.panel.faults = state?.wireFaults ?? [];
    this.controlSettings = this.settings.controls();
    this.waitsForZero = this.settings.role('inputSense') === InputSense.npn;
    if (state?.emergency) {
      const { count, seconds, ignored } = state.emergency;
      Object.assign(this.controls.emergency, { count, seconds, ignoredBefore: ignored });
    }
    powerOnControls(this.controls, this.controlSettings);
    this.link = new LinkSide(this);
    if (state?.leadsSwapped ?? demo.leadsSwapped) this.faults.arm('leads', 'now');
  }

  private wired(panel: Panel): WiredPanel {
    const inputs = this.book.terminals.filter((t) => t.kind === 'digital in').map((t) => t.id);
    return new WiredPanel(panel, inputs, this.plant.noise);
  }

  /** Somebody builds the panel anew for the jobs the drive's inputs have now, with every wire as drawn. */
  buildPanel(): void {
    // a knob that gives the speed takes the place of a sensor at the same input
    this.builtAnew = panelFor(this.settings);
    this.panel = this.wired(this.builtAnew);
    this.onKeep();
  }

  get machine(): Machine {
    return this.plant.machine;
  }

  get running(): boolean {
    return this.plant.running;
  }

  keptState(): KeptState {
    const { emergency } = this.controls;
    return {
      values: this.kept,
      hours: this.hours,
      emergency: { count: emergency.count, seconds: emergency.seconds, ignored: ignoredInAll(emergency, this.machine) },
      tripMemory: this.tripMemory.keptState(),
      leadsSwapped: this.machine.conditions.phasesSwapped === 1,
      panel: this.builtAnew,
      wireFaults: this.panel.faults,
    };
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
    this.readSettings();
  }

  private readSettings(): void {
    this.machine.spec.drive = this.settings.parameters();
    this.controlSettings = this.settings.controls();
    this.waitsForZero = this.settings.role('inputSense') === InputSense.npn;
  }

  /** @throws Refusal, see {@link LinkSide} */
  readRegister(register: number): number {
    return this.link.read(register);
  }

  /** @throws Refusal, see {@link LinkSide} */
  identification(): Record<number, string> {
    return this.link.identification();
  }

  /** @throws Refusal, see {@link LinkSide} */
  writeRegister(register: number, word: number): void {
    this.link.write(register, word);
  }

  arm(id: string, trigger: BenchTrigger): void {
    this.faults.arm(id, trigger);
  }

  disarm(id: string): void {
    this.faults.disarm(id);
  }

  powerOff(): void {
    this.plant.switchMains(false);
  }

  powerOn(): void {
    this.plant.switchMains(true);
  }

  /** The drive wakes with what it kept. */
  private wake(): void {
    Object.assign(this.values, this.kept);
    this.readSettings();
    powerOnControls(this.controls, this.controlSettings);
    powerCycle(this.machine);
    this.link.giveBack();
  }

  /** Begins to measure the motor, once the link enables operation. */
  tune(kind: TuneKind): void {
    this.tuner = new Tuner(this, kind);
  }

  /** Advances by whole milliseconds of real time, so many times as many of the machine's. */
  advance(milliseconds: number): void {
    this.begin(milliseconds);
    for (let i = 0; i < milliseconds * this.pace; i++) this.step();
    this.end(milliseconds);
  }

  /** Counts the link's silence before so many milliseconds of real time. */
  begin(milliseconds: number): void {
    this.link.wait(milliseconds * dt);
  }

  /** One millisecond of the machine's time. */
  step(): void {
    const m = this.machine;
    if (this.steps++ % scanEvery === 0) this.scan();
    this.plant.truth.advance(this.word(), this.reference());
    this.tuner?.advance(dt);
    this.link.settle();
    const smooth = dt / this.book.words.readOutLag;
    this.shownCurrent += (m.motor.current - this.shownCurrent) * smooth;
    this.shownTorque += (m.motor.torque - this.shownTorque) * smooth;
    this.shownBus += (m.bus.voltage - this.shownBus) * (dt / busReadOut);
    this.tripMemory.run(m, this.running);
    if (this.tripMemory.isNew(m.trip)) this.noteTrip();
  }

  /** A trip that is new goes into the drive's memory. */
  private noteTrip(): void {
    const { machine, settings, hours } = this;
    const facts = { code: this.link.tripCode(), ratedTorque: this.link.shownRatedTorque(), feedback: this.controls.feedback };
    this.tripMemory.note({ machine, settings, hours, ...facts });
    this.trips++;
  }

  /** Notes what came of so many milliseconds of real time. */
  end(milliseconds: number): void {
    if (this.running) this.hours += (milliseconds * this.pace) / 3.6e6;
  }

  /** Faults, plant, panel and terminals, once a scan. */
  private scan(): void {
    const { plant } = this;
    const m = this.machine;
    this.faults.step(sensorStep);
    plant.scan(this.panel.state.stop === 1);
    plant.assist(this.pumpsBeside);
    if (!plant.powered) return;
    const contacts = this.panel.closed({ healthy: plant.wiring.externalHealthy, flow: plant.hasFlow }, sensorStep);
    // an input that waits for 0 V is not closed by the panel's 24 V
    const closed = this.waitsForZero ? contacts.map(() => false) : contacts;
    const { keypad } = this.panel;
    const inputs = {
      closed,
      analogue: this.analogue(),
      second: this.second,
      keypad,
      link: this.link.master,
      borrowed: this.link.holds,
      station: this.station,
      hours: this.hours,
    };
    scanControls(this.controls, this.controlSettings, m, inputs, sensorStep);
    m.inputs = inputsWord(closed, [m.conditions.sto1, m.conditions.sto2]);
  }

  /** How many pumps on contactors its relays have switched on. */
  private get pumpsBeside(): number {
    const { outputs } = this.controlSettings;
    return outputs.filter((job, i) => job >= OutputJob.pump2 && job <= OutputJob.pump4 && this.controls.outputs[i]).length;
  }

  /** Share of the second analogue input's range. */
  get second(): number {
    return this.panel.knob('secondKnob') ?? 0;
  }

  /** Share of the first analogue input's range, from the transmitter or from a knob wired in its place. */
  private analogue(): number {
    const { signal } = this.controlSettings.command.analogue;
    const knob = this.panel.knob('knob');
    if (knob === null) return signal === AnalogueSignal.liveZero || signal === AnalogueSignal.zeroTo20 ? shareOf(signal, this.plant.signal) : 0;
    if (!this.plant.wiring.signalBroken) return knob;
    return signal === AnalogueSignal.liveZero ? noCurrent.liveZero : noCurrent.zero;
  }

  private reference(): number {
    if (this.controls.emergency.active) return this.controls.reference;
    if (this.tuner?.state === 'busy') return this.tuner.reference;
    return this.link.holds ? this.link.reference : this.controls.reference;
  }

  /** The control word in force: the link's, a stop after its lapse, or the terminals'. */
  private word(): number {
    // without mains it goes on for as long as its bus keeps its electronics alive, and trips on that bus before
    if (!this.plant.awake) return ControlWord.disableVoltage;
    const linked = this.link.word();
    return this.controls.emergency.active ? this.controls.word : (linked ?? this.controls.word);
  }
}
