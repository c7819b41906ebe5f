import { DriveState, statusWord, type ControlSettings, type DriveParameters, type MachineSpec, type TripCause } from '../src';
import { noSnapshot, observe, type Before, type ObservationId, type Snapshot, type TripCase, type TrippedMachine } from '../src/trips';
import { demoDraft, demoMachine } from '@yare/demo-plant';
import { specOf } from '@yare/commissioning';
import { drive, rating } from './tripFixture';
import { present } from '../src';
import { topOf } from '../src/trips/look';

const guardsOf = (change: object = {}, more: object = {}): ControlSettings =>
  ({
    process: { setpoint: { stored: 40 } },
    fill: { time: 60 },
    guards: {
      guards: {
        ...Object.fromEntries(
          ['dryRun', 'noFlow', 'highLoad', 'lowLoad', 'highPressure', 'lowPressure'].map((k) => [k, { level: 0, delay: 5, action: 0 }]),
        ),
        ...change,
      },
      ...{ shutLoad: 0, curve: [0, 0, 0] },
      ...more,
    },
  }) as unknown as ControlSettings;
const base: TrippedMachine = {
  ...{ kind: 'pump' as const, drive, controls: guardsOf(), rating, spec: null, external: null },
  plate: { current: 10, frequency: 50, voltage: 400, torque: 30 },
  supply: { voltage: 400 },
};
const on = statusWord(DriveState.operationEnabled, false);

interface Given {
  cause?: TripCause;
  snapshot?: Partial<Snapshot>;
  trace?: Before;
  trend?: Before;
  machine?: Partial<TrippedMachine>;
  drive?: Partial<DriveParameters>;
  more?: Partial<TripCase>;
}
function outcome(
  id: ObservationId,
  { cause = 'overvoltage', snapshot = {}, trace, trend, machine = {}, drive: set = {}, more = {} }: Given,
): string | null {
  const c: TripCase = {
    ...{ cause, snapshot: { ...noSnapshot(), status: on, ...snapshot }, trace: trace ?? null, trend: trend ?? null },
    ...{ afterwards: null, repeats: null, others: null, answers: {} },
    machine: { ...base, drive: { ...drive, ...set }, ...machine },
    ...more,
  };
  return observe(c)[id]?.outcome ?? null;
}
const made = (n: number, step: number, channels: Record<string, (t: number) => number>): Before => {
  const time = Array.from({ length: n }, (_, i) => (i - n + 1) * step);
  return { time, channels: Object.fromEntries(Object.entries(channels).map(([k, f]) => [k, time.map(f)])) };
};
/** Two seconds of a drive at 1 ms, minutes of a link at 1 s. */
const trace = (channels: Record<string, (t: number) => number>): Before => made(2000, 0.001, channels);
const trend = (channels: Record<string, (t: number) => number>): Before => made(120, 1, channels);

describe('what the machine was doing', () => {
  test.each<[string, Given, string | null]>([
    ['not enabled', { snapshot: { status: statusWord(DriveState.ready, false), outputFrequency: 0, reference: 0 } }, 'standing'],
    ['nothing asked any more', { snapshot: { outputFrequency: 20, reference: 0 } }, 'stopping'],
    ['faster than what is asked', { snapshot: { outputFrequency: 40, reference: 20 } }, 'stopping'],
    ['there', { snapshot: { outputFrequency: 40, reference: 40 } }, 'running'],
    ['slower, and never was there', { snapshot: { outputFrequency: 10, reference: 40, since: 2 } }, 'starting'],
    ['slower, long after its run-up', { snapshot: { outputFrequency: 10, reference: 40, since: 60 } }, 'running'],
    [
      'slower, and had been there',
      { snapshot: { outputFrequency: 10, reference: 40, since: 30 }, trend: trend({ outputFrequency: (t) => (t < -5 ? 40 : 12) }) },
      'running',
    ],
    ['backward on the way down', { snapshot: { outputFrequency: -30, reference: 0 } }, 'stopping'],
    ['nobody knows', { snapshot: { outputFrequency: null, reference: null } }, null],
  ])('%s', (_name, given, is) => expect(outcome('moment', given)).toBe(is));
});

describe('bus and supply', () => {
  const bus = (f: (t: number) => number, torque = 50): Before => trace({ busVoltage: f, torque: () => torque, outputFrequency: () => 40 });
  test.each<[ObservationId, string, Given, string | null]>([
    ['torque', 'pushed by its load', { snapshot: { torque: -40, outputFrequency: 30 } }, 'braking'],
    ['torque', 'pushed while it turns backward', { snapshot: { torque: 40, outputFrequency: -30 } }, 'braking'],
    ['torque', 'hardly any', { snapshot: { torque: 3, outputFrequency: 30 } }, 'little'],
    ['busRise', 'high all along', { trace: bus(() => 790) }, 'was high'],
    ['busRise', 'at once: 30 kW into the capacitor of a 4.5 kW motor', { trace: bus((t) => (t < -0.003 ? 540 : 805)) }, 'at once'],
    ['busRise', 'as a machine gives back', { trace: bus((t) => Math.min(805, 805 + 800 * t)) }, 'climbs'],
    ['line', 'right', { trend: trend({ busVoltage: () => 545, torque: () => 50, outputFrequency: () => 40 }) }, 'right'],
    ['line', 'high', { trend: trend({ busVoltage: () => 660, torque: () => 50, outputFrequency: () => 40 }) }, 'high'],
    ['line', 'low at last', { trend: trend({ busVoltage: (t) => (t < -20 ? 545 : 470), torque: () => 50, outputFrequency: () => 40 }) }, 'low'],
    [
      'line',
      'what is given back tells nothing of the supply',
      { trend: trend({ busVoltage: (t) => (t > -30 ? 700 : 545), torque: (t) => (t > -30 ? -50 : 50), outputFrequency: () => 40 }) },
      'right',
    ],
    ['busFall', 'the supply went', { cause: 'undervoltage', trace: bus((t) => (t < -0.05 ? 540 : 380)) }, 'at once'],
    ['busFall', 'little by little', { cause: 'undervoltage', trace: bus((t) => (t < -0.6 ? 540 : 540 + (160 * (-0.6 - t)) / 0.6)) }, 'slowly'],
    ['busFall', 'low before', { cause: 'undervoltage', trace: bus(() => 400) }, 'was low'],
    ['afterwards', 'back', { more: { afterwards: { silent: 0, busVoltage: 560, signal: 0 } } }, 'back'],
    ['afterwards', 'gone for seconds', { more: { afterwards: { silent: 4, busVoltage: 560, signal: 0 } } }, 'was gone'],
    ['afterwards', 'still low', { more: { afterwards: { silent: 0, busVoltage: 420, signal: 0 } } }, 'still low'],
    ['afterwards', 'a bus nothing feeds', { more: { afterwards: { silent: 0, busVoltage: 280, signal: 0 } } }, 'empty'],
    ['silence', 'a gap', { cause: 'linkLoss', more: { afterwards: { silent: 5, busVoltage: 560, signal: 0 } } }, 'gap'],
    ['chopper', 'not in use', {}, 'none'],
    ['chopper', 'below the trip', { drive: { chopper: 1, chopperLevel: 740 } }, 'acts'],
    ['chopper', 'at the trip', { drive: { chopper: 1, chopperLevel: 800 } }, 'never acts'],
  ])('%s: %s', (id, _name, given, is) => expect(outcome(id, given)).toBe(is));

  test('a resistor takes V²/R at once: the power that charges the bus drops at the chopper’s level, whatever the brake torque does', () => {
    const set = { chopper: 1, chopperLevel: 700 };
    const braking = (f: (t: number) => number): Before => trace({ busVoltage: f, torque: () => -60, outputFrequency: () => 40 });
    const knee = -0.2;
    expect(outcome('chopperHeld', { drive: set, trace: braking((t) => (t < knee ? 700 + 2000 * (t - knee) : 700 + 500 * (t - knee))) })).toBe(
      'slowed',
    );
    expect(outcome('chopperHeld', { drive: set, trace: braking((t) => 800 + 2000 * t) })).toBe('went on');
    // the bus of a machine whose braking grows rises faster and faster; 700²/500 Ω = 1 kW are seen all the same
    const growing = (resistance: number): Before => {
      let v = 640;
      const at = new Map<number, number>();
      for (let k = 0; k <= 2000; k++) {
        const power = 1500 + 20 * Math.max(0, k - 1960) - (v > 700 ? (v * v) / resistance : 0);
        if (k > 1960) v = Math.sqrt(v * v + (2 * power * 0.001) / rating.busCapacitance);
        at.set(k, v);
      }
      return braking((t) => at.get(Math.round((t + 2) * 1000)) ?? v);
    };
    expect(outcome('chopperHeld', { drive: set, trace: growing(500) })).toBe('slowed');
    expect(outcome('chopperHeld', { drive: set, trace: growing(Infinity) })).toBe('went on');
    expect(outcome('chopperHeld', { trace: braking((t) => 800 + 2000 * t) })).toBeNull();
  });
});

describe('current, torque and load', () => {
  const flat = (i: number): Before => trace({ motorCurrent: () => i, torque: () => 60, outputFrequency: () => 45, busVoltage: () => 540 });
  test.each<[ObservationId, string, Given, string | null]>([
    ['speed', 'all but standing', { snapshot: { outputFrequency: 6 } }, 'near zero'],
    ['speed', 'backward counts by its size', { snapshot: { outputFrequency: -45 } }, 'high'],
    ['currentRise', 'faster than the reading', { cause: 'overcurrent', trace: flat(7), snapshot: { motorCurrent: 7 } }, 'at once'],
    [
      'currentRise',
      'as a rotor slows down',
      { cause: 'overcurrent', trace: trace({ motorCurrent: (t) => (t < -0.02 ? 7 : 7 + 800 * (t + 0.02)) }), snapshot: { motorCurrent: 23 } },
      'within moments',
    ],
    ['currentRise', 'no matter of an overload', { cause: 'motorOverload', trace: flat(15) }, null],
    ['torqueWith', 'current without torque', { cause: 'overcurrent', trace: flat(20), snapshot: { torque: 160, motorCurrent: 20 } }, 'does not'],
    ['rotor', 'current without torque', { cause: 'stall', snapshot: { torque: 30, motorCurrent: 15 } }, 'left behind'],
    ['rotor', 'both', { cause: 'stall', snapshot: { torque: 140, motorCurrent: 15 } }, 'turns with it'],
    ['rotor', 'too little current to tell', { cause: 'stall', snapshot: { torque: 30, motorCurrent: 8 } }, null],
    ['current', 'below the plate', { cause: 'motorOverload', trend: trend({ motorCurrent: () => 8 }) }, 'below'],
    ['current', 'far above it', { cause: 'motorOverload', snapshot: { motorCurrent: 25 } }, 'far above'],
    ['overload', 'set low', { drive: { overloadCurrent: 7 } }, 'low'],
    ['overload', 'as stamped', {}, 'right'],
    ['limit', 'below what is stamped', { drive: { currentLimit: 8 } }, 'low'],
    ['loadRise', 'at once', { trend: trend({ torque: (t) => (t < -10 ? 30 : 80) }) }, 'at once'],
    ['loadRise', 'little by little', { trend: trend({ torque: (t) => 30 + 0.5 * (t + 120) }) }, 'grew'],
    ['loadRise', 'so all along', { trend: trend({ torque: () => 60 }) }, 'always'],
    ['loadRise', 'of one that stalled nobody can tell', { cause: 'stall', trend: trend({ torque: (t) => (t < -10 ? 30 : 80) }) }, null],
    [
      'loadRise',
      'a run-up is no rise',
      { trend: trend({ torque: (t) => (t < -100 ? 10 : 60), outputFrequency: (t) => (t < -100 ? 5 : 45) }) },
      'always',
    ],
    [
      'fell',
      'over seconds',
      { cause: 'stall', snapshot: { reference: 45 }, trend: trend({ outputFrequency: (t) => Math.max(15, Math.min(45, -5 * (t + 5))) }) },
      'over seconds',
    ],
    [
      'fell',
      'at once',
      { cause: 'stall', snapshot: { reference: 45 }, trend: trend({ outputFrequency: (t) => (t < -5 ? 45 : 12) }) },
      'within a second',
    ],
    ['fell', 'never up', { cause: 'stall', snapshot: { reference: 45 }, trend: trend({ outputFrequency: () => 8 }) }, 'never'],
    [
      'relieved',
      'turned backwards for nothing',
      { cause: 'blocked', trend: trend({ outputFrequency: (t) => (t > -60 && t < -50 ? -20 : 40), torque: () => 130 }) },
      'as before',
    ],
    [
      'relieved',
      'something came off',
      { cause: 'blocked', trend: trend({ outputFrequency: (t) => (t > -60 && t < -50 ? -20 : 40), torque: (t) => (t < -55 ? 130 : 70) }) },
      'less',
    ],
    ['swings', 'to and fro', { trend: trend({ outputFrequency: (t) => 35 + 5 * Math.sin(t) }) }, 'swings'],
    ['swings', 'steady', { trend: trend({ outputFrequency: () => 35 }) }, 'steady'],
    // started and stopped every 8 s: each is a run of its own
    ['swings', 'runs one after another', { trend: trend({ outputFrequency: (t) => (t % 8 > -4 ? 40 : 0) }) }, null],
    ['cooling', 'slow with a fan of its own', { trend: trend({ outputFrequency: () => 8 }) }, 'poor'],
    ['cooling', 'slow with a separate fan', { trend: trend({ outputFrequency: () => 8 }), drive: { motorCooling: 1 } }, 'good'],
    ['driveHeat', 'hotter than its current explains', { snapshot: { driveTemperature: 88, motorCurrent: 5 } }, 'hotter'],
    ['driveHeat', 'explained', { snapshot: { driveTemperature: 70, motorCurrent: 12 } }, 'explained'],
    ['size', 'too small', { machine: { rating: { ...rating, current: 8 } } }, 'too small'],
    ['motorData', 'another motor', { drive: { motorVoltage: 230 } }, 'differ'],
    ['overspeedLevel', 'below the top speed', { drive: { overspeedLevel: 0.9 } }, 'low'],
  ])('%s: %s', (id, _name, given, is) => expect(outcome(id, given)).toBe(is));
});

describe('signals, contacts and time', () => {
  test.each<[ObservationId, string, Given, string | null]>([
    ['signal', 'no current at all', { snapshot: { analogueInput: -25 } }, 'none'],
    ['signal', 'under its live zero', { snapshot: { analogueInput: -6 } }, 'under'],
    [
      'signal',
      'what the drive says once it stands goes before a filtered reading',
      { snapshot: { analogueInput: -4 }, more: { afterwards: { silent: 0, busVoltage: 560, signal: -25 } } },
      'none',
    ],
    ['external', 'closed and sound', { snapshot: { inputs: 0b100 }, machine: { external: { bit: 2, openTrips: true } } }, 'healthy'],
    ['external', 'open', { snapshot: { inputs: 0 }, machine: { external: { bit: 2, openTrips: true } } }, 'trips'],
    ['external', 'closed where that trips', { snapshot: { inputs: 0b100 }, machine: { external: { bit: 2, openTrips: false } } }, 'trips'],
    ['external', 'none wired', { snapshot: { inputs: 0 } }, null],
    ['channels', 'both', { snapshot: { inputs: 0xc000 } }, 'both closed'],
    ['channels', 'one', { snapshot: { inputs: 0x4000 } }, 'one open'],
    ['channels', 'none', { snapshot: { inputs: 0 } }, 'both open'],
    ['timeOut', 'short', { drive: { linkTimeout: 0.2 } }, 'short'],
    ['since', 'a quarter of an hour', { snapshot: { since: 900 } }, 'minutes'],
    ['since', 'hours', { snapshot: { since: 9000 } }, 'hours'],
    ['since', 'a family that keeps none', {}, null],
    ['repeat', 'again', { more: { repeats: 2 } }, 'again'],
    ['others', 'alone', { more: { others: 0 } }, 'alone'],
    ['ran', 'tripped from the first answer on', { trend: { time: [], channels: {} } }, 'had not run'],
    ['ran', 'had run', { trend: trend({ outputFrequency: (t) => (t < -60 ? 30 : 0) }) }, 'had run'],
    ['feedback', 'below its set point', { snapshot: { analogueInput: 20 } }, 'low'],
    ['feedback', 'above it', { snapshot: { analogueInput: 60 } }, 'high'],
    ['guardDelay', 'short', { cause: 'noFlow', machine: { controls: guardsOf({ noFlow: { level: 0, delay: 1, action: 0 } }) } }, 'short'],
    [
      'guardLevel',
      'a high-pressure guard just above its set point',
      { cause: 'highPressure', machine: { controls: guardsOf({ highPressure: { level: 0.43, delay: 5, action: 0 } }) } },
      'inside ordinary',
    ],
    [
      'guardLevel',
      'well below it',
      { cause: 'lowPressure', machine: { controls: guardsOf({ lowPressure: { level: 0.2, delay: 5, action: 0 } }) } },
      'outside',
    ],
  ])('%s: %s', (id, _name, given, is) => expect(outcome(id, given)).toBe(is));

  test('what somebody answered goes before what was seen', () => {
    expect(outcome('since', { snapshot: { since: 2 }, more: { answers: { since: 'hours' } } })).toBe('hours');
  });
});

describe('against the model of the machine', () => {
  const demo = demoMachine('P-11');
  const draft = demoDraft(demo);
  const specWith = (values: Record<string, number>): MachineSpec => {
    const s = specOf(demo, demo.plate, draft.with({ ...draft.values, ...values }));
    return s.ok ? s.spec : (undefined as never);
  };
  const machine = (spec: MachineSpec, shutLoad = 0): Partial<TrippedMachine> => ({
    ...{ spec, drive: spec.drive, rating: spec.rating, controls: guardsOf({}, { shutLoad }) },
    plate: { current: 13.6, frequency: 50, voltage: 400, torque: 24.5 },
  });
  const usual = specWith({});

  test('a stop is judged at the supply on record, by where its bus peaks', () => {
    const at = { snapshot: { outputFrequency: 40, reference: 0 } };
    expect(outcome('stop', { ...at, machine: machine(specWith({ '3b': 0.2, '3h': 0 })) })).toBe('too short');
    expect(outcome('stop', { ...at, machine: machine(specWith({ '3b': 12 })) })).toBe('long enough');
    expect(outcome('stop', { ...at, cause: 'stall', machine: machine(usual) })).toBeNull();
  });

  test('torque at a speed against what the pump usually takes there; at no flow as far as anybody has measured it', () => {
    const at = (torque: number): Given => ({ snapshot: { outputFrequency: 45, torque, motorCurrent: 10 }, machine: machine(usual) });
    expect(['dry', 'shut', 'not told', 'moves'].map((_, i) => outcome('flow', at(present([8, 40, 65, 80][i]))))).toEqual([
      'dry',
      'shut',
      'not told',
      'moves',
    ]);
    expect(outcome('flow', { ...at(40), machine: machine(usual, 0.6) })).toBe('shut');
    expect(outcome('flow', { ...at(60), machine: machine(usual, 0.3) })).toBe('moves');
    expect(outcome('load', at(20))).toBe('less');
    expect(outcome('load', at(75))).toBe('as usual');
    expect(outcome('load', at(150))).toBe('more');
  });

  test('a run-up that asks for more torque than the motor has, and a boost beyond what the windings need', () => {
    expect(outcome('acceleration', { machine: machine(specWith({ '3a': 0.2 })) })).not.toBe('long enough');
    expect(outcome('acceleration', { machine: machine(specWith({ '3a': 10 })) })).toBe('long enough');
    const boosted = { ...usual, drive: { ...usual.drive, startBoost: 0.2, controlMethod: 0 as const } };
    expect(outcome('boost', { machine: machine(boosted) })).toBe('high');
    expect(outcome('boost', { machine: machine(usual) })).not.toBe('high');
  });
});

describe('the run that came to the trip', () => {
  const top = (f: (t: number) => number, at: number | null = null) =>
    topOf({ trend: trend({ outputFrequency: f }), trace: null, snapshot: { ...noSnapshot(), outputFrequency: at } } as TripCase);
  test.each<[string, (t: number) => number, number | null]>([
    ['an earlier, faster run is another', (t) => (t < -60 ? 50 : t < -50 ? 0 : t < -3 ? 45 : 40), 45],
    ['a reversal is no rest', (t) => (t < -41 ? 50 : t < -40 ? 0 : -30), 50],
    ['what stood when it tripped had run before', (t) => (t < -90 ? 30 : t < -80 ? 0 : t < -20 ? -42 : 0), 42],
    ['what never turned has none', () => 0, null],
  ])('%s', (_name, f, is) => expect(top(f)).toBe(is));
  test('the drive’s own record counts where the link saw less', () => expect(top(() => 20, 44)).toBe(44));
});
