import type { Before, TripCase, TripChannel } from './tripCase';
import { nth } from '../present';

/** Middle value; null of none. */
export function median(values: readonly number[]): number | null {
  if (values.length === 0) return null;
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[sorted.length >> 1] ?? null;
}

/** Samples of a channel between two times before the trip, s. Empty where it is not recorded. */
export function between(b: Before | null, channel: TripChannel, from: number, to: number): number[] {
  const values = b?.channels[channel];
  if (!b || !values) return [];
  const out: number[] = [];
  for (let i = 0; i < b.time.length; i++) {
    const t = nth(b.time, i);
    if (t >= from && t <= to) out.push(nth(values, i));
  }
  return out;
}

/** s at rest that end a run, and Hz below which it rests. */
const atRest = { seconds: 2, hertz: 0.3 };

/** When the run that came to the trip began, s: after its last rest. One that stood when it tripped had its run before that. -Infinity where no rest is seen. */
export function runBegan(b: Before | null): number {
  const f = b?.channels.outputFrequency;
  if (!b || !f) return -Infinity;
  let turned = false;
  let stoodTill: number | null = null;
  for (let i = f.length - 1; i >= 0; i--) {
    if (Math.abs(nth(f, i)) >= atRest.hertz) {
      turned = true;
      stoodTill = null;
    } else if (turned) {
      stoodTill ??= nth(b.time, i);
      if (stoodTill - nth(b.time, i) >= atRest.seconds) return stoodTill;
    }
  }
  return -Infinity;
}

/** Mean of a channel between two times; null where there is no sample. */
export function meanOf(b: Before | null, channel: TripChannel, from: number, to: number): number | null {
  const all = between(b, channel, from, to);
  return all.length === 0 ? null : all.reduce((a, x) => a + x, 0) / all.length;
}

/** Least-squares slope of a channel between two times, per s; null of fewer than three samples. */
export function slopeOf(b: Before | null, channel: TripChannel, from: number, to: number): number | null {
  const values = b?.channels[channel];
  if (!b || !values) return null;
  let [n, st, sv, stt, stv] = [0, 0, 0, 0, 0];
  for (let i = 0; i < b.time.length; i++) {
    const [t, v] = [nth(b.time, i), nth(values, i)];
    if (t < from || t > to) continue;
    n++;
    st += t;
    sv += v;
    stt += t * t;
    stv += t * v;
  }
  const spread = n * stt - st * st;
  return n < 3 || spread <= 0 ? null : (n * stv - st * sv) / spread;
}

/** The last moments of a channel from whatever recorded them best: the drive's trace, else the link's trend, else the snapshot. @param over s */
export function lastOf(c: TripCase, channel: 'outputFrequency' | 'motorCurrent' | 'busVoltage' | 'torque', over: number): number | null {
  return meanOf(c.trace, channel, -over, 0) ?? c.snapshot[channel] ?? meanOf(c.trend, channel, -Math.max(over, 1.5), 0);
}
