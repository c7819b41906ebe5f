import type { ProcessSensor } from '@yare/core';
import type { LoopRecord } from '@yare/core/loop';
import Papa from 'papaparse';
import { say } from '@yare/words/process';
import { textOfCell } from '../csv';
import { percentOf, percentOfSignal } from './scale';

/** A column of a recording made by another instrument. */
export interface RecordedColumn {
  name: string;
  /** seconds from the first sample where `time`, figures as they stand otherwise; NaN where a cell is empty or no figure */
  values: Float64Array;
  time: boolean;
  /** ms since 1970 of the first sample, where a date says so; taken as UTC where no zone does */
  startedAt?: number;
  /** the cells as they stand, of a column of words */
  texts?: string[];
}

/** `doubtful`: a figure of the file that is thousands or thousandths, where no other figure of it says which. */
export type RecordingTable =
  | { ok: true; columns: RecordedColumn[]; rows: number; skipped: number; delimiter: string; decimalComma: boolean; doubtful: string | null }
  | { ok: false; sentence: string };

const delimiters = [';', '\t', ',', '|'] as const;
/** Lines looked at to tell a file's layout, and the fewest samples that are a recording. */
const looked = 40;
const leastRows = 20;
const mostBytes = 60e6;

/** Whether the month comes first in dates with strokes. */
type DateOrder = 'day first' | 'month first';

const clock =
  /^(?:(\d{4})-(\d\d)-(\d\d)[T ]|(\d{1,2})([./])(\d{1,2})[./](\d{4}),? )?(\d{1,2}):(\d\d)(?::(\d\d(?:[.,]\d+)?))?\s*([AP]M)?(Z|[+-]\d\d:?\d\d)?$/i;

/** Seconds that an offset of ISO 8601 is ahead of UTC. */
function aheadOfUtc(zone: string | undefined): number {
  const m = /^([+-])(\d\d):?(\d\d)$/.exec(zone ?? '');
  return m ? (m[1] === '-' ? -1 : 1) * (Number(m[2]) * 3600 + Number(m[3]) * 60) : 0;
}

/** Seconds of a time of day, of a date with one, or of ISO 8601 with its offset; null for anything else. */
function clockOf(cell: string, order: DateOrder = 'day first'): number | null {
  const m = clock.exec(cell.trim());
  if (!m) return null;
  const [, y1, mo1, d1, first, , second, y2, h = '0', min = '0', s = '0', half, zone] = m;
  const [day, month] = order === 'day first' ? [first, second] : [second, first];
  if (y2 && Number(month) > 12) return null;
  const date = y1 ? Date.UTC(Number(y1), Number(mo1) - 1, Number(d1)) : y2 ? Date.UTC(Number(y2), Number(month) - 1, Number(day)) : 0;
  const hour = half ? (Number(h) % 12) + (half.toUpperCase() === 'PM' ? 12 : 0) : Number(h);
  return date / 1000 + hour * 3600 + Number(min) * 60 + Number(s.replace(',', '.')) - aheadOfUtc(zone);
}

/** Which comes first in the dates of a column: what can be a month at all, else the order in which the recording is shorter and goes forward. */
function dateOrderOf(cells: readonly string[]): DateOrder {
  const dates = cells.flatMap((c) => {
    const m = clock.exec(c.trim());
    return m?.[4] && m[5] === '/' ? [[Number(m[4]), Number(m[6])] as const] : [];
  });
  if (dates.some(([a]) => a > 12)) return 'day first';
  if (dates.some(([, b]) => b > 12)) return 'month first';
  const length = (order: DateOrder): number => {
    const [begin, end] = [clockOf(cells[0] ?? '', order) ?? 0, clockOf(cells[cells.length - 1] ?? '', order) ?? 0];
    return end < begin ? Infinity : end - begin;
  };
  return dates.length > 0 && length('month first') < length('day first') ? 'month first' : 'day first';
}

const figureOf = (cell: string, comma: boolean): number => {
  const text = cell
    .trim()
    .replace(/[\s\u2009\u00a0]/g, '')
    .replace('−', '-');
  if (text === '') return NaN;
  return Number(comma ? text.replace(/\./g, '').replace(',', '.') : text.replace(/,(?=\d{3}(\D|$))/g, ''));
};

/** The sign between cells: the one that most lines have equally often. */
function delimiterOf(lines: readonly string[]): string {
  let best: { sign: string; score: number } = { sign: ',', score: 0 };
  for (const sign of delimiters) {
    const counts = lines.map((l) => l.split(sign).length - 1).filter((n) => n > 0);
    if (counts.length === 0) continue;
    const usual = counts.sort((a, b) => a - b)[Math.floor(counts.length / 2)] ?? 0;
    const score = counts.filter((n) => n === usual).length / lines.length;
    // a comma may be a decimal sign: anything else that fits as well comes first
    if (score > best.score + (sign === ',' ? 0.05 : 0)) best = { sign, score };
  }
  return best.sign;
}

/** A cell that says no more than a unit: a few signs, in brackets or without. */
const isUnit = (cell: string): boolean => /^\s*(?:[[(][^\])]{0,12}[\])]|[^\d\s]{0,5})\s*$/.test(cell);

/**
 * Reads a recording of any layout: delimiter, decimal comma, lines of words before the figures, times of day or counted.
 * @param comma whether a comma is the decimal sign, where somebody has said so
 */
export function readRecordingCsv(text: string, comma?: boolean): RecordingTable {
  if (text.length > mostBytes) return { ok: false, sentence: say.theFileIsLongerThan };
  const plain = text.replace(/^\uFEFF/, '');
  const lines = plain.split(/\r?\n/).filter((l) => l.trim() !== '');
  if (lines.length < leastRows) return { ok: false, sentence: say.theFileHasLinesToo({ lines: lines.length }) };
  const delimiter = delimiterOf(lines.slice(Math.min(5, lines.length - leastRows), looked));
  const parsed = Papa.parse<string[]>(plain, { delimiter, skipEmptyLines: 'greedy' }).data;
  const sample = parsed.slice(-Math.min(looked, parsed.length)).flat();
  const commas = sample.filter((c) => /^\s*[-−]?\d+,\d+\s*$/.test(c)).length;
  const points = sample.filter((c) => /^\s*[-−]?\d+\.\d+\s*$/.test(c)).length;
  // between commas a figure with one stands in quotes; three places after it may be thousands, unless others say that they are not
  const sure = sample.filter((c) => /^\s*[-−]?(\d+,(\d{1,2}|\d{4,})|0,\d+)\s*$/.test(c)).length;
  const doubt = delimiter === ',' && sure === 0 && points === 0 && commas > 0 ? (sample.find((c) => /^\s*[-−]?\d+,\d+\s*$/.test(c)) ?? null) : null;
  const decimalComma = comma ?? (commas > points && (delimiter !== ',' || sure > 0));
  const isFigure = (c: string) => clockOf(c) !== null || clockOf(c, 'month first') !== null || Number.isFinite(figureOf(c, decimalComma));
  const wide = parsed[parsed.length - 1]?.length ?? 0;
  const first = parsed.findIndex(
    (row, i) => row.length === wide && row.filter(isFigure).length >= 2 && (parsed[i + 1]?.filter(isFigure).length ?? 0) >= 2,
  );
  if (first < 0 || wide < 2) return { ok: false, sentence: say.noTwoColumnsOfFigures };
  const last = first > 0 && parsed[first - 1]?.length === wide ? parsed[first - 1] : undefined;
  // names in one line and their units in the next
  const above = last && parsed[first - 2]?.length === wide && last.every(isUnit) ? parsed[first - 2] : undefined;
  const head =
    above && last ? above.map((name, k) => (last[k]?.trim() ? `${name.trim()} [${(last[k] ?? '').replace(/[[\]()]/g, '').trim()}]` : name)) : last;
  const rows = parsed.slice(first).filter((row) => row.length === wide && row.some(isFigure));
  const skipped = parsed.length - first - rows.length;
  if (rows.length < leastRows) return { ok: false, sentence: say.onlyLinesOfFiguresWere({ rows: rows.length }) };
  const columns = Array.from({ length: wide }, (_, k): RecordedColumn => {
    const name = head?.[k]?.trim() || say.column({ k: k + 1 });
    const cells = rows.map((row) => row[k] ?? '');
    const order = dateOrderOf(cells);
    const timed = cells.every((c) => clockOf(c, order) !== null);
    if (!timed) {
      const values = Float64Array.from(cells, (c) => figureOf(c, decimalComma));
      const words = cells.filter((c, i) => c.trim() !== '' && !Number.isFinite(values[i])).length;
      return { name, time: false, values, ...(words > 0 && words >= values.filter(Number.isFinite).length && { texts: cells.map(textOfCell) }) };
    }
    const seconds = cells.map((c) => clockOf(c, order) ?? NaN);
    const begin = seconds[0] ?? 0;
    // a time of day that goes through midnight
    let days = 0;
    return {
      ...{ name, time: true, ...(begin > 86_400 && { startedAt: begin * 1000 }) },
      values: Float64Array.from(seconds, (s, i) => {
        if (i > 0 && s + 1 < (seconds[i - 1] ?? s)) days += begin < 86_400 * 2 ? 86_400 : 0;
        return s + days - begin;
      }),
    };
  });
  return { ok: true, columns, rows: rows.length, skipped, delimiter, decimalComma, doubtful: doubt?.trim() ?? null };
}

/** Which column is what, and in which unit it stands. */
export interface RecordingChoice {
  time: number;
  timeUnit: 's' | 'ms' | 'min';
  output: number;
  outputUnit: '%' | 'Hz';
  feedback: number;
  feedbackUnit: '%' | 'signal' | 'sensor';
  /** whether a comma is the decimal sign of the file, where it does not tell by itself */
  comma?: boolean;
}

const grows = ({ values }: RecordedColumn): boolean => {
  let last = -Infinity;
  let times = 0;
  for (const v of values) {
    if (!Number.isFinite(v) || v < last) return false;
    if (v > last) times++;
    last = v;
  }
  return times > values.length / 4;
};

/** What the columns probably are, by their names and by how they go. */
export function guessChoice(columns: readonly RecordedColumn[]): RecordingChoice {
  const named = (words: RegExp, but: readonly number[]) => columns.findIndex((c, i) => !but.includes(i) && words.test(c.name));
  const clock = columns.findIndex((c) => c.time);
  const counted = columns.findIndex(grows);
  const time = Math.max(0, clock >= 0 ? clock : named(/time|zeit|sec|\bt\b|ms\b/i, []) >= 0 ? named(/time|zeit|sec|\bt\b|ms\b/i, []) : counted);
  const rest = columns.map((_, i) => i).filter((i) => i !== time);
  const output = named(/hz|freq|output|speed|drehzahl|ausgang|\bout\b|\bco\b|\bmv\b/i, [time]);
  const at = output >= 0 ? output : (rest[0] ?? 0);
  const feedback = named(/press|druck|bar|psi|kpa|feed|level|flow|temp|\bpv\b|ist/i, [time, at]);
  const to = feedback >= 0 ? feedback : (rest.find((i) => i !== at) ?? 0);
  const values = columns[time]?.values ?? new Float64Array();
  const step = values.length > 1 ? ((values[values.length - 1] ?? 0) - (values[0] ?? 0)) / (values.length - 1) : 0;
  const nameOf = (i: number) => columns[i]?.name ?? '';
  const milli = /\bms\b|milli/i.test(nameOf(time)) || (!columns[time]?.time && step >= 5);
  return {
    ...{ time, output: at, feedback: to },
    timeUnit: columns[time]?.time ? 's' : milli ? 'ms' : /\bmin/i.test(nameOf(time)) ? 'min' : 's',
    outputUnit: /hz|freq/i.test(nameOf(at)) ? 'Hz' : '%',
    feedbackUnit: /%/.test(nameOf(to)) ? '%' : /\bmA\b|\bV\b/.test(nameOf(to)) ? 'signal' : 'sensor',
  };
}

const perSecond = { s: 1, ms: 1000, min: 1 / 60 } as const;

/** The record a loop is tuned from; a sentence where the columns cannot be it. @param top Hz that are 100 % @param signal how the input is wired */
export function loopRecordOf(
  columns: readonly RecordedColumn[],
  c: RecordingChoice,
  of: { top: number; sensor: ProcessSensor; signal: number },
): { ok: true; record: LoopRecord } | { ok: false; sentence: string } {
  const [time, output, feedback] = [columns[c.time], columns[c.output], columns[c.feedback]];
  if (!time || !output || !feedback) return { ok: false, sentence: say.chooseAColumnForTime };
  if (new Set([c.time, c.output, c.feedback]).size < 3) return { ok: false, sentence: say.timeOutputAndFeedbackEach };
  const begin = time.values.find(Number.isFinite) ?? 0;
  const out = { time: [] as number[], output: [] as number[], feedback: [] as number[] };
  let last = -Infinity;
  for (let i = 0; i < time.values.length; i++) {
    const t = ((time.values[i] ?? NaN) - begin) / perSecond[c.timeUnit];
    const u = output.values[i] ?? NaN;
    const y = feedback.values[i] ?? NaN;
    if (![t, u, y].every(Number.isFinite)) continue;
    if (t < last)
      return {
        ok: false,
        sentence: say.timeGoesBackInLine({ i: i + 1, name: time.name }),
      };
    if (t === last) continue;
    last = t;
    out.time.push(t);
    out.output.push(c.outputUnit === 'Hz' ? (100 * u) / of.top : u);
    out.feedback.push(c.feedbackUnit === '%' ? y : c.feedbackUnit === 'signal' ? percentOfSignal(of.signal, y) : percentOf(of.sensor, y));
  }
  if (out.time.length < leastRows) return { ok: false, sentence: say.tooFewLinesHaveA };
  return { ok: true, record: out };
}
