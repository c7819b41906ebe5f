import type { DriveBook, SettingDefinition, WordBase } from '@yare/contract';
import { absentFeature, requiredRoles, type DriveParameters, type DriveRating, type DriveRole } from '@yare/core';
import osierG from '../data/osier-g.json';
import sallow from '../data/sallow.json';
import withy from '../data/withy.json';

const books: Record<string, DriveBook> = Object.fromEntries([withy, osierG, sallow].map((b) => [b.id, b as unknown as DriveBook]));

/** A drive book by its id. @throws RangeError when there is none. */
export function bookById(id: string): DriveBook {
  const book = books[id];
  if (!book) throw new RangeError(`There is no drive book "${id}".`);
  return book;
}

export const allBooks = (): DriveBook[] => Object.values(books);

export type BookRating = DriveBook['ratings'][number];

/** A size of a family. @throws RangeError when the book does not list it. */
export function ratingOf(book: DriveBook, size: string): BookRating {
  const rating = book.ratings.find((r) => r.size === size);
  if (!rating) throw new RangeError(`${book.family} has no size ${size}.`);
  return rating;
}

/** Trip levels and supply range of a size, V. */
export const levelsOf = (book: DriveBook, size: string): DriveBook['levels'] => ratingOf(book, size).levels ?? book.levels;

/** Inverter loss of about 1.8 % of output at rated current (common practice for this size of drive). */
const inverterLossShare = 0.018;

/** The hardware of a size in SI, for the model. */
export function driveRating(book: DriveBook, size: string): DriveRating {
  const r = ratingOf(book, size);
  const levels = levelsOf(book, size);
  return {
    ...book.duty,
    current: r.current,
    overcurrentTrip: r.overcurrentTrip,
    overvoltageTrip: levels.overvoltageTrip,
    undervoltageTrip: levels.undervoltageTrip,
    busCapacitance: r.busCapacitance * 1e-6,
    idleLoss: r.idleLoss,
    lossPerAmpere: (inverterLossShare * r.power * 1000) / r.current,
    leastResistance: r.leastResistance,
  };
}

/** A setting of one size: every figure of the book resolved. */
export interface Setting extends Omit<SettingDefinition, 'min' | 'max' | 'factory50' | 'factory60'> {
  min: number;
  max: number;
  factory50: number;
  factory60: number;
  /** decimals that `step` asks for */
  decimals: number;
  /** registers are signed when the range goes below zero */
  signed: boolean;
}

/** What the drive stores of a value: the nearest multiple of its step. */
export function storedValue(setting: Pick<Setting, 'step' | 'decimals'>, value: number): number {
  return Number((Math.round(value / setting.step) * setting.step).toFixed(setting.decimals));
}

const cache = new Map<string, Setting[]>();

/** All settings of a family for one size, in the book's order. */
export function settingsOf(book: DriveBook, size: string): Setting[] {
  const key = `${book.id} ${size}`;
  const known = cache.get(key);
  if (known) return known;
  const rating = ratingOf(book, size);
  const settings = book.settings.map((d): Setting => {
    const decimals = Math.max(0, Math.ceil(-Math.log10(d.step) - 1e-9));
    const resolve = (x: SettingDefinition['min']): number =>
      storedValue({ step: d.step, decimals }, typeof x === 'number' ? x : x.times * rating[x.of]);
    const min = resolve(d.min);
    return { ...d, min, max: resolve(d.max), factory50: resolve(d.factory50), factory60: resolve(d.factory60), decimals, signed: min < 0 };
  });
  cache.set(key, settings);
  return settings;
}

/** The group a setting's code belongs to: what stands before the stroke, or before its last letter or number. */
export const groupOf = (code: string): string => (code.includes('/') ? code.split('/')[0]! : code.replace(/^(\d+)[a-z]$|^([a-z])\d+$/, '$1$2'));

export const factoryValue = (setting: Setting, region: 50 | 60): number => (region === 50 ? setting.factory50 : setting.factory60);

/** A value as the word in its register. */
export function toWord(value: number, step: number): number {
  const raw = Math.round(value / step);
  return raw < 0 ? raw + 65536 : raw;
}

/** A register's word as a value. */
export function fromWord(word: number, step: number, signed: boolean): number {
  const raw = signed && word > 32767 ? word - 65536 : word;
  return Number((raw * step).toFixed(Math.max(0, Math.ceil(-Math.log10(step) - 1e-9))));
}

/** Why a value cannot be in a setting, as a sentence; null when it can. */
export function refuseValue(setting: Setting, value: number): string | null {
  const unit = setting.unit ? ` ${setting.unit}` : '';
  if (!Number.isFinite(value)) return `${setting.name} needs a figure.`;
  if (setting.options && !setting.options.some((o) => o.value === value)) return `${setting.name} has no choice ${value}.`;
  if (value < setting.min || value > setting.max) return `${setting.name} takes ${setting.min} to ${setting.max}${unit}; ${value}${unit} is outside.`;
  return null;
}

/** A value as people read it: the label of a choice, or the figure with the setting's decimals. */
export function wordsOf(setting: Setting, value: number): string {
  return setting.options?.find((o) => o.value === value)?.label ?? value.toFixed(setting.decimals).replace('-', '−');
}

/** Roles of the drive's own workings that the model of the machine does not need: command, terminals, process. */
export type FirmwareRole =
  | 'motorPower'
  | 'motorPoles'
  | 'motorPowerFactor'
  | 'keypadSpeed'
  | 'onLinkLoss'
  | 'startSource'
  | 'speedSource'
  | 'startAfterPowerUp'
  | 'externalTripSense'
  | 'analogueSignal'
  | 'analogueFilter'
  | 'analogueLow'
  | 'analogueHigh'
  | 'setpoint'
  | 'proportionalGain'
  | 'integralTime'
  | 'processAction'
  | 'sleepFrequency'
  | 'sleepDelay'
  | 'wakeFall'
  | 'wakeDelay'
  | 'hoursRun'
  | 'rotorResistance'
  | 'leakageReactance'
  | 'noLoadCurrent'
  | 'carrier'
  | 'linkAddress'
  | 'settingsLock'
  | `relay ${string}`
  | `preset${number}`
  | `job ${string}`;

const modelRoles: ReadonlySet<string> = new Set([...Object.keys(absentFeature), ...requiredRoles]);

type Values = Readonly<Record<string, number>>;

/** What a word's counts are multiplied with, from the drive's own settings. @throws RangeError when the book has no such setting */
export function wordBase(book: DriveBook, size: string, values: Values, per: WordBase | undefined): number {
  if (per === undefined) return 1;
  if (per === 'current') return ratingOf(book, size).current;
  const setting = settingFor(book, size, per === 'polePairs' ? 'motorPoles' : 'motorFrequency');
  const value = values[setting.code] ?? setting.factory50;
  return per === 'polePairs' ? value / 2 : value;
}

/** Factor from a setting's figure to the unit its role has in the model: shares, Hz, A, Ω, W. */
function roleFactor(book: DriveBook, size: string, s: Setting, values: Values): number {
  if (s.unit === '%') return (s.per === 'current' ? ratingOf(book, size).current : 1) / 100;
  if (s.unit === 'rpm' && s.role !== 'motorSpeed') return wordBase(book, size, values, 'polePairs') / 60;
  if (s.unit === 'mΩ') return 1e-3;
  return s.unit === 'kW' ? 1000 : 1;
}

/** A setting's value in the unit and numbering of its role. */
export function roleValue(book: DriveBook, size: string, s: Setting, value: number, values: Values): number {
  const option = s.options?.find((o) => o.value === value);
  return option ? (option.means ?? option.value) : value * roleFactor(book, size, s, values);
}

/**
 * What the model needs, from settings by code, each in the unit of its role. What a family has no setting for is off.
 * @throws RangeError when the values lack a setting
 */
export function driveParameters(book: DriveBook, size: string, values: Values): DriveParameters {
  const out: Partial<DriveParameters> = { ...absentFeature };
  for (const s of settingsOf(book, size)) {
    if (!s.role || !modelRoles.has(s.role)) continue;
    const value = values[s.code];
    if (value === undefined) throw new RangeError(`Setting ${s.code} ${s.name} has no value.`);
    out[s.role as DriveRole] = roleValue(book, size, s, value, values);
  }
  return out as DriveParameters;
}

/** The setting that has a role in this family; undefined when it has none. */
export const findSetting = (book: DriveBook, size: string, role: DriveRole | FirmwareRole): Setting | undefined =>
  settingsOf(book, size).find((s) => s.role === role);

/** The setting that has a role in this family. @throws RangeError when there is none. */
export function settingFor(book: DriveBook, size: string, role: DriveRole | FirmwareRole): Setting {
  const setting = findSetting(book, size, role);
  if (!setting) throw new RangeError(`${book.family} has no setting for ${role}.`);
  return setting;
}

/** Sentence for the way two settings contradict each other; null when they agree. `values` by code. */
export function refuseDependency(
  settings: readonly Setting[],
  setting: Setting,
  value: number,
  values: Readonly<Record<string, number>>,
): string | null {
  const { depends } = setting;
  if (!depends) return null;
  const other = values[depends.code];
  const name = settings.find((s) => s.code === depends.code)?.name ?? depends.code;
  if (other === undefined) return null;
  const wrong = depends.must === 'not exceed' ? value > other : value < other;
  return wrong ? `${setting.name} must ${depends.must} ${name.toLowerCase()}, which is ${other}${setting.unit ? ` ${setting.unit}` : ''}.` : null;
}
