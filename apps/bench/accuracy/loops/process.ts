import type { Random } from '@yare/core';
import type { PidGains } from '@yare/core/loop';
import { nth } from '@yare/core';

/**
 * A process as it truly is, richer than what is fitted to it: a bent curve, two lags, dead time, a check valve, a sensor with lag, noise, steps and drift.
 * Output in % of maximum frequency; what is held in % of the sensor's range. Written for judging alone; knows nothing of the application's models.
 */
export interface TrueProcess {
  kind: 'pump' | 'fan' | 'level';
  /** % of the range that full speed makes with nothing drawn; what has to be overcome first, and the exponent of speed */
  full: number;
  static: number;
  exponent: number;
  /** share of what is made that the demand takes at full speed, and its exponent */
  drawn: number;
  drawnExponent: number;
  /** s of the process, the longer at full speed and as a share more at half of it */
  lag: number;
  slower: number;
  second: number;
  deadTime: number;
  /** level: % of the range per s and % of flow, and what flows in, % of full flow */
  fills: number;
  inflow: number;
  sensor: { lag: number; noise: number; step: number; drift: number };
}

/** What stands in the process from step to step. */
export interface TrueState {
  first: number;
  second: number;
  level: number;
  sensed: number;
  drift: number;
  past: Float64Array;
  at: number;
}

export const dt = 0.02;

const between = (r: Random, low: number, high: number): number => low + (high - low) * r.uniform();
const logBetween = (r: Random, low: number, high: number): number => low * (high / low) ** r.uniform();

export function drawProcess(r: Random, kind: TrueProcess['kind']): TrueProcess {
  const sensor = {
    lag: logBetween(r, 0.02, 0.5),
    noise: logBetween(r, 0.02, 0.35),
    step: r.uniform() < 0.5 ? 0.1 : 0.025,
    drift: between(r, 0, 0.004),
  };
  const lag = kind === 'level' ? logBetween(r, 0.3, 2) : kind === 'fan' ? logBetween(r, 1, 12) : logBetween(r, 0.4, 6);
  return {
    ...{ kind, sensor, lag },
    full: between(r, 75, 125),
    static: kind === 'pump' ? between(r, 0, 25) : 0,
    // straight and bent
    exponent: r.uniform() < 0.3 ? between(r, 1, 1.15) : between(r, 1.6, 2.1),
    drawn: between(r, 0.05, 0.35),
    drawnExponent: between(r, 1.5, 2.2),
    slower: between(r, 0, 0.5),
    second: lag * between(r, 0.1, 0.6),
    deadTime: logBetween(r, 0.05, 0.5) * lag + 0.1,
    fills: logBetween(r, 0.01, 0.08),
    inflow: between(r, 35, 65),
  };
}

const signedPower = (x: number, e: number): number => Math.sign(x) * Math.abs(x) ** e;

/** % of the range a steady output makes, at a demand over the usual one; of a level, % of full flow that is pumped. */
export function madeBy(p: TrueProcess, output: number, demand = 1): number {
  const nu = Math.max(0, output) / 100;
  if (p.kind === 'level') return Math.max(0, 100 * signedPower((nu - 0.3) / 0.7, 0.85)) * demand;
  const made = p.full * nu ** p.exponent - p.static;
  // behind a check valve nothing is made below what has to be overcome
  return Math.max(0, made - demand * p.drawn * p.full * nu ** p.drawnExponent);
}

/** How steeply that is, % per %. */
export const slopeAt = (p: TrueProcess, output: number, demand = 1): number =>
  (madeBy(p, output + 0.05, demand) - madeBy(p, output - 0.05, demand)) / 0.1;

/** s of the longer lag at an output. */
export const lagAt = (p: TrueProcess, output: number): number => p.lag * (1 + p.slower * Math.max(0, 2 * (1 - output / 100)));

/** At rest at an output, a level at half of its range. */
export function atRest(p: TrueProcess, output: number): TrueState {
  const y = p.kind === 'level' ? 50 : madeBy(p, output);
  const flow = madeBy(p, output);
  return {
    first: flow,
    second: flow,
    level: 50,
    sensed: y,
    drift: 0,
    past: new Float64Array(Math.max(1, Math.round(p.deadTime / dt))).fill(output),
    at: 0,
  };
}

/** One step; returns what is truly there, in % of the range. A level falls when more is pumped. */
export function advance(s: TrueState, p: TrueProcess, output: number, demand: number): number {
  const late = nth(s.past, s.at);
  s.past[s.at] = output;
  s.at = (s.at + 1) % s.past.length;
  s.first += (madeBy(p, late, p.kind === 'level' ? 1 : demand) - s.first) * (1 - Math.exp(-dt / lagAt(p, late)));
  s.second += (s.first - s.second) * (1 - Math.exp(-dt / p.second));
  if (p.kind === 'level') s.level = Math.max(0, Math.min(100, s.level + p.fills * (p.inflow * demand - s.second) * dt));
  return p.kind === 'level' ? s.level : s.second;
}

/** What the drive is told: after the sensor's lag, with its noise, drift and steps, held to its range. */
export function sense(s: TrueState, p: TrueProcess, value: number, r: Random): number {
  s.sensed += (value - s.sensed) * (1 - Math.exp(-dt / p.sensor.lag));
  s.drift += p.sensor.drift * Math.sqrt(dt) * r.normal();
  const told = s.sensed + s.drift + p.sensor.noise * r.normal();
  return Math.max(0, Math.min(100, Math.round(told / p.sensor.step) * p.sensor.step));
}

/** Largest of |1 / (1 + L)| of a PID on the process linear round an output, and whether the Nyquist curve leaves −1 alone: worked out here again, by sums of angles. */
export function trueSensitivity(
  p: TrueProcess,
  output: number,
  { gain, integralTime, derivativeTime }: PidGains,
): { sensitivity: number; stable: boolean } {
  const k = p.kind === 'level' ? p.fills * slopeAt(p, output) : slopeAt(p, output);
  const lags = [lagAt(p, output), p.second, p.sensor.lag];
  let sensitivity = 0;
  let stable = true;
  let last = { size: Infinity, angle: 0 };
  for (let i = 0; i <= 700; i++) {
    const w = 1e-3 * 1e6 ** (i / 700);
    // 1 + jwTd / (1 + jwTd/8) − j / wTi
    const f = (w * derivativeTime) / 8;
    const real = 1 + (8 * f * f) / (1 + f * f);
    const imaginary = (8 * f) / (1 + f * f) - 1 / (w * integralTime);
    let size = Math.abs(k) * gain * Math.hypot(real, imaginary);
    let angle = -w * (p.deadTime + dt) + Math.atan2(imaginary, real);
    for (const t of lags) {
      size /= Math.hypot(1, w * t);
      angle -= Math.atan(w * t);
    }
    if (p.kind === 'level') {
      size /= w;
      angle -= Math.PI / 2;
    }
    sensitivity = Math.max(sensitivity, 1 / Math.max(1e-9, Math.hypot(1 + size * Math.cos(angle), size * Math.sin(angle))));
    if (last.size >= 1 && size < 1 && angle <= -Math.PI) stable = false;
    last = { size, angle };
  }
  return { sensitivity, stable };
}
