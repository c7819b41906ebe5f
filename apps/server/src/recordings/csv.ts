import { harmlessCell } from '@yare/commissioning/csv';
import { timeDecimals } from '@yare/commissioning/recording';
import Papa from 'papaparse';
import type { RecordingData } from '@yare/contract';

/** To the millisecond, or as fine as it is. */
const secondsOf = (t: number): string => (Math.abs(t * 1000 - Math.round(t * 1000)) < 1e-6 ? t.toFixed(3) : t.toFixed(timeDecimals));
const figureOf = (v: number | undefined, decimals: number): string => (v === undefined || !Number.isFinite(v) ? '' : v.toFixed(decimals));

/**
 * A recording as CSV: a heading with names and units, a row a sample, marks in the last column at the first sample not before them
 * (several joined by " | ").
 */
export function recordingCsv({ meta, time, data }: RecordingData): string {
  const marks = new Map<number, string[]>();
  for (const mark of meta.marks) {
    const at = time.findIndex((t) => t >= mark.time);
    const row = at === -1 ? time.length - 1 : at;
    marks.set(row, [...(marks.get(row) ?? []), mark.label]);
  }
  const fields = ['Time (s)', ...meta.channels.map((c) => `${c.name} (${c.unit})`), 'Mark'];
  const rows = time.map((t, i) => [
    secondsOf(t),
    ...meta.channels.map((c) => figureOf(data[c.key]?.[i], c.decimals)),
    harmlessCell((marks.get(i) ?? []).join(' | ')),
  ]);
  return Papa.unparse({ fields, data: rows }, { newline: '\r\n' });
}
