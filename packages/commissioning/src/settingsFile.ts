import Papa from 'papaparse';
import type { Source } from '@yare/contract';
import { sources } from '@yare/contract/sources';
import { parseFigure } from '@yare/core';
import { harmlessCell, textOfCell } from './csv';
import { refuseValue, type DriveSettings } from '@yare/books';
import { say } from '@yare/words/commissioning';

/** One value on its way out or in. */
export interface FileValue {
  code: string;
  value: number;
  source: Source;
  author: string;
  at: string;
}

/** What is wrong with a file, and where. */
export interface FileFault {
  /** of the file, from 1 */
  line: number;
  sentence: string;
}

export type FileReading = { ok: true; values: FileValue[] } | { ok: false; faults: FileFault[] };

const columns = ['Code', 'Name', 'Value', 'Unit', 'Source', 'Author', 'Time'] as const;
const isSource = (word: string): word is Source => sources.some((s) => s === word);
export const fileFormat = 'yare settings sheet';
export const fileEdition = 1;

/** Whose settings a file holds. */
export interface FileHead {
  tag: string;
  /** the draft it is taken from, or would be taken into */
  settings: DriveSettings;
}

/** A sheet as CSV (RFC 4180), a setting a line in the book's order. Figures are written in full. */
export function settingsToCsv({ settings }: FileHead, values: readonly FileValue[]): string {
  const rows = settings.all.flatMap((s) => {
    const v = values.find((x) => x.code === s.code);
    return v ? [[s.code, s.name, String(v.value), s.unit, v.source, v.author, v.at].map(harmlessCell)] : [];
  });
  return Papa.unparse({ fields: [...columns], data: rows }, { newline: '\r\n' });
}

/** A sheet as JSON; the schema is `SettingsFile` of the contract. */
export function settingsToJson({ tag, settings }: FileHead, values: readonly FileValue[]): string {
  return `${JSON.stringify(
    {
      format: fileFormat,
      edition: fileEdition,
      tag,
      book: settings.book.id,
      size: settings.size,
      settings: values.map((v) => {
        const s = settings.at(v.code);
        return { code: v.code, name: s?.name ?? v.code, value: v.value, unit: s?.unit ?? '', source: v.source, author: v.author, at: v.at };
      }),
    },
    null,
    2,
  )}\n`;
}

interface RawValue {
  line: number;
  code: string;
  value: number | null;
  asWritten: string;
  unit: string;
  source: string;
  author: string;
  at: string;
}

/** Values against the book: unknown codes, units, ranges, contradictions, doubles. All faults are told, each with its line. */
function checked({ settings }: FileHead, raw: readonly RawValue[]): FileReading {
  const faults: FileFault[] = [];
  const values: FileValue[] = [];
  const lineOf = new Map<string, number>();
  const fault = (line: number, sentence: string) => faults.push({ line, sentence });
  for (const r of raw) {
    const s = settings.at(r.code);
    const first = lineOf.get(r.code);
    if (!s) fault(r.line, say.hasNoSetting({ family: settings.book.family, code: r.code }));
    else if (first !== undefined) fault(r.line, say.standsAlreadyInLine({ code: r.code, name: s.name, first }));
    else if (r.value === null) fault(r.line, say.isNotANumber({ code: r.code, name: s.name, asWritten: r.asWritten }));
    else if (r.unit !== s.unit) fault(r.line, say.isCountedInNotIn({ code: r.code, name: s.name, unit: s.unit || 'no unit', unit2: r.unit }));
    else if (!isSource(r.source)) fault(r.line, say.isNotASourceOf({ code: r.code, name: s.name, source: r.source }));
    else if (s.access !== 'read') {
      const why = refuseValue(s, r.value);
      if (why) fault(r.line, why);
      else values.push({ code: r.code, value: r.value, source: r.source, author: r.author, at: r.at });
    }
    if (s && first === undefined) lineOf.set(r.code, r.line);
  }
  const after = settings.with({ ...settings.values, ...Object.fromEntries(values.map((v) => [v.code, v.value])) });
  for (const { code } of values) {
    const s = after.at(code);
    const why = s ? after.contradiction(s) : null;
    if (why) fault(lineOf.get(code) ?? 1, why);
  }
  if (faults.length === 0 && values.length === 0) fault(1, say.theFileHoldsNoSettings);
  return faults.length > 0 ? { ok: false, faults: faults.sort((a, b) => a.line - b.line) } : { ok: true, values };
}

/** Reads a CSV made by {@link settingsToCsv}, or by hand in its columns. A decimal comma is taken when columns are parted by semicolons. */
export function settingsFromCsv(head: FileHead, text: string): FileReading {
  const parsed = Papa.parse<string[]>(text.replace(/^\ufeff/, ''), { skipEmptyLines: false });
  const broken = parsed.errors.find((e) => e.type !== 'Delimiter');
  if (broken) return { ok: false, faults: [{ line: (broken.row ?? 0) + 1, sentence: say.aQuotationMarkDoesNot({ message: broken.message }) }] };
  const rows = parsed.data;
  const titles = (rows[0] ?? []).map((x) => x.trim());
  const missing = columns.filter((c) => !titles.includes(c));
  if (missing.length > 0)
    return {
      ok: false,
      faults: [{ line: 1, sentence: say.theFirstLineMustName({ missing: missing.join(', '), missing2: missing.length }) }],
    };
  const faults: FileFault[] = [];
  const raw: RawValue[] = [];
  rows.slice(1).forEach((row, i) => {
    if (row.length === 1 && row[0]?.trim() === '') return;
    const line = i + 2;
    if (row.length < titles.length) {
      faults.push({ line, sentence: say.ofColumnsTheLineEnds({ row: row.length, titles: titles.length }) });
      return;
    }
    const cell = (c: (typeof columns)[number]) => textOfCell((row[titles.indexOf(c)] ?? '').trim());
    raw.push({
      line,
      code: cell('Code'),
      value: parseFigure(cell('Value')),
      asWritten: cell('Value'),
      unit: cell('Unit'),
      source: cell('Source'),
      author: cell('Author'),
      at: cell('Time'),
    });
  });
  const reading = checked(head, raw);
  if (faults.length === 0) return reading;
  return { ok: false, faults: [...faults, ...(reading.ok ? [] : reading.faults)].sort((a, b) => a.line - b.line) };
}

const lineAt = (text: string, index: number): number => text.slice(0, Math.max(0, index)).split('\n').length;

/** Where JSON.parse says it stumbled. */
function stumbled(text: string, error: Error): number {
  const position = /position (\d+)/.exec(error.message);
  return position ? lineAt(text, Number(position[1])) : lineAt(text, text.length);
}

/** Reads a JSON file made by {@link settingsToJson}. */
export function settingsFromJson(head: FileHead, text: string): FileReading {
  const one = (line: number, sentence: string): FileReading => ({ ok: false, faults: [{ line, sentence }] });
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch (error) {
    return one(stumbled(text, error as Error), say.theFileIsCutShort);
  }
  const file = data as { format?: unknown; edition?: unknown; book?: unknown; settings?: unknown };
  const lineOfKey = (key: string) => lineAt(text, text.indexOf(`"${key}"`));
  if (file === null || typeof file !== 'object' || file.format !== fileFormat) return one(1, say.thisIsNotA({ fileFormat }));
  if (file.edition !== fileEdition) return one(lineOfKey('edition'), say.editionOfTheFormatIs({ string: String(file.edition) }));
  if (file.book !== head.settings.book.id)
    return one(lineOfKey('book'), say.theFileIsForDrive({ string: String(file.book), family: head.settings.book.family }));
  if (!Array.isArray(file.settings)) return one(lineOfKey('settings'), say.theFileHoldsNoList);
  let from = text.indexOf('"settings"');
  const raw = file.settings.map((entry: unknown): RawValue => {
    const e = (entry ?? {}) as Record<string, unknown>;
    const index = text.indexOf('"code"', from);
    if (index >= 0) from = index + 6;
    const word = (key: string) => (typeof e[key] === 'string' ? (e[key] as string) : '');
    return {
      line: lineAt(text, index >= 0 ? index : from),
      code: word('code'),
      value: typeof e.value === 'number' && Number.isFinite(e.value) ? e.value : null,
      asWritten: String(e.value),
      unit: word('unit'),
      source: word('source'),
      author: word('author'),
      at: word('at'),
    };
  });
  return checked(head, raw);
}

/** Either kind, told apart by how it begins. */
export const settingsFromFile = (head: FileHead, text: string): FileReading =>
  /^\s*[{[]/.test(text) ? settingsFromJson(head, text) : settingsFromCsv(head, text);
