import type { DriveBook, SettingDefinition } from '@yare/contract';
import type { DriveParameters, DriveRating, DriveRole } from '@yare/core';
import osierG from '../data/osier-g.json';

const books: Record<string, DriveBook> = { 'osier-g': osierG as unknown as DriveBook };

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

/** Inverter loss of about 1.8 % of output at rated current (common practice for this size of drive). */
const inverterLossShare = 0.018;

/** The hardware of a size in SI, for the model. */
export function driveRating(book: DriveBook, size: string): DriveRating {
  const r = ratingOf(book, size);
  return {
    current: r.current,
    overcurrentTrip: r.overcurrentTrip,
    overvoltageTrip: book.levels.overvoltageTrip,
    undervoltageTrip: book.levels.undervoltageTrip,
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

const percentRoles: ReadonlySet<DriveRole> = new Set<DriveRole>(['startBoost', 'slipCompensation']);

/**
 * What the model needs, from settings by code. Percent become shares.
 * @throws RangeError when the book gives a role no code or the values lack one.
 */
export function driveParameters(book: DriveBook, size: string, values: Readonly<Record<string, number>>): DriveParameters {
  const out: Partial<DriveParameters> = {};
  for (const s of settingsOf(book, size)) {
    if (!s.role) continue;
    const value = values[s.code];
    if (value === undefined) throw new RangeError(`Setting ${s.code} ${s.name} has no value.`);
    const role = s.role as DriveRole;
    out[role] = percentRoles.has(role) ? value / 100 : value;
  }
  return out as DriveParameters;
}

/** The setting that has a role in this family. @throws RangeError when there is none. */
export function settingFor(book: DriveBook, size: string, role: DriveRole): Setting {
  const setting = settingsOf(book, size).find((s) => s.role === role);
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
