import { useEffect } from 'react';
import { create } from 'zustand';
import type { LiveSample } from '@yare/contract';
import { live } from './live';

/** A run of a machine since it was last watched from rest or from a trip: ms, Hz, V, A. */
export interface RunAgain {
  from: number;
  to: number;
  /** highest output, bus and current of it */
  top: number;
  bus: number;
  current: number;
  /** it came to rest */
  ended: boolean;
}

/** Hz from which a machine counts as turning. */
const turns = 1;

/** The run after one more sample; a trip takes it back, and a new start begins another. */
export function afterSample(run: RunAgain | null, s: LiveSample): RunAgain | null {
  if (s.link !== 'up') return run;
  if (s.state === 'tripped') return null;
  const size = s.searching ? 0 : Math.abs(s.outputFrequency);
  if (size > turns || s.state === 'running' || s.state === 'stopping') {
    const before = run && !run.ended ? run : { from: s.at, top: 0, bus: 0, current: 0 };
    return {
      ...{ from: before.from, to: s.at, ended: false },
      ...{ top: Math.max(before.top, size), bus: Math.max(before.bus, s.busVoltage), current: Math.max(before.current, s.motorCurrent) },
    };
  }
  return run && !run.ended ? { ...run, ended: true, bus: Math.max(run.bus, s.busVoltage) } : run;
}

const useStore = create<{ runs: Record<string, RunAgain | null> }>(() => ({ runs: {} }));
const watched = new Set<string>();

/** Watches a machine from now on, whatever page is open: it is run again from another one. */
function watch(tag: string): void {
  if (watched.has(tag)) return;
  watched.add(tag);
  let last = live.samples.get(tag)?.at ?? 0;
  live.subscribe(() => {
    const s = live.samples.get(tag);
    if (!s || s.at === last) return;
    last = s.at;
    const before = useStore.getState().runs[tag] ?? null;
    const now = afterSample(before, s);
    if (now !== before) useStore.setState(({ runs }) => ({ runs: { ...runs, [tag]: now } }));
  });
}

/** The newest run of a machine since it was first asked for here; null before one, and after a trip. */
export function useRunAgain(tag: string): RunAgain | null {
  useEffect(() => watch(tag), [tag]);
  return useStore((s) => s.runs[tag] ?? null);
}
