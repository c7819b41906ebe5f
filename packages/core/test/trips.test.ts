import {
  busAtRest,
  DriveState,
  present,
  StartMode,
  statusWord,
  tripCauses,
  type ControlSettings,
  type DriveParameters,
  type TripCause,
} from '../src';
import {
  after,
  causes,
  diagnose,
  entropyOf,
  informationGain,
  likelihood,
  marginsOf,
  measurements,
  nearestOf,
  noneOfThese,
  noSnapshot,
  observations,
  tellsNothing,
  usually,
  type Before,
  type Snapshot,
  type TripCase,
} from '../src/trips';
import { drive, rating } from './tripFixture';

const noGuard = { level: 0, delay: 5, action: 0 };
const controls = {
  process: { setpoint: { stored: 40 } },
  fill: { time: 60 },
  guards: {
    guards: Object.fromEntries(['dryRun', 'noFlow', 'highLoad', 'lowLoad', 'highPressure', 'lowPressure'].map((k) => [k, noGuard])),
    shutLoad: 0,
    curve: [0, 0, 0],
  },
} as unknown as ControlSettings;

const running = statusWord(DriveState.operationEnabled, false);
function tripOf(
  cause: TripCause | null,
  change: Partial<TripCase> = {},
  snapshot: Partial<Snapshot> = {},
  settings: Partial<DriveParameters> = {},
): TripCase {
  return {
    cause,
    snapshot: { ...noSnapshot(), status: running, ...snapshot },
    ...{ trace: null, trend: null, afterwards: null, repeats: null, others: null, answers: {} },
    machine: {
      ...{ kind: 'pump', drive: { ...drive, ...settings }, controls, rating, spec: null, external: null },
      plate: { current: 10, frequency: 50, voltage: 400, torque: 30 },
      supply: { voltage: 400 },
    },
    ...change,
  };
}
const first = (c: TripCase): string => present(diagnose(c).ranked[0]).id;
/** Two seconds at 1 ms, each channel a function of the time, which ends at 0. */
function traceOf(channels: Record<string, (t: number) => number>): Before {
  const time = Array.from({ length: 2000 }, (_, i) => (i - 1999) / 1000);
  return { time, channels: Object.fromEntries(Object.entries(channels).map(([k, f]) => [k, time.map(f)])) };
}

describe('the library', () => {
  const known = new Set<string>([...Object.keys(observations), ...Object.keys(measurements)]);
  test('every outcome that is expected is one that can be seen, and shares add up', () => {
    for (const [id, all] of Object.entries(usually)) {
      expect(known.has(id)).toBe(true);
      expect([id, Object.values(all).reduce((a, p) => a + p, 0)]).toEqual([id, expect.closeTo(1, 6)]);
    }
    expect(new Set(Object.keys(usually))).toEqual(known);
    for (const c of causes)
      for (const [id, own] of Object.entries(c.expects)) {
        expect([c.id, id, Object.keys(own).filter((o) => usually[id as keyof typeof usually][o] === undefined)]).toEqual([c.id, id, []]);
        expect([c.id, id, Object.values(own).reduce((a, p) => a + p, 0) <= 1 + 1e-9]).toEqual([c.id, id, true]);
      }
    expect(new Set(causes.map((c) => c.id)).size).toBe(causes.length);
  });
  test('every trip has several causes, and something to measure where they differ', () => {
    for (const trip of tripCauses) {
      const of = causes.filter((c) => c.trips.includes(trip));
      expect([trip, of.length >= 2]).toEqual([trip, true]);
    }
  });
  test('likelihoods of an outcome add up to one for every cause', () => {
    for (const c of causes)
      for (const id of Object.keys(c.expects) as Array<keyof typeof usually>) {
        const sum = Object.keys(usually[id]).reduce((a, o) => a + likelihood(c, id, o), 0);
        expect([c.id, id, Math.abs(sum - 1) < 0.05]).toEqual([c.id, id, true]);
      }
  });
});

describe('information', () => {
  // a symmetric binary channel of error e over even odds gives 1 − H(e) bits (Cover and Thomas, Elements of Information Theory, 7.1.4)
  test.each([0, 0.1, 0.25, 0.5])('a test that is wrong in %p of the cases gives what the closed form says', (e) => {
    const h = entropyOf([e, 1 - e]);
    expect(
      informationGain(
        [0.5, 0.5],
        [
          [1 - e, e],
          [e, 1 - e],
        ],
      ),
    ).toBeCloseTo(1 - h, 9);
  });
  test('uneven odds: prior entropy less the mean entropy after, worked out by hand', () => {
    // p = (0.8, 0.2), outcome A under them 0.9 and 0.3: P(A) = 0.78, after A (12/13, 1/13), after B (4/11, 7/11)
    const hand = entropyOf([0.8, 0.2]) - 0.78 * entropyOf([12 / 13, 1 / 13]) - 0.22 * entropyOf([4 / 11, 7 / 11]);
    expect(
      informationGain(
        [0.8, 0.2],
        [
          [0.9, 0.3],
          [0.1, 0.7],
        ],
      ),
    ).toBeCloseTo(hand, 9);
    expect(after([0.8, 0.2], [0.9, 0.3])[0]).toBeCloseTo(12 / 13, 9);
    expect(
      informationGain(
        [0.5, 0.5],
        [
          [0.4, 0.4],
          [0.6, 0.6],
        ],
      ),
    ).toBe(0);
  });
});

describe('overvoltage', () => {
  const slow = { outputFrequency: 30, reference: 0, torque: -60, busVoltage: 805, motorCurrent: 9, since: 60 };
  test('on the way down and braking: the stop; with a chopper that cannot act: the chopper; with one that acts and a bus that rises on: its resistor', () => {
    expect(first(tripOf('overvoltage', {}, slow))).toBe('stop too short');
    expect(first(tripOf('overvoltage', {}, slow, { chopper: 1, chopperLevel: 820 }))).toBe('chopper never acts');
    const climbs = traceOf({ busVoltage: (t) => Math.min(805, 805 + 900 * t), torque: () => -60, outputFrequency: (t) => 30 - 15 * t });
    const c = tripOf('overvoltage', { trace: climbs }, slow, { chopper: 1, chopperLevel: 740 });
    expect(first(c)).toBe('resistor open');
    // √2 · 400 V is 566 V at rest
    expect(busAtRest({ voltage: 400 })).toBeCloseTo(565.7, 1);
  });
  test('a jump with more power than the motor has is a surge', () => {
    const jump = traceOf({ busVoltage: (t) => (t < -0.004 ? 540 : 805 + 60_000 * t), torque: () => 45, outputFrequency: () => 45 });
    expect(first(tripOf('overvoltage', { trace: jump }, { ...slow, reference: 45, outputFrequency: 45, torque: 45 }))).toBe('surge on the line');
  });
  test('the one measurement is the one that tells the likeliest two apart, and its answer turns the order', () => {
    const c = tripOf('overvoltage', {}, { ...slow, torque: null });
    const d = diagnose(c);
    expect(d.next.map((n) => n.id)).toContain('lineVoltage');
    expect(d.next[0]?.worth).toBeGreaterThanOrEqual(d.next.at(-1)?.worth ?? 0);
    const high = diagnose({ ...c, answers: { lineVoltage: 'high' } });
    expect(present(high.ranked.find((r) => r.id === 'line high')).probability).toBeGreaterThan(
      3 * present(d.ranked.find((r) => r.id === 'line high')).probability,
    );
    expect(high.next.map((n) => n.id)).not.toContain('lineVoltage');
    expect(high.entropy).toBeGreaterThan(0);
  });
});

describe('other trips', () => {
  test('current that no reading followed is a short; current and torque that grow together are a jam', () => {
    const at = { outputFrequency: 45, reference: 45, busVoltage: 540, since: 300 };
    const flat = traceOf({ motorCurrent: () => 7, torque: () => 60, outputFrequency: () => 45, busVoltage: () => 540 });
    expect(first(tripOf('overcurrent', { trace: flat }, { ...at, motorCurrent: 7, torque: 60 }, { earthFault: 1 }))).toBe('short in the cable');
    const grows = traceOf({
      motorCurrent: (t) => (t < -0.02 ? 7 : 7 + 700 * (t + 0.02)),
      torque: (t) => (t < -0.02 ? 60 : 60 + 5000 * (t + 0.02)),
      outputFrequency: () => 45,
      busVoltage: () => 540,
    });
    expect(first(tripOf('overcurrent', { trace: grows }, { ...at, motorCurrent: 22, torque: 160 }, { earthFault: 1 }))).toBe('jam');
  });
  test('an overload set below the plate is told from a machine that turns hard', () => {
    const at = { outputFrequency: 48, reference: 48, motorCurrent: 8.5, since: 900, motorHeat: 100 };
    expect(first(tripOf('motorOverload', {}, at, { overloadCurrent: 6 }))).toBe('overload set low');
    const c = tripOf('motorOverload', {}, { ...at, motorCurrent: 15 });
    // of a pump that turns hard it is the wheel more often than a bearing, until somebody has looked at the wheel
    expect(first({ ...c, answers: { turnByHand: 'turns hard' } })).toBe('rags');
    expect(first({ ...c, answers: { turnByHand: 'turns hard', wheel: 'clear' } })).toBe('turns hard');
  });
  test('a supply that was gone, a signal that is gone, a time-out that is short', () => {
    const gone = { silent: 4, busVoltage: 560, signal: 40 };
    expect(first(tripOf('undervoltage', { afterwards: gone }))).toBe('supply gone');
    expect(first(tripOf('undervoltage', { afterwards: { ...gone, silent: 0 } }))).toBe('supply dip');
    expect(first(tripOf('liveZeroLoss', {}, { analogueInput: -25 }))).toBe('signal wire broken');
    expect(first(tripOf('linkLoss', {}, {}, { linkTimeout: 0.2 }))).toBe('time-out too short');
    expect(first(tripOf('stoDiscrepancy', {}, { inputs: 1 << 14 }))).toBe('one channel open');
  });
  test('a single cause is no certainty, and nothing that speaks against it is turned into evidence for it', () => {
    const d = diagnose(tripOf('overspeed', {}, { outputFrequency: 48, reference: 48, torque: 60 }, { overspeedLevel: 1.15 }));
    const low = present(d.ranked.find((r) => r.id === 'overspeed level low'));
    expect(low.probability).toBeLessThan(0.5);
    expect(low.evidence.filter((e) => e.id === 'overspeedLevel' && e.bits > 0)).toEqual([]);
    expect(d.ranked.map((r) => r.id)).toContain('turned by what it moves');
  });
  test('none of these is always among the causes, and first where nothing fits', () => {
    for (const trip of tripCauses) expect(diagnose(tripOf(trip)).ranked.map((r) => r.id)).toContain(noneOfThese);
    // no chopper, a sound stop, nothing high: no cause of an overvoltage at a standstill that is left
    const odd = tripOf('overvoltage', {
      answers: {
        moment: 'running',
        torque: 'motoring',
        line: 'right',
        lineVoltage: 'right',
        busRise: 'was high',
        stop: 'long enough',
        supplyHistory: 'nothing seen',
        swings: 'steady',
      },
    });
    expect(diagnose(odd).ranked[0]?.id).toBe(noneOfThese);
  });
  test('an overload that acts after hours at seven tenths of the current is no short, nor one set too low', () => {
    const at = { outputFrequency: 48, reference: 48, motorCurrent: 7, since: 15_000, motorHeat: 100 };
    const of = (set: number) => diagnose(tripOf('motorOverload', {}, at, { overloadCurrent: set })).ranked;
    expect(of(10)[0]?.id).not.toBe('short in the cable');
    expect(present(of(11.9).find((r) => r.id === 'overload set low')).probability).toBeLessThan(0.15);
    expect(of(11.9)[0]?.id).not.toBe('overload set low');
  });
  test('a hand that could not lift the brake tells nothing', () => {
    const c = tripOf('stall', {}, { outputFrequency: 2, reference: 20, motorCurrent: 15, since: 2 });
    const of = (answers: Record<string, string>) => diagnose({ ...c, answers }).ranked.map((r) => [r.id, r.probability]);
    expect(of({ turnByHand: tellsNothing })).toEqual(of({}));
    expect(of({ turnByHand: 'does not turn' })).not.toEqual(of({}));
  });
  test('a start into a fan that still turns', () => {
    const c = tripOf('overcurrent', {}, { outputFrequency: 3, reference: 45, motorCurrent: 28, torque: -80, since: 0.4 });
    const fan = { ...c, machine: { ...c.machine, kind: 'fan' as const } };
    expect(first({ ...fan, answers: { turnByHand: 'turns freely', motorLeads: 'sound' } })).toBe('starts into a turning machine');
    const catches = { ...fan, machine: { ...fan.machine, drive: { ...fan.machine.drive, startMode: StartMode.catchSpinning } } };
    expect(diagnose(catches).ranked.map((r) => r.id)).not.toContain('starts into a turning machine');
  });
  test('words alone: nobody has read the display, and it is said how little is known', () => {
    const d = diagnose(tripOf(null, { answers: { moment: 'stopping' } }));
    expect(d.ranked.length).toBeGreaterThan(30);
    expect(d.ranked.slice(0, 6).map((r) => r.trip)).toContain('overvoltage');
    expect(present(d.ranked[0]).probability).toBeLessThan(0.5);
    expect(d.entropy).toBeGreaterThan(2);
  });
});

test('how near a machine is to each trip, the nearest first', () => {
  const facts = { busVoltage: 700, motorCurrent: 15, motorHeat: 40, driveTemperature: 45 };
  const [nearest, second] = marginsOf(facts, rating, { voltage: 400 });
  expect(nearest).toMatchObject({ kind: 'busHigh', level: 800 });
  expect(nearest?.used).toBeCloseTo((700 - 565.7) / (800 - 565.7), 3);
  expect(second).toMatchObject({ kind: 'current', used: 0.5 });
  const [low] = marginsOf({ ...facts, busVoltage: 400, motorCurrent: 1 }, rating, { voltage: 400 });
  expect(low?.kind).toBe('busLow');
  expect(nearestOf([facts, { ...facts, motorHeat: 99 }], rating, { voltage: 400 })[0]).toMatchObject({ kind: 'motorHeat', value: 99 });
  expect(nearestOf([], rating, { voltage: 400 })).toEqual([]);
});
