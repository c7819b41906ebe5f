import type { DriveBook, SettingDefinition } from '@yare/contract';
import type { SettingRole } from '@yare/core';
import { ratingOf } from './book';
import { nth } from '@yare/core';

/** A setting of one size: every figure of the book resolved. */
export interface Setting extends Omit<SettingDefinition, 'role' | 'min' | 'max' | 'factory50' | 'factory60'> {
  role?: SettingRole;
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

/** Shares of a figure: a rounding below the first is nobody's business, one above the second changes what the figure was for. Common practice. */
const toldAbove = 0.005;
const wrongAbove = 0.05;

/** What a drive's coarse steps make of a figure. */
export interface Rounding {
  stored: number;
  /** stored over asked, less one */
  off: number;
  /** how that is judged, wherever it is told: too little to tell, little enough, too much, or too much for what guards the motor */
  severity: 'none' | 'good' | 'warning' | 'error';
}

/** Judges what a drive stores of a value. */
export function roundingOf(setting: Pick<Setting, 'step' | 'decimals' | 'role'>, value: number): Rounding {
  const stored = storedValue(setting, value);
  const off = value === 0 ? 0 : stored / value - 1;
  const size = Math.abs(off);
  const much = setting.role === 'overloadCurrent' ? 'error' : 'warning';
  return { stored, off, severity: size <= toldAbove ? 'none' : size <= wrongAbove ? 'good' : much };
}

/** The settings of one size, and the ways to find one. */
export interface SettingList {
  readonly all: readonly Setting[];
  readonly byCode: ReadonlyMap<string, Setting>;
  readonly byRole: ReadonlyMap<SettingRole, Setting>;
}

/** Decimals a step of 0.01 and the like needs; the logarithm of a power of ten may come out a rounding above it. */
const decimalsOf = (step: number): number => Math.max(0, Math.ceil(-Math.log10(step) - 1e-9));

const cache = new Map<string, SettingList>();

/** All settings of a family for one size, with their figures resolved. */
export function settingList(book: DriveBook, size: string): SettingList {
  const key = `${book.id} ${size}`;
  const known = cache.get(key);
  if (known) return known;
  const rating = ratingOf(book, size);
  const all = book.settings.map((d): Setting => {
    const decimals = decimalsOf(d.step);
    const resolve = (x: SettingDefinition['min']): number =>
      storedValue({ step: d.step, decimals }, typeof x === 'number' ? x : x.times * rating[x.of]);
    const min = resolve(d.min);
    const role = d.role as SettingRole | undefined;
    return { ...d, role, min, max: resolve(d.max), factory50: resolve(d.factory50), factory60: resolve(d.factory60), decimals, signed: min < 0 };
  });
  const list = {
    all,
    byCode: new Map(all.map((s) => [s.code, s])),
    byRole: new Map(all.flatMap((s) => (s.role ? [[s.role, s] as const] : []))),
  };
  cache.set(key, list);
  return list;
}

/** The same in the book's order. */
export const settingsOf = (book: DriveBook, size: string): readonly Setting[] => settingList(book, size).all;

/** The group a setting's code belongs to: what stands before the stroke, or before its last letter or number. */
export const groupOf = (code: string): string => (code.includes('/') ? nth(code.split('/'), 0) : code.replace(/^(\d+)[a-z]$|^([a-z])\d+$/, '$1$2'));

/** Mains of the part of the world a machine stands in, Hz: factory values follow it. */
export type Region = 50 | 60;

export const factoryValue = (setting: Setting, region: Region): number => (region === 50 ? setting.factory50 : setting.factory60);

/** Every setting as from the factory, by code. */
export const factoryValues = (book: DriveBook, size: string, region: Region): Record<string, number> =>
  Object.fromEntries(settingsOf(book, size).map((s) => [s.code, factoryValue(s, region)]));

/** A value as the word in its register. */
export function toWord(value: number, step: number): number {
  const raw = Math.round(value / step);
  return raw < 0 ? raw + 65536 : raw;
}

/** A register's word as a value. */
export function fromWord(word: number, step: number, signed: boolean): number {
  const raw = signed && word > 32767 ? word - 65536 : word;
  return Number((raw * step).toFixed(decimalsOf(step)));
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
export function textOf(setting: Setting, value: number): string {
  return setting.options?.find((o) => o.value === value)?.label ?? value.toFixed(setting.decimals).replace('-', '−');
}
