import type { DriveBook, LiveWord, Source, Word, WordBase } from '@yare/contract';
import {
  absentFeature,
  requiredRoles,
  AnalogueSignal,
  HealthyContact,
  InputJob,
  ProcessAction,
  type ControlSettings,
  type DriveParameters,
  type DriveRating,
  type SettingRole,
  type StampedPlate,
} from '@yare/core';
import { driveRating, levelsOf, ratingOf, type BookRating } from './book';
import { plateFigures, type PlateSetting } from './plateFigures';
import { factoryValue, fromWord, settingList, storedValue, toWord, textOf, type Region, type Setting } from './setting';

export type Values = Readonly<Record<string, number>>;

/** A setting's new value with where it comes from. */
export interface SettingChange {
  code: string;
  value: number;
  source: Source;
}

const modelRoles = [...Object.keys(absentFeature), ...requiredRoles] as ReadonlyArray<keyof DriveParameters>;
const inputRole = /^job /;
const liveNames = (book: DriveBook): LiveWord[] => Object.keys(book.words.live) as LiveWord[];

/** Decimals worth keeping of a word whose counts are shares: those of one count, and one more. */
const decimalsOf = (step: number): number => Math.max(0, 1 - Math.floor(Math.log10(step)));

const presets = [1, 2, 3, 4, 5, 6, 7];
/** kHz of a family that has no such setting. */
const usualCarrier = 4;

/**
 * The settings of one drive: the one way to read or change a setting by what it does. `values` are by code in the book's units and may be a
 * record that others go on changing; what it lacks is as from the factory for the machine's region.
 */
export class DriveSettings {
  readonly all: readonly Setting[];

  constructor(
    readonly book: DriveBook,
    readonly size: string,
    readonly values: Values,
    readonly region: Region,
  ) {
    this.all = settingList(book, size).all;
  }

  /** The same drive with other values. */
  with(values: Values): DriveSettings {
    return new DriveSettings(this.book, this.size, values, this.region);
  }

  get rating(): BookRating {
    return ratingOf(this.book, this.size);
  }

  /** Trip levels and supply range, V. */
  get levels(): DriveBook['levels'] {
    return levelsOf(this.book, this.size);
  }

  /** The hardware in SI, for the model. */
  hardware(): DriveRating {
    return driveRating(this.book, this.size);
  }

  at(code: string): Setting | undefined {
    return settingList(this.book, this.size).byCode.get(code);
  }

  /** The setting that has a role; undefined when the family has none. */
  find(role: SettingRole): Setting | undefined {
    return settingList(this.book, this.size).byRole.get(role);
  }

  /** The setting that has a role. @throws RangeError when the family has none */
  need(role: SettingRole): Setting {
    const setting = this.find(role);
    if (!setting) throw new RangeError(`${this.book.family} has no setting for ${role}.`);
    return setting;
  }

  /** Those of several roles that the family has, in the order asked. */
  having(roles: readonly SettingRole[]): Setting[] {
    return roles.flatMap((r) => this.find(r) ?? []);
  }

  factory(s: Setting): number {
    return factoryValue(s, this.region);
  }

  /** In the book's unit. */
  value(s: Setting): number {
    return this.values[s.code] ?? this.factory(s);
  }

  /** As people read it. */
  text(s: Setting): string {
    return textOf(s, this.value(s));
  }

  /** What a word's counts are multiplied with. @throws RangeError when the book has no such setting */
  private base(per: WordBase | undefined): number {
    if (per === undefined) return 1;
    if (per === 'current') return this.rating.current;
    if (per === 'polePairs') return this.value(this.need('motorPoles')) / 2;
    return this.value(this.need('motorFrequency'));
  }

  /** Factor from a setting's figure to the unit its role has in the model: shares, Hz, A, Ω, W. */
  private factor(s: Setting): number {
    if (s.unit === '%') return (s.per === 'current' ? this.rating.current : 1) / 100;
    if (s.unit === 'rpm' && s.role !== 'motorSpeed') return this.base('polePairs') / 60;
    if (s.unit === 'mΩ') return 1e-3;
    return s.unit === 'kW' ? 1000 : 1;
  }

  /** A value of a setting in the unit and numbering of its role; its own when none is given. */
  inRole(s: Setting, value: number = this.value(s)): number {
    const option = s.options?.find((o) => o.value === value);
    return option ? (option.means ?? option.value) : value * this.factor(s);
  }

  /** What a role says, in its unit; null where the family has no such setting. */
  role(role: SettingRole): number | null {
    const s = this.find(role);
    return s ? this.inRole(s) : null;
  }

  /** What a role says, or what a family without it is taken to say. */
  roleOr(role: SettingRole, absent: number): number {
    return this.role(role) ?? absent;
  }

  /** The value a setting takes so that its role has a figure, on the setting's step; null when the family has no such choice. */
  valueFor(s: Setting, inRole: number): number | null {
    if (s.options) return s.options.find((o) => (o.means ?? o.value) === inRole)?.value ?? null;
    return storedValue(s, inRole / this.factor(s));
  }

  /** The change that gives a role a figure, held to the setting's range; none where the family has no such setting or choice. */
  change(role: SettingRole, inRole: number, source: Source = 'worked out'): SettingChange[] {
    const s = this.find(role);
    const value = s ? this.valueFor(s, inRole) : null;
    return s && value !== null ? [{ code: s.code, value: s.options ? value : Math.min(s.max, Math.max(s.min, value)), source }] : [];
  }

  /** What a plate puts into these settings. */
  plate(stamped: StampedPlate): PlateSetting[] {
    const figures = plateFigures(stamped);
    return this.all.flatMap((s) => {
      const f = s.plate ? figures[s.plate] : undefined;
      if (!f || f.value === null) return [];
      const stored = storedValue(s, f.value);
      return stored < s.min || stored > s.max ? [] : [{ code: s.code, value: stored, exact: Number(f.value.toPrecision(5)), source: f.source }];
    });
  }

  /** kHz the inverter switches at. */
  carrier(): number {
    return this.roleOr('carrier', usualCarrier);
  }

  /** Jobs of the digital inputs, in the order of the terminals. */
  get jobs(): InputJob[] {
    return this.inputs.map((s) => this.inRole(s) as InputJob);
  }

  private get inputs(): Setting[] {
    return this.all.filter((s) => s.role !== undefined && inputRole.test(s.role));
  }

  /** The setting of the input that has a job; undefined when none has. */
  input(job: InputJob): Setting | undefined {
    return this.inputs.find((s) => this.inRole(s) === job);
  }

  /** Sentence for the way a value contradicts another setting; null when they agree. */
  contradiction(s: Setting, value: number = this.value(s)): string | null {
    const other = s.depends && this.at(s.depends.code);
    if (!s.depends || !other) return null;
    const limit = this.value(other);
    const wrong = s.depends.must === 'not exceed' ? value > limit : value < limit;
    return wrong ? `${s.name} must ${s.depends.must} ${other.name.toLowerCase()}, which is ${limit}${s.unit ? ` ${s.unit}` : ''}.` : null;
  }

  /** What the model of motor, drive and load needs, each in the unit of its role. What a family has no setting for is off. */
  parameters(): DriveParameters {
    const own = modelRoles.flatMap((role) => {
      const s = this.find(role);
      return s ? [[role, this.inRole(s)] as const] : [];
    });
    // the books' own test holds that every required role is there
    return { ...absentFeature, ...Object.fromEntries(own) } as DriveParameters;
  }

  /** What command, terminals, process and restarts need. */
  controls(): ControlSettings {
    return {
      terminals: {
        jobs: this.jobs,
        speedSource: this.roleOr('speedSource', 0),
        keypadSpeed: this.roleOr('keypadSpeed', 0),
        presets: presets.map((i) => this.roleOr(`preset${i}`, 0)),
        analogueLow: this.roleOr('analogueLow', 0),
        analogueHigh: this.roleOr('analogueHigh', this.region),
        liveZero: this.roleOr('analogueSignal', AnalogueSignal.volts) === AnalogueSignal.liveZero,
        externalTripOpenIsHealthy: this.role('externalTripSense') === HealthyContact.open,
        onLiveZeroLoss: this.roleOr('liveZeroLoss', 0),
      },
      process: {
        setpoint: 100 * this.roleOr('setpoint', 0),
        pid: {
          proportionalGain: this.roleOr('proportionalGain', 1),
          integralTime: this.roleOr('integralTime', 10),
          derivativeTime: 0,
          setpointWeight: 1,
          reverse: this.role('processAction') === ProcessAction.reverse,
          outputLow: 0,
          outputHigh: 100,
        },
        sleep: {
          frequency: this.roleOr('sleepFrequency', 0),
          delay: this.roleOr('sleepDelay', 20),
          wakeFall: 100 * this.roleOr('wakeFall', 0.03),
          wakeDelay: this.roleOr('wakeDelay', 2),
        },
      },
      startAfterPowerUp: this.roleOr('startAfterPowerUp', 0),
      onLinkLoss: this.roleOr('onLinkLoss', 0),
    };
  }

  /** What one count of a word is worth, in the word's unit. */
  countOf(word: Word): number {
    return word.step * this.base(word.per);
  }

  /** A register's word in the word's own unit. */
  wordValue(word: Word, raw: number): number {
    if (word.per === undefined) return fromWord(raw, word.step, word.signed ?? false);
    const count = word.signed && raw > 32767 ? raw - 65536 : raw;
    const step = this.countOf(word);
    return Number((count * step).toFixed(decimalsOf(step)));
  }

  /** The register's word for a value, held to what a word can carry. */
  wordCounts(word: Word, value: number): number {
    const [low, high] = word.signed ? [-32768, 32767] : [0, 65535];
    return toWord(Math.min(high, Math.max(low, Math.round(value / this.countOf(word)))), 1);
  }

  /** All live words from a block of registers that begins at `first`, decoded into their units. */
  liveValues(data: ArrayLike<number>, first: number): Record<LiveWord, number> {
    const { live } = this.book.words;
    const decoded = liveNames(this.book).map((w) => [w, this.wordValue(live[w], data[live[w].register - first] ?? 0)] as const);
    return Object.fromEntries(decoded) as Record<LiveWord, number>;
  }
}
