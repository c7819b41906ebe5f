import fc from 'fast-check';
import {
  awake,
  GuardAction,
  guardKinds,
  NoFlowSource,
  runsThrough,
  stepSleep,
  tripCauses,
  type CleaningSettings,
  type Guard,
  type GuardKind,
  type GuardSettings,
  type SleepSettings,
} from '../src';
import {
  beginFill,
  cleaningSpeed,
  filterClogged,
  guardSees,
  restFor,
  restingCleaning,
  restingFill,
  restingGuards,
  rests,
  shutLoadAt,
  stepCleaning,
  stepFill,
  stepGuards,
  usualLoad,
  type GuardFacts,
} from '../src/controls/firmware';

const never: Guard = { level: 0, delay: 0, action: GuardAction.trip };
const watching = (guards: Partial<Record<GuardKind, Partial<Guard>>>, more: Partial<GuardSettings> = {}): GuardSettings => ({
  guards: Object.fromEntries(guardKinds.map((k) => [k, { ...never, ...guards[k] }])) as GuardSettings['guards'],
  noFlowSource: NoFlowSource.either,
  shutLoad: 0.5,
  curve: [0, 0, 0],
  rest: 60,
  tries: 2,
  filter: { cleanAir: 0, level: 0, delay: 10 },
  ...more,
});
const running: GuardFacts = { frequency: 40, atSpeed: true, torque: 0.6, feedback: 42, flow: true, motorFrequency: 50, maximumFrequency: 50 };
/** s until the guards act; null when they do not within the time. */
function until(s: GuardSettings, f: GuardFacts, seconds = 30): { at: number; act: string; kind: string } | null {
  const state = restingGuards();
  for (let t = 0; t < seconds; t += 0.1) {
    const verdict = stepGuards(state, s, f, 0.1);
    if (verdict) return { at: t, ...verdict };
  }
  return null;
}

describe('guards', () => {
  // affinity laws: torque ∝ n² at the same valve; a pump against a shut valve at half speed takes a quarter
  test('without a flow switch, no flow is told from the load against a shut valve, which goes with the square of the speed', () => {
    const s = watching({ noFlow: { delay: 5 } });
    expect(shutLoadAt(s, 25, 50)).toBeCloseTo(0.125, 12);
    for (const frequency of [20, 30, 45]) {
      const shut = 0.5 * (frequency / 50) ** 2;
      expect(until(s, { ...running, flow: null, frequency, torque: 1.02 * shut })).toMatchObject({ act: 'trip', kind: 'noFlow' });
      expect(until(s, { ...running, flow: null, frequency, torque: 1.3 * shut })).toBeNull();
    }
    // while it gathers speed the torque tells nothing
    expect(until(s, { ...running, flow: null, atSpeed: false, torque: 0.1 })).toBeNull();
  });

  test('a switch tells it whatever the load, where it is asked; each guard waits for its delay', () => {
    const s = watching({ noFlow: { delay: 5 } }, { noFlowSource: NoFlowSource.flowSwitch });
    expect(until(s, { ...running, flow: false })?.at).toBeCloseTo(5, 0);
    expect(until(s, { ...running, flow: null, torque: 0.01 })).toBeNull();
    expect(until(watching({ noFlow: { delay: 0 } }), { ...running, flow: false })).toBeNull();
  });

  test('dry comes before no flow: both see it, the surer one acts', () => {
    const s = watching({ noFlow: { delay: 8 }, dryRun: { level: 0.5, delay: 3 } });
    expect(until(s, { ...running, torque: 0.04 })).toMatchObject({ kind: 'dryRun' });
    expect(until(s, { ...running, torque: 0.3 })).toMatchObject({ kind: 'noFlow' });
  });

  test('loads are held against the usual one over speed; the parabola goes through what was measured', () => {
    const s = watching({ highLoad: { level: 1.3, delay: 2 }, lowLoad: { level: 0.6, delay: 2 } }, { curve: [0.2, 0.4, 0.9] });
    for (const [share, load] of [
      [1 / 3, 0.2],
      [2 / 3, 0.4],
      [1, 0.9],
    ] as const)
      expect(usualLoad(s, share)).toBeCloseTo(load, 12);
    const at = (frequency: number, times: number) => until(s, { ...running, frequency, torque: times * (usualLoad(s, frequency / 50) ?? 0) })?.kind;
    expect([20, 35, 50].map((f) => at(f, 1.4))).toEqual(['highLoad', 'highLoad', 'highLoad']);
    expect([20, 35, 50].map((f) => at(f, 0.5))).toEqual(['lowLoad', 'lowLoad', 'lowLoad']);
    expect([20, 35, 50].map((f) => at(f, 1))).toEqual([undefined, undefined, undefined]);
    expect(guardSees('highLoad', watching({ highLoad: { level: 1.3 } }), { ...running, torque: 1.4 })).toBe(true);
  });

  test('pressures are shares of the range; a guard that only warns goes on, one that rests tries again so often and no oftener', () => {
    expect(until(watching({ highPressure: { level: 0.5, delay: 1 } }), { ...running, feedback: 51 })?.kind).toBe('highPressure');
    expect(until(watching({ lowPressure: { level: 0.2, delay: 1 } }), { ...running, feedback: 19 })?.kind).toBe('lowPressure');
    const warns = watching({ highPressure: { level: 0.5, delay: 1, action: GuardAction.warn } });
    const state = restingGuards();
    for (let t = 0; t < 3; t += 0.1) expect(stepGuards(state, warns, { ...running, feedback: 60 }, 0.1)).toBeNull();
    expect(state.warns).toEqual(['highPressure']);
    stepGuards(state, warns, { ...running, feedback: 40 }, 0.1);
    expect(state.warns).toEqual([]);

    const tries = watching({ dryRun: { level: 0.5, delay: 1, action: GuardAction.rest } });
    const dry = { ...running, torque: 0.02 };
    const guard = restingGuards();
    const acts: string[] = [];
    for (let i = 0; i < 3; i++) {
      let verdict = null;
      while (!verdict) verdict = stepGuards(guard, tries, dry, 0.1);
      acts.push(verdict.act);
      if (verdict.act === 'rest') restFor(guard, tries, verdict.kind);
      let rested = 0;
      while (rests(guard, 1)) rested++;
      if (verdict.act === 'rest') expect(rested).toBeGreaterThanOrEqual(58);
    }
    expect(acts).toEqual(['rest', 'rest', 'trip']);
  });

  // fan laws: pressure through the same ductwork goes with the square of the speed
  test('a filter is told as clogged when less than its share of the clean pressure is left at the same speed', () => {
    const s = watching({}, { filter: { cleanAir: 0.8, level: 0.7, delay: 1 } });
    expect(filterClogged(s, { ...running, frequency: 50, feedback: 60 })).toBe(false);
    expect(filterClogged(s, { ...running, frequency: 50, feedback: 50 })).toBe(true);
    expect(filterClogged(s, { ...running, frequency: 25, feedback: 15 })).toBe(false);
    expect(filterClogged(s, { ...running, frequency: 25, feedback: 13 })).toBe(true);
  });
});

describe('cleaning', () => {
  const s: CleaningSettings = { strokes: 2, frequency: 25, time: 4, every: 0, atStart: false, atLoad: true, most: 2 };
  const cause = { start: false, contact: false, load: false };
  const through = (state = restingCleaning()) => {
    const speeds: number[] = [];
    let now = stepCleaning(state, s, { ...cause, load: true }, true, 0.1);
    while (now === 'cleans') {
      speeds.push(cleaningSpeed(state, s));
      now = stepCleaning(state, s, cause, true, 0.1);
    }
    return { now, speeds };
  };
  test('goes backward first, each way its time, and is over after its strokes', () => {
    const { now, speeds } = through();
    expect(now).toBe('no');
    expect(speeds[0]).toBe(-25);
    expect(speeds.filter((v, i) => v !== speeds[i - 1])).toEqual([-25, 25, -25, 25]);
    expect(speeds.length / 10).toBeCloseTo(16, 0);
  });
  test('a contact cleans once for each press; cleaned too often within the hour, it is blocked', () => {
    const state = restingCleaning();
    expect(stepCleaning(state, s, { ...cause, contact: true }, true, 0.1)).toBe('cleans');
    while (state.left > 0) stepCleaning(state, s, { ...cause, contact: true }, true, 0.1);
    expect(stepCleaning(state, s, { ...cause, contact: true }, true, 0.1)).toBe('no');
    through(state);
    expect(through(state).now).toBe('blocked');
    for (let t = 0; t < 3700; t++) stepCleaning(state, s, cause, true, 1);
    expect(through(state).now).toBe('no');
  });
  test('a way that never gets to its speed ends all the same', () => {
    const state = restingCleaning();
    stepCleaning(state, s, { ...cause, load: true }, false, 0.1);
    let t = 0;
    for (; state.left > 0 && t < 1000; t += 0.1) stepCleaning(state, s, cause, false, 0.1);
    expect(t).toBeCloseTo(4 * (60 + s.time), 0);
  });
});

test('an empty pipe is filled until it is full, and no longer than it may', () => {
  const s = { frequency: 30, level: 0.1, time: 60 };
  const state = restingFill();
  beginFill(state, s, 15);
  expect(stepFill(state, s, 15, 1)).toBe('no');
  beginFill(state, s, 2);
  expect(stepFill(state, s, 5, 1)).toBe('fills');
  expect(stepFill(state, s, 10, 1)).toBe('no');
  beginFill(state, s, 2);
  for (let t = 0; t < 60; t++) expect(stepFill(state, s, 5, 1)).toBe('fills');
  expect(stepFill(state, s, 5, 1)).toBe('late');
});

test('what breaks a drive at once, and safe torque off, no emergency runs through', () => {
  const hard = ['overcurrent', 'overvoltage', 'undervoltage', 'earthFault', 'stoDiscrepancy', 'settingsConflict'] as const;
  for (const cause of tripCauses) {
    expect(runsThrough(0, cause)).toBe(false);
    // what a lower step runs through, a higher one does as well
    if (runsThrough(1, cause)) expect(runsThrough(2, cause)).toBe(true);
  }
  for (const cause of hard) expect([runsThrough(1, cause), runsThrough(2, cause)]).toEqual([false, false]);
  expect([runsThrough(1, 'motorOverload'), runsThrough(2, 'motorOverload')]).toEqual([false, true]);
});

describe('sleep', () => {
  const s: SleepSettings = { frequency: 30, delay: 5, wakeFall: 4, wakeDelay: 1, boost: 3, boostTime: 20, leastRun: 60, leastRest: 30 };
  const go = (state = awake(), frequency: number, shortfall: number, seconds: number) => {
    for (let t = 0; t < seconds - 0.05; t += 0.1) stepSleep(state, s, frequency, shortfall, 0.1);
    return state;
  };
  test('runs and rests as long as it must', () => {
    const state = go(awake(), 25, 0, 59);
    expect([state.asleep, state.boosting]).toEqual([false, false]);
    go(state, 25, 0, 2);
    expect(state.boosting).toBe(true);
    go(state, 45, -3, 0.2);
    expect(state.asleep).toBe(true);
    go(state, 0, 10, 28);
    expect(state.asleep).toBe(true);
    go(state, 0, 10, 3);
    expect(state.asleep).toBe(false);
  });
  test('boosts no longer than it may, and not at all while somebody draws', () => {
    const boosting = () => go(go(awake(), 40, 0, 60), 20, 0, 9);
    expect(go(boosting(), 45, -1, 10).boosting).toBe(true);
    expect(go(boosting(), 45, -1, 21).asleep).toBe(true);
    const drawn = go(boosting(), 45, 3, 0.5);
    expect([drawn.asleep, drawn.boosting, drawn.wakes]).toEqual([false, false, 0]);
  });
  test('never sleeps with no sleep speed, whatever happens', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.double({ min: 0, max: 60, noNaN: true }), fc.double({ min: -20, max: 20, noNaN: true }))), (steps) => {
        const state = awake();
        for (const [f, short] of steps) expect(stepSleep(state, { ...s, frequency: 0 }, f, short, 10)).toBe(false);
      }),
    );
  });
});
