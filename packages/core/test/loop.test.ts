import { Solver } from 'odex';
import { random, rawOf, straightenedOf } from '../src';
import {
  filtered,
  marginsOf,
  mostKick,
  openLoop,
  pidRules,
  predict,
  proposePid,
  restingModel,
  simc,
  stepModel,
  stepSizeFor,
  straighten,
  type PidGains,
  type ProcessModel,
  type RuleId,
  type SteadyPoint,
} from '../src/loop';

const settling = (gain: number, lag: number, deadTime: number, second = 0): ProcessModel => ({
  kind: 'settling',
  gain,
  lags: [lag, second],
  deadTime,
});
const integrating = (gain: number, deadTime: number): ProcessModel => ({ kind: 'integrating', gain, lags: [0, 0], deadTime });
const rule = (id: RuleId, m: ProcessModel): PidGains | null => pidRules.find((r) => r.id === id)?.gains(m) ?? null;

describe('margins', () => {
  // Skogestad 2003, table 1: PI by SIMC with τc = θ
  test('of SIMC on a lag that its integral cancels: 3.14, 61.4°, Ms 1.59', () => {
    const m = settling(1, 4, 1);
    const { gainMargin, phaseMargin, sensitivity, stable } = marginsOf(m, simc(m, 1));
    expect(gainMargin).toBeCloseTo(3.14, 2);
    // rounded there: by hand it is 90° less half a radian
    expect(phaseMargin).toBeCloseTo(90 - 0.5 * (180 / Math.PI), 1);
    expect(sensitivity).toBeCloseTo(1.59, 2);
    expect(stable).toBe(true);
  });
  test('of SIMC on an integrator: 2.96, 46.9°, Ms 1.70', () => {
    const m = integrating(0.2, 1);
    const { gainMargin, phaseMargin, sensitivity } = marginsOf(m, simc(m, 1));
    expect(gainMargin).toBeCloseTo(2.96, 2);
    expect(phaseMargin).toBeCloseTo(46.9, 1);
    expect(sensitivity).toBeCloseTo(1.7, 2);
  });
  // pure gain and dead time under an integral alone: L = (k/Ti) e^(−jω) / jω, phase −180° at ω = π/2, gain margin π/2 · Ti/k
  test('by hand where a loop can be worked out: π/2 for an integral on a dead time', () => {
    const { gainMargin } = marginsOf(settling(1, 0, 1), { gain: 1e-9, integralTime: 1e-9, derivativeTime: 0 });
    expect(gainMargin).toBeCloseTo(Math.PI / 2, 2);
  });
  // by its definition: the least of 1/|L| wherever the Nyquist curve crosses the real axis left of zero, however often a dead time has gone round
  test('the gain margin of any loop is that of its whole curve', () => {
    const r = random(24);
    for (let i = 0; i < 60; i++) {
      const m = settling(1, 0.05 + r.uniform(), 10 * r.uniform(), r.uniform());
      const c = { gain: 0.2 + 3 * r.uniform(), integralTime: 0.2 + 20 * r.uniform(), derivativeTime: i % 3 === 0 ? 8 * r.uniform() : 0 };
      let by = Infinity;
      let before = openLoop(m, c, 1e-3);
      for (let w = 1e-3; w < 60; w *= 1.0005) {
        const now = openLoop(m, c, w);
        if (before.im * now.im < 0 && now.re < 0) by = Math.min(by, 1 / Math.hypot(now.re, now.im));
        before = now;
      }
      expect([m, c, marginsOf(m, c, 800).gainMargin / by]).toEqual([m, c, expect.closeTo(1, 1)]);
    }
  });
  test('a loop past its gain margin is unstable, and swings when it is run', () => {
    const m = settling(1, 4, 1);
    const c = simc(m, 1);
    const { gainMargin } = marginsOf(m, c);
    for (const [times, ends] of [
      [0.9, true],
      [1.1, false],
    ] as const) {
      const harder = { ...c, gain: c.gain * gainMargin * times };
      expect(marginsOf(m, harder).stable).toBe(ends);
      const { feedback } = predict(m, harder, { setpoint: 1, disturbance: 0, longest: 200 }, 0.005);
      const late = Math.max(...feedback.slice(-4000).map((y) => Math.abs(y - 1)));
      const early = Math.max(...feedback.slice(4000, 8000).map((y) => Math.abs(y - 1)));
      expect(late < early).toBe(ends);
    }
  });
});

describe('rules', () => {
  // Seborg, Edgar, Mellichamp, Process Dynamics and Control, the example 10 e^(−s) / (2s + 1) (from memory)
  test('of least ITAE and SIMC give the worked example’s figures', () => {
    const m = settling(10, 2, 1);
    const disturbance = rule('itae disturbance PI', m);
    expect(disturbance?.gain).toBeCloseTo(0.169, 3);
    expect(disturbance?.integralTime).toBeCloseTo(1.85, 2);
    const setpoint = rule('itae set point PI', m);
    expect(setpoint?.gain).toBeCloseTo(0.111, 3);
    expect(setpoint?.integralTime).toBeCloseTo(2.11, 2);
    expect(rule('simc', m)).toEqual({ gain: 0.1, integralTime: 2, derivativeTime: 0 });
  });
  test('are not used where they were not made for', () => {
    expect(rule('itae disturbance PI', settling(1, 10, 0.1))).toBeNull();
    expect(rule('cohen-coon PI', integrating(0.1, 1))).toBeNull();
    for (const r of pidRules) expect(r.gains(settling(0, 1, 1))?.gain ?? Infinity).toBe(Infinity);
  });
  test('a process that falls when the output rises wants the same gain with the action turned round', () => {
    expect(rule('simc', settling(-2, 5, 1))).toEqual(rule('simc', settling(2, 5, 1)));
    const [a, b] = [2, -2].map((gain) =>
      predict(settling(gain, 5, 1), { gain: 0.5, integralTime: 4, derivativeTime: 0 }, { setpoint: 1, disturbance: 0, longest: 30 }),
    );
    expect(a?.iae).toBeCloseTo(b?.iae ?? 0, 6);
  });
});

describe('the closed loop foreseen', () => {
  // an independent integrator on the same equations, the controller's sampling left out
  test('is that of odex on a lag under PI', () => {
    const m = settling(1.5, 3, 0);
    const c: PidGains = { gain: 1.2, integralTime: 2.5, derivativeTime: 0 };
    const s = new Solver((_t: number, [y = 0, i = 0]: number[]) => {
      const e = 1 - y;
      return [(1.5 * (c.gain * e + i) - y) / 3, (c.gain * e) / c.integralTime];
    }, 2);
    const mine = predict(m, c, { setpoint: 1, disturbance: 0, longest: 12 }, 0.002);
    for (const t of [0.5, 1, 2, 4, 8]) {
      const [y = NaN] = s.integrate(0, [0, 0])(t);
      expect(mine.feedback[Math.round(t / 0.002)]).toBeCloseTo(y, 2);
    }
  });
  test('gives back ∫ error = Ti / Kc of a step that comes in before the process (closed form)', () => {
    const m = settling(2, 6, 1);
    const c = simc(m, 2);
    const { feedback, iae, settled } = predict(m, c, { setpoint: 0, disturbance: 1, longest: 120 });
    const sum = feedback.reduce((a, y) => a + y, 0) * (120 / feedback.length);
    expect(sum).toBeCloseTo(c.integralTime / c.gain, 1);
    expect(iae).toBeGreaterThanOrEqual(Math.abs(sum) - 1e-6);
    expect(settled).toBeLessThan(40);
  });
  test('a process at rest stays at rest, and goes to its gain', () => {
    const m = settling(1.7, 2, 0.5, 1);
    const state = restingModel(m, 0.01);
    let y = 0;
    for (let i = 0; i < 4000; i++) y = stepModel(state, m, 10, 0.01);
    expect(y).toBeCloseTo(17, 3);
    const quiet = restingModel(m, 0.01);
    for (let i = 0; i < 100; i++) expect(stepModel(quiet, m, 0, 0.01)).toBe(0);
  });
});

describe('straightening', () => {
  const points = (of: (u: number) => number, ways: ReadonlyArray<1 | -1> = [1]): SteadyPoint[] =>
    ways.flatMap((way) => [20, 30, 40, 50, 60, 70, 80, 90].map((output) => ({ output, feedback: of(output) + (way === -1 ? 0 : 0), way })));

  test('of a straight but shifted sensor gives its gain and offset back', () => {
    const s = straighten(points((u) => 0.5 * u + 10));
    if (!s.ok) throw new Error(s.why);
    expect(s.fit.gain).toBeCloseTo(2, 9);
    expect(s.fit.offset).toBeCloseTo(-10, 9);
    expect(s.fit.mostLeft).toBeLessThan(1e-9);
    expect([s.worth, s.oneLine, s.bend]).toEqual([true, true, null]);
    expect(straightenedOf(s.fit, 35)).toBeCloseTo(50, 9);
    expect(rawOf(s.fit, 50)).toBeCloseTo(35, 9);
  });
  test('of a pump’s parabola leaves what a line must leave, and is told where two would do', () => {
    const s = straighten(points((u) => (u * u) / 100));
    if (!s.ok) throw new Error(s.why);
    expect(s.slopes).toBeGreaterThan(2);
    expect(s.oneLine).toBe(false);
    expect(Math.max(s.bend?.below.mostLeft ?? 99, s.bend?.above.mostLeft ?? 99)).toBeLessThan(s.fit.mostLeft);
  });
  test('is not worth it for a feedback that follows already', () => {
    expect(straighten(points((u) => u + 1))).toMatchObject({ ok: true, worth: false });
  });
  test('refuses what no line cures', () => {
    expect(straighten(points((u) => (u < 60 ? u : 120 - u)))).toMatchObject({ ok: false, why: 'turns back' });
    expect(straighten(points(() => 40))).toMatchObject({ ok: false, why: 'flat' });
    expect(straighten(points((u) => u).slice(0, 2))).toMatchObject({ ok: false, why: 'too few points' });
    const both = points((u) => u, [1, -1]).map((p) => (p.way === -1 ? { ...p, feedback: p.feedback + 12 } : p));
    expect(straighten(both)).toMatchObject({ ok: false, why: 'hysteresis', hysteresis: 12 });
  });
});

describe('proposals', () => {
  const m = settling(1.2, 4, 1);
  const of = (o: Parameters<typeof proposePid>[1] = {}) => {
    const { proposals, recommended } = proposePid(m, o);
    const best = proposals.find((p) => p.rule === recommended);
    if (!best) throw new Error('something is recommended');
    return { proposals, best };
  };
  test('recommend the least ∫|e| of a disturbance among what stays within Ms 1.8', () => {
    const { proposals, best } = of();
    const sound = proposals.filter((p) => p.worst.sensitivity <= 1.8 && p.worst.stable && p.purpose !== 'comparison');
    expect(best.disturbance.iae).toBe(Math.min(...sound.map((p) => p.disturbance.iae)));
    expect(sound.length).toBeGreaterThan(2);
  });
  test('are judged where the process is steepest, and then are gentler', () => {
    const { best } = of({ gains: [0.6, 1.8], derivative: false });
    expect(best.gains.gain).toBeLessThan(of({ derivative: false }).best.gains.gain);
    expect(marginsOf({ ...m, gain: 1.8 * m.gain }, best.gains).sensitivity).toBeLessThanOrEqual(1.8 + 1e-6);
  });
  test('keep away from models the test hardly tells from the best', () => {
    const late = { ...m, deadTime: 2 };
    const { best } = of({ plausible: [late], derivative: false });
    expect(marginsOf(late, best.gains).sensitivity).toBeLessThanOrEqual(1.95 + 1e-6);
  });
  test('a process without gain gets nothing, and a drive without derivative no PID', () => {
    expect(proposePid(settling(0, 4, 1))).toEqual({ proposals: [], recommended: null });
    expect(of({ derivative: false }).proposals.every((p) => p.gains.derivativeTime === 0)).toBe(true);
    expect(of().proposals.some((p) => p.gains.derivativeTime > 0)).toBe(true);
  });
  test('know the drive’s ramp: what would go up and down on it is not recommended, and gentler values come to rest', () => {
    const slow = 0.8;
    const free = of({ derivative: false }).best;
    const { best, proposals } = of({ derivative: false, ramp: slow });
    const behind = (g: PidGains) => {
      const { feedback } = predict(m, g, { setpoint: 0, disturbance: 15, longest: 600, ramp: slow });
      return Math.max(...feedback.subarray(Math.floor(0.75 * feedback.length)).map(Math.abs));
    };
    expect(behind(free.gains)).toBeGreaterThan(2);
    expect(behind(best.gains)).toBeLessThan(0.5);
    expect(proposals.filter((p) => p.holds === false).length).toBeGreaterThan(0);
  });
  test('what does not hold elsewhere is not recommended, and the own rule grows calmer until it does', () => {
    const { best } = of({ derivative: false, holds: (g) => g.gain < 0.7 });
    expect(best.gains.gain).toBeLessThan(0.7);
    expect(best.holds).toBe(true);
    expect(proposePid(m, { holds: () => false }).recommended).toBeNull();
  });
  // a gain that turns a sensor's step into more than some percent of output is held back (common practice)
  test('a sensor that comes in steps holds the gain back, and a level then gets a longer integral', () => {
    const level: ProcessModel = { kind: 'integrating', gain: -0.0015, lags: [0.2, 0], deadTime: 0.3 };
    const { proposals, recommended } = proposePid(level, { grain: 0.1, derivative: false });
    const best = proposals.find((p) => p.rule === recommended);
    expect(best?.gains.gain).toBeLessThanOrEqual(mostKick / 0.1);
    const free = proposePid(level, { derivative: false });
    expect(best?.gains.integralTime).toBeGreaterThan(2 * (free.proposals.find((p) => p.rule === free.recommended)?.gains.integralTime ?? NaN));
    expect(best?.disturbance.settled).not.toBeNull();
    expect(best?.worst.sensitivity).toBeLessThanOrEqual(1.8);
    for (const p of proposals.filter((q) => q.rule.startsWith('simc'))) expect(p.kick).toBeLessThanOrEqual(mostKick * 1.01);
    const plain = proposePid(settling(1, 4, 1), { derivative: false });
    expect(proposePid(settling(1, 4, 1), { grain: 0.1, derivative: false }).recommended).toBe(plain.recommended);
  });
  test('the size of a step stands out of the noise and stays within its room', () => {
    expect(stepSizeFor(0.01, 1, 20)).toBe(8);
    expect(stepSizeFor(0.3, 1, 20)).toBe(12);
    expect(stepSizeFor(5, 1, 20)).toBe(15);
    expect(stepSizeFor(0.01, 1, 5)).toBeNull();
  });
  test('a filter on the feedback is a lag more, the shortest of three dead time', () => {
    expect(filtered(settling(1, 4, 1), 0.5)).toMatchObject({ lags: [4, 0.5], deadTime: 1 });
    expect(filtered(settling(1, 4, 1, 2), 0.5)).toMatchObject({ lags: [4, 2], deadTime: 1.5 });
    expect(filtered(integrating(1, 1), 2)).toMatchObject({ lags: [2, 0], deadTime: 1 });
  });
});
