import { useEffect, useRef, useState } from 'react';
import { duration } from '@yare/commissioning/trips';
import { formatFigure } from '@yare/core';
import { useLive } from '../../data/live';

/** What was seen of a machine that runs again: the proof of a cure is the case run once more without its trip. */
export interface SeenAgain {
  /** it ran and came to rest, and did not trip */
  whole: boolean;
  /** a line of what was measured; null before it has run */
  measured: string | null;
}

interface Run {
  from: number;
  to: number;
  top: number;
  bus: number;
  current: number;
  ended: boolean;
}

/** Hz from which it counts as running. */
const turns = 1;

/** Watches a machine while the page is open. A trip begins it anew. */
export function useSeenAgain(tag: string): SeenAgain {
  const live = useLive([tag])(tag);
  const run = useRef<Run | null>(null);
  const [seen, setSeen] = useState<SeenAgain>({ whole: false, measured: null });
  const { at = 0, link, state, outputFrequency = 0, busVoltage = 0, motorCurrent = 0 } = live ?? {};
  useEffect(() => {
    if (link !== 'up') return;
    if (state === 'tripped') {
      run.current = null;
      setSeen({ whole: false, measured: null });
      return;
    }
    const size = Math.abs(outputFrequency);
    const on = size > turns || state === 'running' || state === 'stopping';
    const r = run.current;
    if (on) {
      if (!r || r.ended) run.current = { from: at, to: at, top: size, bus: busVoltage, current: motorCurrent, ended: false };
      else Object.assign(r, { to: at, top: Math.max(r.top, size), bus: Math.max(r.bus, busVoltage), current: Math.max(r.current, motorCurrent) });
    } else if (r && !r.ended) Object.assign(r, { ended: true, bus: Math.max(r.bus, busVoltage) });
    const now = run.current;
    if (!now) return;
    setSeen({
      whole: now.ended && now.top > turns,
      measured: `ran for ${duration((now.to - now.from) / 1000)} up to ${formatFigure(now.top, 1)} Hz${now.ended ? ' and came to rest' : ''}; highest bus ${formatFigure(now.bus, 0)} V, highest current ${formatFigure(now.current, 1)} A; no trip`,
    });
  }, [at, link, state, outputFrequency, busVoltage, motorCurrent]);
  return seen;
}
