import { bookById, DriveSettings, readMemory, readTrace } from '@yare/books';
import { specOf } from '@yare/commissioning';
import { snapshotOf, trippedMachine } from '@yare/commissioning/trips';
import type { LiveWord } from '@yare/contract';
import { ControlWord, type SettingRole, type TripCause } from '@yare/core';
import { noSnapshot, type Before, type TripCase, type TripChannel } from '@yare/core/trips';
import { demoDraft, demoMachine } from '@yare/demo-plant';
import { SimulatedDrive } from '../../src/drive/simulatedDrive';
import { PlantSide } from '../../src/panel/plantSide';

export type Roles = Partial<Record<SettingRole, number>>;
type Trend = Record<TripChannel, number[]> & { time: number[] };

/** s between what the link is asked, as for a machine nobody watches. */
const askEvery = 1;
/** s that a trend keeps before the trip, and s listened to after it. */
const before = 600;
const afterwards = 8;

const noTrend = (): Trend => ({
  ...{
    time: [],
    outputFrequency: [],
    motorCurrent: [],
    busVoltage: [],
    torque: [],
    reference: [],
    feedback: [],
    motorHeat: [],
    driveTemperature: [],
  },
});

/** One machine of the bench led to a trip, with nothing known of it but what its link tells. */
export class Stage {
  readonly d: SimulatedDrive;
  readonly side: PlantSide;
  private trend = noTrend();
  private now = 0;
  private asked = -Infinity;
  /** frequency commanded over the link; null while the terminals have command */
  private led: number | null = null;
  private ledEvery = 0.1;
  private commanded = 0;
  private answeredAt = 0;
  private silent = 0;
  private after: { busVoltage: number; signal: number } | null = null;
  private tripSeenAt: number | null = null;
  /** what it is to trip by is in force: wrong settings always are, a fault from when it strikes */
  inForce = true;

  constructor(
    readonly tag: string,
    roles: Roles,
    seed: number,
    day: number,
  ) {
    const demo = demoMachine(tag);
    const draft = demoDraft(demo);
    const changes = Object.entries(roles).flatMap(([role, x]) => {
      const s = draft.find(role as SettingRole);
      const value = s && x !== undefined ? draft.valueFor(s, x) : null;
      return s && value !== null ? [[s.code, value] as const] : [];
    });
    const asFound = { ...draft.values, ...Object.fromEntries(changes) };
    this.d = new SimulatedDrive({ ...demo, asFound, leadsSwapped: false }, seed, undefined, () => undefined, day);
    this.d.advance(400);
    this.side = new PlantSide(this.d);
  }

  get tripped(): TripCause | null {
    return this.d.machine.trip?.cause ?? null;
  }

  /** The link is asked for everything, and given its command, as the application does it. */
  private speak(): void {
    const { d } = this;
    if (this.led !== null && this.now - this.commanded >= this.ledEvery) {
      this.commanded = this.now;
      this.write(this.led);
    }
    if (this.now - this.asked < askEvery) return;
    this.asked = this.now;
    const { live } = d.book.words;
    const registers = Object.values(live).map((w) => w.register);
    const first = Math.min(...registers);
    try {
      const data = Array.from({ length: Math.max(...registers) - first + 1 }, (_, i) => {
        const known = registers.includes(first + i);
        return known ? d.readRegister(first + i) : 0;
      });
      this.keep(d.settings.liveValues(data, first));
    } catch {
      // it does not answer
    }
  }

  private keep(w: Record<LiveWord, number>): void {
    if (this.tripSeenAt === null || this.tripSeenAt > this.now - 3) this.silent = Math.max(this.silent, this.now - this.answeredAt - askEvery);
    this.answeredAt = this.now;
    if (w.tripCode !== 0) {
      this.tripSeenAt ??= this.now;
      this.after = { busVoltage: w.busVoltage, signal: w.analogueInput };
      return;
    }
    const { trend: t } = this;
    t.time.push(this.now);
    t.outputFrequency.push(w.outputFrequency);
    t.motorCurrent.push(w.motorCurrent);
    t.busVoltage.push(w.busVoltage);
    t.torque.push(w.torque);
    t.reference.push(w.reference);
    t.feedback.push(w.analogueInput);
    t.motorHeat.push(w.motorHeat);
    t.driveTemperature.push(w.driveTemperature);
  }

  private write(reference: number): void {
    const { command } = this.d.book.words;
    try {
      this.d.writeRegister(command.control.register, reference === 0 ? ControlWord.switchOn : this.word());
      this.d.writeRegister(command.reference.register, this.d.settings.wordCounts(command.reference, reference) & 0xffff);
    } catch {
      // a drive that has tripped, or whose cable is pulled, takes no command
    }
  }

  private word(): number {
    const status = this.d.readRegister(this.d.book.words.live.status.register);
    return (status & 0x6f) === 0x21
      ? ControlWord.switchOn
      : (status & 0x6f) === 0x23 || (status & 0x6f) === 0x27
        ? ControlWord.enableOperation
        : ControlWord.shutdown;
  }

  /** Takes command over the link and runs at a frequency in Hz, commanded so often, s. */
  lead(frequency: number, every = 0.1): void {
    const { command, codes } = this.d.book.words;
    if (this.led === null) this.d.writeRegister(command.take.register, codes.take);
    this.led = frequency;
    this.ledEvery = every;
  }

  /** Advances by s, or until it trips; true when it has tripped. */
  wait(seconds: number, step = 0.05): boolean {
    const until = this.now + seconds;
    while (this.now < until - 1e-6 && this.tripped === null) this.step(step);
    return this.tripped !== null;
  }

  private step(seconds: number): void {
    this.d.advance(Math.round(seconds * 1000));
    this.now += seconds;
    this.speak();
  }

  /** A hand at the panel or the plant. */
  act(what: { panel?: Record<string, number>; handles?: Record<string, number> }): void {
    this.side.act(what, 0);
  }

  /** Starts it from its panel as its machine is started; speed as a share of its knob. */
  start(share = 0.85): void {
    switch (this.d.demo.tag) {
      case 'C-07':
        this.act({ panel: { bit0: share > 0.5 ? 1 : 0, bit1: 1, start: 1 } });
        this.wait(0.3);
        this.d.panel.state.start = 0;
        return;
      case 'C-21':
        return this.act({ panel: { run: 1, knob: share } });
      case 'M-55':
        return this.act({ panel: { way: 2, knob: share } });
      default:
        return this.act({ panel: { mode: 0, knob: share } });
    }
  }

  auto(): void {
    this.act({ panel: { mode: 2 } });
  }

  stop(): void {
    if (this.led !== null) this.led = 0;
    else if (this.d.demo.tag === 'C-07') this.act({ panel: { halt: 1 } });
    else if (this.d.demo.tag === 'C-21') this.act({ panel: { run: 0 } });
    else if (this.d.demo.tag === 'M-55') this.act({ panel: { way: 1 } });
    else this.act({ panel: { mode: 1 } });
  }

  /** Something goes wrong at the plant at once. */
  strike(id: string): void {
    this.inForce = this.tripped === null;
    this.d.arm(id, 'now');
  }

  /** What it was is over: a short one heals by itself, a cable is put back, power comes back; then the link is listened to once more. */
  settle(): void {
    this.wait(0.2);
    for (let t = 0; t < afterwards; t += 0.1) this.step(0.1);
    if (this.d.faults.get('link')) {
      this.d.disarm('link');
      for (let t = 0; t < afterwards; t += 0.1) this.step(0.1);
    }
  }

  /** The whole case from what the link tells now. @param full with trace and trend, or the code and its record alone */
  tripCase(full: boolean): TripCase {
    const { d } = this;
    const { memory } = d.book.words;
    const read = (first: number, length: number) => Array.from({ length }, (_, i) => d.readRegister(first + i));
    const [newest] = readMemory(d.settings, read(memory.first, memory.stride * memory.count));
    const settings = new DriveSettings(bookById(d.demo.bookId), d.demo.size, this.readSettings(), d.demo.region);
    const made = specOf(d.demo, d.demo.plate, settings);
    const spec = made.ok ? made.spec : null;
    return {
      cause: d.book.trips.find((t) => t.code === newest?.trip)?.cause as TripCause,
      snapshot: newest ? snapshotOf(newest) : noSnapshot(),
      trace: full ? this.trace() : null,
      trend: full ? this.before() : null,
      afterwards: full ? { silent: Math.max(0, this.silent), busVoltage: this.after?.busVoltage ?? null, signal: this.after?.signal ?? null } : null,
      machine: trippedMachine(settings, d.demo.plate, d.demo, spec),
      repeats: null,
      others: null,
      answers: {},
    };
  }

  private readSettings(): Record<string, number> {
    const { d } = this;
    return Object.fromEntries(
      d.settings.all.map((s) => [
        s.code,
        d.settings.wordValue({ register: s.register, step: s.step, unit: s.unit, signed: s.signed }, d.readRegister(s.register)),
      ]),
    );
  }

  private trace(): Before | null {
    const { d } = this;
    const { trace } = d.book.words.memory;
    if (!trace) return null;
    const length = d.readRegister(trace.length.register) * trace.channels.length;
    const t = readTrace(
      d.settings,
      Array.from({ length }, (_, i) => d.readRegister(trace.first + i)),
    );
    return t && { time: t.time, channels: t.channels };
  }

  private before(): Before {
    const at = this.tripSeenAt ?? this.now;
    const { time, ...channels } = this.trend;
    const from = time.findIndex((t) => t >= at - before);
    const cut = (x: number[]) => x.slice(Math.max(0, from));
    return { time: cut(time).map((t) => t - at), channels: Object.fromEntries(Object.entries(channels).map(([k, x]) => [k, cut(x)])) };
  }
}
