import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { convert, formatFigure, parseFigure, type UnitSymbol } from '@yare/core/units';
import { say } from '@yare/words/pages/ui';
import { afterPaint } from './afterPaint';

/** A figure that can be typed. Values go in and out in `unit`; other `units` are offered and converted. */
export interface Entry {
  /** unique on the device: machine, stage, row */
  id: string;
  label: string;
  value: number | null;
  unit: string;
  units?: readonly UnitSymbol[];
  decimals: number;
  min?: number;
  max?: number;
  /** counts something: no part of one */
  whole?: boolean;
  /** an empty entry means "not stamped" */
  optional?: boolean;
  /** keep a figure in the unit it was typed in instead of converting */
  keepUnit?: boolean;
  onSet: (value: number | null, unit: string) => void;
}

interface EntryStore {
  id: string | null;
  text: string;
  unit: string;
  sentence: string | null;
  fresh: boolean;
}

/** The figure in hand. Its text is kept through a reload. */
export const useEntryStore = create<EntryStore>()(
  persist((): EntryStore => ({ id: null, text: '', unit: '', sentence: null, fresh: false }), { name: say.yareEntry }),
);

const asText = (value: number | null, decimals: number): string => (value === null ? '' : String(Number(value.toFixed(decimals + 2))));

/** Takes a figure in hand. */
export function openEntry(entry: Entry): void {
  useEntryStore.setState({ id: entry.id, text: asText(entry.value, entry.decimals), unit: entry.unit, sentence: null, fresh: true });
}

export function closeEntry(): void {
  useEntryStore.setState({ id: null, text: '', sentence: null });
}

/** What a text would set, or the sentence why not. */
export function readEntry(entry: Entry, text: string, unit: string): { value: number | null } | { sentence: string } {
  if (text.trim() === '') return entry.optional ? { value: null } : { sentence: say.needsANumber({ label: entry.label }) };
  const figure = parseFigure(text);
  if (figure === null) return { sentence: say.isNotANumberUse({ text }) };
  const value =
    unit === entry.unit || entry.keepUnit ? figure : Number(convert(figure, unit as UnitSymbol, entry.unit as UnitSymbol).toPrecision(10));
  if (entry.whole && !Number.isInteger(value)) return { sentence: say.takesAWholeNumberIs({ label: entry.label, text }) };
  const { min = -Infinity, max = Infinity } = entry;
  if (value < min || value > max) {
    const text = (x: number) => formatFigure(x, Number.isInteger(x) ? 0 : entry.decimals);
    return {
      sentence: say.takesToIsOutside({ label: entry.label, text: text(min), text2: text(max), unit: entry.unit, value, decimals: entry.decimals }),
    };
  }
  return { value };
}

/** Sets the figure in hand, or says why not. */
export function setFrom(entry: Entry): void {
  const { text, unit } = useEntryStore.getState();
  const read = readEntry(entry, text, unit);
  if ('sentence' in read) {
    useEntryStore.setState({ sentence: read.sentence });
    return;
  }
  closeEntry();
  // the pad goes first, then what the figure changes is worked out
  afterPaint(() => entry.onSet(read.value, unit));
}

/** A key of the pad or of the keyboard. */
export function typeKey(key: string): void {
  useEntryStore.setState((s) => {
    const text = s.fresh ? '' : s.text;
    if (key === '⌫') return { text: s.fresh ? '' : text.slice(0, -1), fresh: false, sentence: null };
    if (key === '−') return { text: s.text.startsWith('-') ? s.text.slice(1) : `-${s.text}`, fresh: false, sentence: null };
    if (key === '-') return { text: text.startsWith('-') ? text.slice(1) : `-${text}`, fresh: false, sentence: null };
    if (key === '.' && text.includes('.')) return { sentence: null };
    return { text: (text + key).slice(0, 12), fresh: false, sentence: null };
  });
}

/** Says the figure in hand in another unit. */
export function switchUnit(to: string, keep: boolean | undefined): void {
  useEntryStore.setState((s) => {
    const figure = parseFigure(s.text);
    const text = keep || figure === null ? s.text : String(Number(convert(figure, s.unit as UnitSymbol, to as UnitSymbol).toPrecision(5)));
    return { unit: to, text, sentence: null };
  });
}
