import { harmlessCell } from '@yare/commissioning/csv';
import { timeDecimals } from '@yare/commissioning/recording';
import Papa from 'papaparse';
import type { RecordingData } from '@yare/contract';

/** Rows of a piece. */
const rowsAtOnce = 2000;

/** To the millisecond, or as fine as it is. */
const secondsOf = (t: number): string => (Math.abs(t * 1000 - Math.round(t * 1000)) < 1e-6 ? t.toFixed(3) : t.toFixed(timeDecimals));
const figureOf = (v: number | undefined, decimals: number): string => (v === undefined || !Number.isFinite(v) ? '' : v.toFixed(decimals));

/** What stands in the last column of each row that has marks. */
function marksByRow({ meta, time }: RecordingData): Map<number, string[]> {
  const marks = new Map<number, string[]>();
  for (const mark of meta.marks) {
    const at = time.findIndex((t) => t >= mark.time);
    const row = at === -1 ? time.length - 1 : at;
    marks.set(row, [...(marks.get(row) ?? []), mark.label]);
  }
  return marks;
}

/**
 * A recording as CSV in UTF-8 with its sign, piece by piece: a heading with names and units, a row a sample, marks in the last column at
 * the first sample not before them (several joined by " | ").
 */
export function* recordingCsv(recording: RecordingData): Generator<string> {
  const { meta, time, data } = recording;
  const marks = marksByRow(recording);
  const lines = (rows: string[][]) => Papa.unparse(rows, { newline: '\r\n' });
  yield `\ufeff${lines([['Time (s)', ...meta.channels.map((c) => harmlessCell(`${c.name} (${c.unit})`)), 'Mark']])}`;
  for (let from = 0; from < time.length; from += rowsAtOnce) {
    const rows = time.slice(from, from + rowsAtOnce).map((t, n) => {
      const i = from + n;
      const figures = meta.channels.map((c) => figureOf(data[c.key]?.[i], c.decimals));
      return [secondsOf(t), ...figures, harmlessCell((marks.get(i) ?? []).join(' | '))];
    });
    yield `\r\n${lines(rows)}`;
  }
}
