import { bumpless, random, restingPid, stepPid, type Random, nth } from '@yare/core';
import { largestIntegral, proposePid, stepSizeFor, stepTest, type LoopRecord, type PidGains, type SteadyPoint } from '@yare/core/loop';
import { advance, atRest, drawProcess, dt, madeBy, sense, slopeAt, trueSensitivity, type TrueProcess } from './process';

/** One process tuned from what a link shows, with and without a table of steady points. */
export interface JudgedLoop {
  kind: TrueProcess['kind'];
  seed: number;
  refused: string | null;
  straightened: Held | null;
  raw: Held | null;
}

/** How the tuned loop truly does. */
export interface Held {
  stable: boolean;
  /** largest sensitivity over the working range */
  sensitivity: number;
  /** ∫|e| of a change of demand over the best that a search finds with Ms ≤ 2 */
  iaeRatio: number;
}

/** The link samples this often, s, a little late each time. */
const sampled = 0.1;
const jitter = 0.03;
/** % of output a drive's word resolves. */
const outputStep = 0.05;
/** Hz steps of a guided run for the steady points, % of output. */
const table = [40, 50, 60, 70, 80, 90, 100];
const allowed = 2;
/** % of the range a level is let go in its test, there and back. */
const levelMoves = 8;

/** s after which nothing moves any more. */
const settles = (p: TrueProcess): number => 8 * (1.6 * p.lag + p.second + p.sensor.lag) + p.deadTime;

/** A step of the output as recorded over the link; of a level there, and as far to the other side. */
function recordStep(p: TrueProcess, from: number, to: number, r: Random): LoopRecord {
  const state = atRest(p, from);
  const rest = p.kind === 'level' ? Math.max(8, 6 * p.lag) : settles(p) / 3;
  // a level is let run until it has moved by some percent, and then back
  const moves = levelMoves / Math.max(1e-3, p.fills * Math.abs(slopeAt(p, (from + to) / 2) * (to - from)));
  const back = p.kind === 'level' ? rest + Math.max(8 * (p.lag + p.second + p.deadTime), moves) : Infinity;
  const length = p.kind === 'level' ? 2 * back - rest : rest + settles(p);
  const out = { time: [] as number[], output: [] as number[], feedback: [] as number[] };
  let next = 0;
  let now = from;
  for (let i = 0; i < length / dt; i++) {
    const t = i * dt;
    const wanted = t < rest ? from : t < back ? to : 2 * from - to;
    // the drive's own ramp: a tenth of the range a second
    now += Math.max(-10 * dt, Math.min(10 * dt, wanted - now));
    const told = sense(state, p, advance(state, p, now, 1), r);
    if (t < next) continue;
    out.time.push(t);
    out.output.push(Math.round(now / outputStep) * outputStep);
    out.feedback.push(told);
    next = t + sampled + jitter * r.uniform();
  }
  return out;
}

/** Noise of the feedback at rest, as the guided test sees it first. */
function seenNoise(p: TrueProcess, output: number, r: Random): number {
  const state = atRest(p, output);
  const seen: number[] = [];
  for (let i = 0; i < 500; i++) {
    const told = sense(state, p, advance(state, p, output, 1), r);
    if (i % 5 === 0) seen.push(told);
  }
  const mean = seen.reduce((a, b) => a + b, 0) / seen.length;
  return Math.sqrt(seen.reduce((a, b) => a + (b - mean) ** 2, 0) / seen.length);
}

/** Steady points of a guided run up, each a mean over some seconds. */
function steadyPoints(p: TrueProcess, r: Random): SteadyPoint[] {
  return table.map((output) => {
    const state = atRest(p, output);
    let sum = 0;
    for (let i = 0; i < 200; i++) sum += sense(state, p, advance(state, p, output, 1), r);
    return { output, feedback: sum / 200, way: 1 };
  });
}

/** The output that holds a level, or the working point of a pressure. */
function workingPoint(p: TrueProcess): number {
  if (p.kind !== 'level') return 70;
  let [low, high] = [30, 100];
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2;
    if (madeBy(p, middle) < p.inflow) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/** Outputs at which the loop works between least and most demand. */
const range = (p: TrueProcess, at: number): number[] => (p.kind === 'level' ? [at] : [at - 12, at, Math.min(97, at + 15)]);

function sensitivityOf(p: TrueProcess, at: number, g: PidGains): { sensitivity: number; stable: boolean } {
  const each = range(p, at)
    .filter((u) => slopeAt(p, u) > 0.02)
    .map((u) => trueSensitivity(p, u, g));
  return { sensitivity: Math.max(...each.map((e) => e.sensitivity)), stable: each.every((e) => e.stable) };
}

/** ∫|e| of a demand that grows by a quarter and goes back, the drive's own controller on the true process, behind its sensor without noise. */
function integralError(noisy: TrueProcess, at: number, g: PidGains): number {
  const p = { ...noisy, sensor: { ...noisy.sensor, noise: 0, drift: 0 } };
  const r = random(1);
  const state = atRest(p, at);
  const setpoint = p.kind === 'level' ? 50 : madeBy(p, at);
  const settings = {
    ...{ proportionalGain: g.gain, integralTime: g.integralTime, derivativeTime: g.derivativeTime, setpointWeight: 1 },
    ...{ reverse: p.kind === 'level', outputLow: 0, outputHigh: 100 },
  };
  const pid = restingPid(setpoint);
  bumpless(pid, settings, setpoint, setpoint, at);
  const half = p.kind === 'level' ? 60 / (p.fills * 50) + 30 * p.lag : 2 * settles(p);
  let [sum, value] = [0, setpoint];
  for (let i = 0; i < (2 * half) / dt; i++) {
    const output = stepPid(pid, settings, setpoint, sense(state, p, value, r), dt);
    value = advance(state, p, output, i * dt < half ? 1.25 : 1);
    sum += Math.abs(setpoint - value) * dt;
  }
  return sum;
}

/** Least of that over all PI with a sensitivity of at most two, by a net of gains and times drawn twice. */
function bestFound(p: TrueProcess, at: number): number {
  const k = Math.abs(p.kind === 'level' ? p.fills * slopeAt(p, at) : slopeAt(p, at));
  const late = p.deadTime + p.second + p.sensor.lag;
  const own = p.kind === 'level' ? { gain: 0.5 / (k * late), time: 8 * late } : { gain: p.lag / (k * late), time: p.lag + late / 3 };
  let best = { iae: Infinity, gain: own.gain, time: own.time };
  for (const [span, n] of [
    [6, 9],
    [1.5, 7],
  ] as const) {
    const centre = best;
    for (let i = 0; i < n; i++)
      for (let j = 0; j < n; j++) {
        const gain = centre.gain * span ** ((2 * i) / (n - 1) - 1);
        const integralTime = centre.time * span ** ((2 * j) / (n - 1) - 1);
        const g = { gain, integralTime, derivativeTime: 0 };
        const { sensitivity, stable } = sensitivityOf(p, at, g);
        if (!stable || sensitivity > allowed) continue;
        const iae = integralError(p, at, g);
        if (iae < best.iae) best = { iae, gain, time: integralTime };
      }
  }
  return best.iae;
}

/** Gain at the ends of the working range over that at the working point, as far as the table of steady points tells. */
function gainsAlong(points: readonly SteadyPoint[], at: number, ends: readonly number[]): number[] {
  const slope = (u: number) => {
    const i = Math.max(
      1,
      points.findIndex((q) => q.output >= u),
    );
    const [a, b] = [nth(points, i - 1), nth(points, i)];
    return (b.feedback - a.feedback) / (b.output - a.output);
  };
  const here = points.length > 1 ? slope(at) : 0;
  return here > 0.02 ? ends.map((u) => slope(u) / here) : [];
}

function held(p: TrueProcess, at: number, g: PidGains | null, best: number): Held | null {
  if (!g) return null;
  const { sensitivity, stable } = sensitivityOf(p, at, g);
  return { stable, sensitivity, iaeRatio: integralError(p, at, g) / best };
}

const kinds = ['pump', 'fan', 'level'] as const;

/** One seeded process, tested and tuned as at the machine, then held against itself. */
export function judgeLoop(seed: number, n: number): JudgedLoop {
  const r = random(seed * 7919 + n);
  const kind = nth(kinds, n % 3);
  const p = drawProcess(r, kind);
  const at = workingPoint(p);
  const points = kind === 'level' ? [] : steadyPoints(p, r);
  const noise = seenNoise(p, at, r);
  const guess = kind === 'level' ? 0.25 : Math.abs((madeBy(p, at + 5) - madeBy(p, at)) / 5);
  const size = stepSizeFor(noise, guess, 15) ?? 15;
  const test = stepTest(kind === 'level' ? recordStep(p, at, at + size, r) : recordStep(p, at - size / 2, at + size / 2, r));
  const out: JudgedLoop = { ...{ kind, seed: n, refused: test.ok ? null : test.why }, straightened: null, raw: null };
  if (!test.ok) return out;
  const best = bestFound(p, at);
  const pick = (gains: number[]): PidGains | null => {
    const { plausible } = test.best;
    const { proposals, recommended } = proposePid(test.likely, {
      gains,
      ...(kind !== 'level' && { plausible }),
      bothSides: test.back !== null,
      grain: Math.max(test.step, 2 * test.noise),
      derivative: false,
    });
    return proposals.find((q) => q.rule === recommended)?.gains ?? largestIntegral([test.likely]);
  };
  const known = gainsAlong(points, at, range(p, at));
  out.straightened = held(p, at, pick(known), best);
  out.raw = held(p, at, pick([]), best);
  return out;
}
