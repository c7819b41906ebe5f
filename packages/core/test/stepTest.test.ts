import { random } from '../src';
import { restingModel, stepModel, stepTest, type LoopRecord, type ProcessModel, type StepTest } from '../src/loop';

const settling = (gain: number, lag: number, deadTime: number, second = 0): ProcessModel => ({
  kind: 'settling',
  gain,
  lags: [lag, second],
  deadTime,
});
const integrating = (gain: number, deadTime: number): ProcessModel => ({ kind: 'integrating', gain, lags: [0, 0], deadTime });

interface Recorded {
  from?: number;
  to?: number;
  seconds?: number;
  at?: number;
  every?: number;
  noise?: number;
  ramp?: number;
  step?: number;
  drift?: number;
  seed?: number;
}
/** A step of the output on a process, as a recorder would have it. */
function recorded(m: ProcessModel, o: Recorded = {}): LoopRecord {
  const { from = 60, to = 70, seconds = 60, at = 8, every = 0.1, noise = 0, ramp = 0, step = 0, drift = 0, seed = 3 } = o;
  const r = random(seed);
  const dt = 0.01;
  const state = restingModel(m, dt);
  const out = { time: [] as number[], output: [] as number[], feedback: [] as number[] };
  for (let i = 0; i < seconds / dt; i++) {
    const t = i * dt;
    const share = Math.max(0, Math.min(1, ramp > 0 ? (t - at) / ramp : t >= at ? 1 : 0));
    const u = from + share * (to - from);
    const y = 40 + stepModel(state, m, u - from, dt) + drift * t + noise * r.normal();
    if (i % Math.round(every / dt) !== 0) continue;
    out.time.push(t);
    out.output.push(u);
    out.feedback.push(step > 0 ? Math.round(y / step) * step : y);
  }
  return out;
}
const ok = (t: StepTest): Extract<StepTest, { ok: true }> => {
  if (!t.ok) throw new Error(`refused: ${t.why}`);
  return t;
};
const why = (m: ProcessModel, o: Recorded): string | null => {
  const t = stepTest(recorded(m, o));
  return t.ok ? null : t.why;
};

describe('a step test', () => {
  test.each([
    [settling(1.3, 4, 1.5), 0],
    [settling(0.8, 2, 0.3), 0],
    [settling(-1.1, 6, 2), 0],
    [settling(1.3, 4, 1.5), 4],
  ])('gives gain, lag and dead time back from a clean record, the ramp of the drive taken out (%j, ramp %d s)', (m, ramp) => {
    const { best } = ok(stepTest(recorded(m, { ramp })));
    expect(best.model.kind).toBe('settling');
    expect(best.model.gain / m.gain).toBeCloseTo(1, 2);
    expect((best.model.lags[0] + best.model.lags[1]) / m.lags[0]).toBeCloseTo(1, 1);
    expect(Math.abs(best.model.deadTime - m.deadTime)).toBeLessThan(0.1 + 0.03 * m.lags[0]);
  });

  test('with noise, quantisation and 10,000 samples, over many seeds', () => {
    const m = settling(1.2, 5, 1);
    const off = Array.from({ length: 20 }, (_, seed) => {
      const { best } = ok(stepTest(recorded(m, { noise: 0.4, step: 0.1, every: 0.02, seconds: 60, seed })));
      return [best.model.gain / 1.2 - 1, (best.model.lags[0] + best.model.lags[1] + best.model.deadTime) / 6 - 1];
    });
    for (const [gain = 1, times = 1] of off) {
      expect(Math.abs(gain)).toBeLessThan(0.03);
      expect(Math.abs(times)).toBeLessThan(0.06);
    }
  });

  test('tells two lags from one, and a level from both', () => {
    const two = ok(stepTest(recorded(settling(1, 5, 0.5, 4), { seconds: 90, noise: 0.02 })));
    expect(two.best.model.lags[1]).toBeGreaterThan(2);
    const level = ok(stepTest(recorded(integrating(-0.05, 2), { seconds: 60, noise: 0.02 })));
    expect(level.best.model.kind).toBe('integrating');
    expect(level.best.model.gain / -0.05).toBeCloseTo(1, 2);
    expect(level.hand).toBeNull();
  });

  // the process is steeper below its balance than above it, as a pump against a static head is; slope at the balance by hand
  test('of a level, there and back: gain at its balance and the whole delay, over many seeds; the level comes back', () => {
    for (let seed = 1; seed <= 12; seed++) {
      const r = random(seed);
      const out = { time: [] as number[], output: [] as number[], feedback: [] as number[] };
      const flow = (u: number) => 100 * ((u / 100 - 0.3) / 0.7) ** 0.85;
      const slope = (flow(60.01) - flow(59.99)) / 0.02;
      let [u, lag, level] = [60, flow(60), 50];
      const late: number[] = [];
      for (let i = 0; i * 0.02 < 70; i++) {
        const t = i * 0.02;
        const wanted = t < 10 ? 60 : t < 40 ? 72 : 48;
        u += Math.max(-0.2, Math.min(0.2, wanted - u));
        late.push(u);
        lag += ((flow(late[Math.max(0, i - 40)] ?? 60) - lag) * 0.02) / 1.2;
        // what flows in is not quite what is pumped at 60 %
        level += 0.03 * (flow(60) + (seed % 3) - 1 - lag) * 0.02;
        if (i % 5 !== 0) continue;
        out.time.push(t);
        out.output.push(u);
        out.feedback.push(level + 0.05 * r.normal());
      }
      const found = ok(stepTest(out));
      expect(found.back).toBeCloseTo(48, 0);
      expect(found.best.model.kind).toBe('integrating');
      expect(found.best.model.gain / (-0.03 * slope)).toBeCloseTo(1, 1);
      // 0.8 s of dead time and 1.2 s of lag
      expect(Math.abs(found.best.model.deadTime + found.best.model.lags[0] - 2)).toBeLessThan(0.15);
      expect(Math.abs(found.likely.deadTime + found.likely.lags[0] - 2)).toBeLessThan(0.15);
    }
  });

  test('there and back on a process that settles is two steps', () => {
    const twice = recorded(settling(1.2, 4, 1));
    const back = recorded(settling(1.2, 4, 1), { from: 70, to: 50 });
    const both = {
      time: [...Array.from(twice.time), ...Array.from(back.time, (t) => t + 60)],
      output: [...Array.from(twice.output), ...Array.from(back.output)],
      feedback: [...Array.from(twice.feedback), ...Array.from(back.feedback, (y) => y + 12)],
    };
    expect(stepTest(both)).toMatchObject({ ok: false, why: 'several steps' });
  });

  // 28.3 and 63.2 % (Smith 1972), 25 and 75 %: exact for one lag with dead time
  test('is read by hand as the two-point methods have it', () => {
    const { hand } = ok(stepTest(recorded(settling(1.5, 6, 2))));
    expect(hand?.by63.lag).toBeCloseTo(6, 0);
    expect(hand?.by63.deadTime).toBeCloseTo(2, 0);
    expect(hand?.by75.lag).toBeCloseTo(6, 0);
    expect(hand?.by75.deadTime).toBeCloseTo(2, 0);
  });

  test('that says nothing is refused, each with its reason', () => {
    const m = settling(1.2, 4, 1);
    expect(why(m, { to: 60.3 })).toBe('no step');
    expect(why(m, { at: 1 })).toBe('not at rest before');
    expect(why(m, { drift: 0.4 })).toBe('not at rest before');
    expect(why(settling(0.02, 4, 1), { noise: 0.3 })).toBe('too small');
    expect(why(settling(1.2, 40, 1), { seconds: 40 })).toBe('not settled');
    expect(stepTest({ time: [], output: [], feedback: [] })).toMatchObject({ ok: false, why: 'too short', at: null });
    expect(why(m, { seconds: 4, at: 1, every: 0.1 })).toBe('too short');
    expect(why(settling(6, 3, 1), { to: 80 })).toBe('at a limit' satisfies string);
    const twice = recorded(m);
    for (let i = 0; i < twice.time.length; i++) if ((twice.time[i] ?? 0) > 30) (twice.output as number[])[i] = 80;
    expect(stepTest(twice)).toMatchObject({ ok: false, why: 'several steps' });
    const wild = recorded(m);
    for (let i = 0; i < wild.time.length; i++)
      (wild.feedback as number[])[i] = (wild.feedback[i] ?? 0) + 4 * Math.sin((wild.time[i] ?? 0) / 4) * ((wild.time[i] ?? 0) > 10 ? 1 : 0);
    expect(stepTest(wild)).toMatchObject({ ok: false, why: 'disturbed' });
  });
});
