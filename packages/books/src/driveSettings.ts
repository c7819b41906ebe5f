import type { DriveBook, LiveWord, Source, Word, WordBase } from '@yare/contract';
import {
  asInRemote,
  heldFigure,
  modelRoles,
  roleEntry,
  type ControlSettings,
  type DriveParameters,
  type DriveRating,
  type HeldAs,
  type InputJob,
  type RoleValue,
  type SaidIfAny,
  type SettingRole,
  type StampedPlate,
} from '@yare/core';
import { driveRating, levelsOf, ratingOf, type BookRating } from './book';
import { controlsOf } from './controlsOf';
import { plateFigures, type PlateSetting } from './plateFigures';
import { factoryValue, fromWord, settingList, storedValue, toWord, textOf, type Region, type Setting, type SettingList } from './setting';

export type Values = Readonly<Record<string, number>>;

/** A setting's new value with where it comes from. */
export interface SettingChange {
  code: string;
  value: number;
  source: Source;
}

const liveNames = (book: DriveBook): LiveWord[] => Object.keys(book.words.live) as LiveWord[];

/** Decimals worth keeping of a word whose counts are shares: those of one count, and one more. */
const decimalsOf = (step: number): number => Math.max(0, 1 - Math.floor(Math.log10(step)));

/**
 * What a setting's figure divides to give its role, where a family states the inverse: a proportional band in % for a gain, repeats a minute for an
 * integral time (no repeats, no integral: an infinite time). Null for all others.
 */
const inverseOf = ({ role, unit }: Pick<Setting, 'role' | 'unit'>): number | null => {
  if (role === 'proportionalGain' && unit === '%') return 100;
  return role === 'integralTime' && unit === '1/min' ? 60 : null;
};

/**
 * The settings of one drive: the one way to read or change a setting by what it does. `values` are by code in the book's units and may be a
 * record that others go on changing; what it lacks is as from the factory for the machine's region.
 */
export class DriveSettings {
  readonly all: readonly Setting[];
  private readonly list: SettingList;

  constructor(
    readonly book: DriveBook,
    readonly size: string,
    readonly values: Values,
    readonly region: Region,
  ) {
    this.list = settingList(book, size);
    this.all = this.list.all;
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
    return this.list.byCode.get(code);
  }

  /** The setting that has a role; undefined when the family has none. */
  find(role: SettingRole): Setting | undefined {
    return this.list.byRole.get(role);
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
    if (option) return option.means ?? option.value;
    const upsideDown = inverseOf(s);
    return upsideDown === null ? value * this.factor(s) : upsideDown / value;
  }

  /** What a role says, in its unit; null where the family has no such setting. */
  role<R extends SettingRole>(role: R): SaidIfAny<R> {
    const s = this.find(role);
    // what every family has is there: the books' own test holds it
    return (s ? this.inRole(s) : null) as SaidIfAny<R>;
  }

  /** What a role says, or what the catalogue takes where the family has no such setting; null where nothing stands in for it. */
  roleValue<R extends SettingRole>(role: R): RoleValue<R> {
    const absent = roleEntry(role)?.absent;
    return (this.role(role) ?? (typeof absent === 'number' ? absent : null)) as RoleValue<R>;
  }

  /** The value a setting takes so that its role has a figure, on the setting's step; null when the family has no such choice. */
  valueFor(s: Setting, inRole: number): number | null {
    if (s.options) return s.options.find((o) => (o.means ?? o.value) === inRole)?.value ?? null;
    const upsideDown = inverseOf(s);
    return storedValue(s, upsideDown === null ? inRole / this.factor(s) : upsideDown / inRole);
  }

  /** How a role's figure is held; null where the family has no such setting. */
  heldAs(role: SettingRole): HeldAs | null {
    const s = this.find(role);
    return s ? { ...{ min: s.min, max: s.max, step: s.step, decimals: s.decimals }, factor: this.factor(s), over: inverseOf(s) } : null;
  }

  /** A role's figure as its setting would hold it; as it is where the family has no such setting. */
  heldOf(role: SettingRole, inRole: number): number {
    const held = this.heldAs(role);
    return held ? heldFigure(held, inRole) : inRole;
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

  /** Jobs of the digital inputs, in the order of the terminals. */
  get jobs(): InputJob[] {
    return this.inputs.map((s) => this.inRole(s) as InputJob);
  }

  /** The same while local is in force; an input that has one job only keeps it. */
  get localJobs(): InputJob[] {
    return this.inputs.map((s) => {
      const own = this.localOf(s);
      const job = own ? this.inRole(own) : asInRemote;
      return (job === asInRemote ? this.inRole(s) : job) as InputJob;
    });
  }

  /** The setting that gives an input its job in local; undefined where it has one job only. */
  localOf({ role }: Pick<Setting, 'role'>): Setting | undefined {
    return role?.startsWith('job ') ? this.find(`local job ${role.slice('job '.length)}`) : undefined;
  }

  /** Job settings of the digital inputs, in the order of the terminals. */
  get inputs(): Setting[] {
    return this.ofTerminals('digital in', 'job');
  }

  /** Job settings of relays and transistor outputs, in the order of the terminals. */
  get outputs(): Setting[] {
    return [...this.ofTerminals('relay', 'relay'), ...this.ofTerminals('digital out', 'relay')];
  }

  /** Preset speeds from the first on. */
  get presets(): Setting[] {
    const found: Setting[] = [];
    for (let n = 1, s = this.find('preset1'); s; s = this.find(`preset${++n}`)) found.push(s);
    return found;
  }

  private ofTerminals(kind: DriveBook['terminals'][number]['kind'], role: 'job' | 'relay'): Setting[] {
    return this.having(this.book.terminals.filter((t) => t.kind === kind).map((t): SettingRole => `${role} ${t.id}`));
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
    return Object.fromEntries(modelRoles.map((role) => [role, this.roleValue(role)])) as unknown as DriveParameters;
  }

  /** What command, terminals, process and restarts need. */
  controls(): ControlSettings {
    return controlsOf(this);
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
    return { analogueInput2: 0, setpoint: 0, ...Object.fromEntries(decoded) } as Record<LiveWord, number>;
  }
}

/** Settings that nobody goes on changing: what is asked of them again and again is worked out once. */
class FixedSettings extends DriveSettings {
  private made: ControlSettings | null = null;

  override controls(): ControlSettings {
    return (this.made ??= super.controls());
  }
}

/** The same settings as they stand now, for whoever asks much of them at once. */
export const asTheyStand = (d: DriveSettings): DriveSettings => new FixedSettings(d.book, d.size, { ...d.values }, d.region);
