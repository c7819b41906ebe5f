import { present, random, restingPid, stepPid, type PidSettings } from '../src';
import { marginsOf, restingModel, simc, stepModel, swingingOf, type LoopRecord, type PidGains, type ProcessModel } from '../src/loop';

const process: ProcessModel = { kind: 'settling', gain: 1, lags: [4, 0], deadTime: 1 };
const dt = 0.05;

interface Around {
  /** % in which the feedback comes */
  step?: number;
  noise?: number;
  /** % of output that something sticks by: it follows once the output is so far away (one-parameter model: Stenman, Gustafsson, Forsman 2003) */
  stuck?: number;
  /** period in s and size of something from outside that swings */
  outside?: { period: number; size: number };
  seconds?: number;
  /** % of output a second of the drive's ramp */
  ramp?: number;
}

/** A loop in its record, begun 2 % off its set point. */
function recordOf(g: PidGains, { step = 0, noise = 0, stuck = 0, outside, seconds = 120, ramp = Infinity }: Around = {}, seed = 1): LoopRecord {
  const r = random(seed);
  const settings: PidSettings = {
    ...{
      proportionalGain: g.gain,
      integralTime: g.integralTime,
      derivativeTime: 0,
      setpointWeight: 1,
      reverse: false,
      outputLow: -50,
      outputHigh: 50,
    },
  };
  const state = restingModel(process, dt);
  const pid = restingPid(0);
  const out = { time: [] as number[], output: [] as number[], feedback: [] as number[] };
  let [y, acts, ramped] = [0, 0, 0];
  for (let i = 0; i * dt < seconds; i++) {
    const seen = y + noise * r.normal();
    const told = step > 0 ? Math.round(seen / step) * step : seen;
    const asked = stepPid(pid, settings, 2.03, told, dt);
    ramped += Math.max(-ramp * dt, Math.min(ramp * dt, asked - ramped));
    const u = ramped;
    if (Math.abs(u - acts) > stuck) acts = u;
    y = stepModel(state, process, acts, dt) + (outside ? outside.size * Math.sin((2 * Math.PI * i * dt) / outside.period) : 0);
    if (i % 2 === 0) {
      out.time.push(i * dt);
      out.output.push(50 + u);
      out.feedback.push(40 + told);
    }
  }
  return out;
}

const firm = simc(process, 1);
const times = (by: number): PidGains => ({ ...firm, gain: firm.gain * by });
/** s of the swing at the limit: L = e^(−jw) / jw at 2 gains of SIMC has −180° at w = π/2 */
const ultimate = 4;

describe('a loop that swings', () => {
  test('is not one that settles, nor one that is only noisy', () => {
    expect(swingingOf(recordOf(firm))).toBeNull();
    for (let seed = 1; seed <= 8; seed++) expect(swingingOf(recordOf(firm, { noise: 0.3 }, seed))).toBeNull();
  });

  // gain margin of SIMC on a lag: π (Skogestad 2003, table 1); at it the loop swings with four dead times
  test('too tight: its period, and whether it grows, on either side of the gain margin', () => {
    const { gainMargin } = marginsOf(process, firm);
    for (const [by, grows] of [
      [0.97, false],
      [1.05, true],
    ] as const)
      for (let seed = 1; seed <= 5; seed++) {
        const s = swingingOf(recordOf(times(by * gainMargin), { noise: 0.02, seconds: 60 }, seed), times(by * gainMargin));
        expect(s).toMatchObject({ cause: 'too tight' });
        expect((s?.period ?? 0) / ultimate).toBeCloseTo(1, 1);
        expect((s?.growth ?? 0) > 1).toBe(grows);
      }
  });

  test('its cure calms it, for loops too firm by their gain, their integral, or both', () => {
    for (const now of [times(3.1), { gain: 2, integralTime: 0.62, derivativeTime: 0 }, { gain: 4.6, integralTime: 1.8, derivativeTime: 0 }]) {
      const s = swingingOf(recordOf(now, { seconds: 25 }), now);
      expect(s?.cure).toBeTruthy();
      const calm = marginsOf(process, s?.cure ?? now);
      expect(calm.stable).toBe(true);
      expect(calm.sensitivity).toBeLessThan(2.2);
    }
  });

  test('because something sticks: the output goes in straight lines, and no values cure it', () => {
    for (const gain of [0.6, 1, 2])
      expect(swingingOf(recordOf({ ...firm, gain }, { stuck: 4, seconds: 400 }))).toMatchObject({ cause: 'sticks', cure: null });
  });

  test('because the ramp is slower than the controller: no valve that sticks, and values within the ramp cure it', () => {
    for (const ramp of [1, 2, 4])
      for (const now of [
        { gain: 6, integralTime: 2, derivativeTime: 0 },
        { gain: 3, integralTime: 0.8, derivativeTime: 0 },
        { gain: 10, integralTime: 4, derivativeTime: 0 },
      ]) {
        const s = swingingOf(recordOf(now, { ramp, seconds: 400, noise: 0.02 }), now, ramp);
        expect([ramp, now, s?.cause]).toEqual([ramp, now, 'ramp']);
        const cured = present(s?.cure);
        expect([ramp, now, cured, swingingOf(recordOf(cured, { ramp, seconds: 400, noise: 0.02 }), cured, ramp)]).toEqual([ramp, now, cured, null]);
      }
  });

  test('what sticks is told as such whatever ramp is in force', () => {
    for (const gain of [0.6, 1, 2])
      expect(swingingOf(recordOf({ ...firm, gain }, { stuck: 4, seconds: 400 }), null, 10)).toMatchObject({ cause: 'sticks' });
  });

  test('because its feedback comes in steps', () => {
    expect(swingingOf(recordOf(firm, { step: 3, seconds: 400 }), firm)).toMatchObject({ cause: 'coarse feedback', cure: null });
  });

  test('from outside, while the output stands', () => {
    const still = { gain: 0.001, integralTime: 1000, derivativeTime: 0 };
    const s = swingingOf(recordOf(still, { outside: { period: 9, size: 1.5 } }));
    expect(s).toMatchObject({ cause: 'outside' });
    expect(s?.period).toBeCloseTo(9, 0);
    expect(s?.feedback).toBeCloseTo(1.5, 1);
    expect(s?.growth).toBeCloseTo(1, 1);
  });

  test('that has come to rest since is told no more', () => {
    const now = { gain: 4.6, integralTime: 1.8, derivativeTime: 0 };
    expect(swingingOf(recordOf(now, { seconds: 25 }), now)).not.toBeNull();
    expect(swingingOf(recordOf(now, { seconds: 90 }), now)).toBeNull();
  });

  test('too short a record says nothing', () => {
    expect(swingingOf(recordOf(times(3.2), { seconds: 7 }))).toBeNull();
  });
});
