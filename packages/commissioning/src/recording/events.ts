import type { Recorded } from './channels';
import { runBegins } from '../seen/search';
import { isGap } from './gaps';
import { nth } from '@yare/core';
import { say } from '@yare/words/recording';

/** A moment of a recording others can be laid beside. */
export interface RecordedEvent {
  code: 'begin' | 'starts' | 'at speed' | 'slows' | 'at rest' | 'current peak' | 'bus peak' | 'end' | 'mark';
  label: string;
  /** s */
  time: number;
}

/** Hz from which it turns, and the share of its top speed from which it counts as up. */
const turning = 0.3;
const up = 0.97;

const peak = (time: ArrayLike<number>, values: ArrayLike<number> | undefined): number | null => {
  let at = -1;
  for (let i = 0; values && i < time.length; i++) if (Number.isFinite(nth(values, i)) && (at < 0 || nth(values, i) > nth(values, at))) at = i;
  return at < 0 ? null : nth(time, at);
};

/** What happens in a recording, in the order of time: how it turned, its peaks, and its marks. */
export function eventsOf({ channels, time, values, marks }: Pick<Recorded, 'channels' | 'time' | 'values' | 'marks'>): RecordedEvent[] {
  const of = (key: string) => values[channels.findIndex((c) => c.key === key)];
  const events: RecordedEvent[] = [];
  const add = (code: RecordedEvent['code'], label: string, at: number | null | undefined) => {
    if (at !== null && at !== undefined) events.push({ code, label, time: at });
  };
  if (time.length === 0) return [];
  const [begin, end] = [nth(time, 0), nth(time, time.length - 1)];
  const f = of('outputFrequency');
  if (f) {
    const begins = runBegins(time, f);
    let top = 0;
    for (let i = begins; i < f.length; i++) top = Math.max(top, Math.abs(nth(f, i)));
    const first = (from: number, test: (v: number) => boolean): number => {
      for (let i = from; i < f.length; i++) if (test(Math.abs(nth(f, i)))) return i;
      return -1;
    };
    const starts = top < turning ? -1 : first(begins, (v) => v >= turning);
    const reached = starts < 0 ? -1 : first(starts, (v) => v >= up * top);
    const slows = reached < 0 ? -1 : first(reached, (v) => v < up * top);
    const rests = slows < 0 ? -1 : first(slows, (v) => v < turning);
    // one that turns from its first sample on was not seen to start
    if (starts > 0) add('starts', say.startsToTurn, time[starts]);
    if (starts > 0 && reached > starts) add('at speed', say.atSpeed, time[reached]);
    if (slows > 0) add('slows', say.beginsToSlow, time[slows]);
    if (rests > 0) add('at rest', say.atRest, time[rests]);
  }
  add('current peak', say.highestCurrent, peak(time, of('motorCurrent')));
  add('bus peak', say.highestBusVoltage, peak(time, of('busVoltage')));
  // a gap in the sampling is nothing that happened at the machine
  for (const m of marks) if (!isGap(m.label)) add('mark', m.label, m.time);
  events.sort((a, b) => a.time - b.time);
  return [{ code: 'begin', label: say.beginning, time: begin }, ...events, { code: 'end', label: say.end, time: end }];
}

/** Which events of two recordings stand on each other at first: the same mark, else the same happening, else their beginnings. */
export function alignedBy(a: readonly RecordedEvent[], b: readonly RecordedEvent[]): [RecordedEvent, RecordedEvent] | null {
  const wanted: Array<(e: RecordedEvent) => boolean> = [
    (e) => e.code === 'mark' && b.some((x) => x.code === 'mark' && x.label === e.label),
    ...(['starts', 'slows', 'at rest', 'begin'] as const).map((code) => (e: RecordedEvent) => e.code === code && b.some((x) => x.code === code)),
  ];
  for (const test of wanted) {
    const mine = a.find(test);
    const theirs = mine && b.find((x) => x.code === mine.code && (x.code !== 'mark' || x.label === mine.label));
    if (mine && theirs) return [mine, theirs];
  }
  return null;
}
