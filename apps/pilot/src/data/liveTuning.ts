import type { AtGauge } from '@yare/commissioning/steady';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { say } from '@yare/words/pages/data';

/** Controller values that were good, as the drive's settings by code. */
export interface GoodValues {
  values: Record<string, number>;
  /** ms since 1970 */
  at: number;
}

/** A change of values while the loop ran. */
export interface ChangeMark {
  /** s since 1970, by the server's clock */
  time: number;
  label: string;
}

interface LiveTuning {
  good: Record<string, GoodValues | undefined>;
  gauges: Record<string, AtGauge[] | undefined>;
  marks: Record<string, ChangeMark[] | undefined>;
}

/** What was done on this device while loops were tuned, kept through a reload. */
const useLiveTuning = create<LiveTuning>()(
  persist((): LiveTuning => ({ good: {}, gauges: {}, marks: {} }), {
    name: say.yareLivetuning,
    partialize: ({ good, gauges }) => ({ good, gauges, marks: {} }),
  }),
);

const mostMarks = 40;
const noMarks: ChangeMark[] = [];
const noGauges: AtGauge[] = [];

export const useGood = (tag: string): GoodValues | null => useLiveTuning((s) => s.good[tag] ?? null);
export function keepGood(tag: string, values: Record<string, number>): void {
  useLiveTuning.setState((s) => ({ good: { ...s.good, [tag]: { values, at: Date.now() } } }));
}

export const useMarks = (tag: string): readonly ChangeMark[] => useLiveTuning((s) => s.marks[tag] ?? noMarks);
export function markChange(tag: string, mark: ChangeMark): void {
  useLiveTuning.setState((s) => ({ marks: { ...s.marks, [tag]: [...(s.marks[tag] ?? []), mark].slice(-mostMarks) } }));
}

export const useGauges = (tag: string): readonly AtGauge[] => useLiveTuning((s) => s.gauges[tag] ?? noGauges);
export function noteGauges(tag: string, gauges: AtGauge[]): void {
  useLiveTuning.setState((s) => ({ gauges: { ...s.gauges, [tag]: gauges } }));
}
