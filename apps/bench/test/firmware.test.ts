import { ControlWord, Holding, StopMode, type DriveParameters } from '@yare/core';
import { demoDraft, demoMachine } from '@yare/demo-plant';
import { Plant } from '../src/plant/plant';
import { TrueHeat } from '../truth/heat';

/** A demo machine as it truly is, enabled, with some settings changed. */
function enabled(tag: string, change: Partial<DriveParameters> = {}, day = 0) {
  const demo = demoMachine(tag);
  const plant = new Plant(demo, demoDraft(demo).values, 11, day);
  const { truth, machine: m } = plant;
  m.spec.drive = { ...m.spec.drive, startMode: 0, ...change };
  for (const word of [ControlWord.shutdown, ControlWord.switchOn]) truth.advance(word, 0);
  const run = (hertz: number, seconds: number, word: number = ControlWord.enableOperation, each?: () => void) => {
    for (let i = 0; i < seconds * 1000 && !m.trip; i++) {
      truth.advance(word, hertz);
      each?.();
    }
  };
  return { truth, m, run };
}

describe('the current limit of the bench’s firmware', () => {
  test('holds a ramp that asks too much near its level, and gets there all the same', () => {
    const { m, run } = enabled('P-11', { accelerationTime: 0.4, currentLimit: 18 });
    let most = 0;
    let held = false;
    run(45, 12, ControlWord.enableOperation, () => {
      if (m.time > 1) most = Math.max(most, m.motor.current);
      held ||= m.holding === Holding.currentLimit;
    });
    expect(m.trip).toBeNull();
    expect(held).toBe(true);
    expect(most).toBeLessThan(1.35 * 18);
    expect(m.ramp).toBeCloseTo(45, 3);
  });

  test('lets no motor deadlock near standstill on its own boost', () => {
    const { m, run } = enabled('P-11', { startBoost: 0.03, currentLimit: 15 });
    run(40, 20);
    expect(m.trip).toBeNull();
    expect(m.ramp).toBeCloseTo(40, 3);
  });
});

test('a falling ramp gives way to a high bus, or trips on it where it may not', () => {
  const heavy = (busRampHold: number) => {
    const { m, run } = enabled('F-32', { accelerationTime: 70, decelerationTime: 8, busRampHold });
    run(45, 90);
    expect([busRampHold, m.trip]).toEqual([busRampHold, null]);
    let held = false;
    run(45, 60, ControlWord.switchOn, () => (held ||= m.holding === Holding.highBus));
    return { trip: m.trip?.cause ?? null, held };
  };
  expect(heavy(0)).toEqual({ trip: 'overvoltage', held: false });
  expect(heavy(1)).toEqual({ trip: null, held: true });
});

test('direct current is brought up to what was set and brakes a shaft that coasting would leave turning', () => {
  const stopped = (stopMode: StopMode) => {
    const { m, run } = enabled('M-55', { stopMode, dcCurrent: 0.8, dcTime: 5 });
    run(45, 8);
    let current = 0;
    const began = m.time;
    while (Math.abs(m.speed) > 0.5 && m.time < began + 20) {
      run(45, 0.01, ControlWord.switchOn);
      current = Math.max(current, m.motor.current);
    }
    return { time: m.time - began, current, asked: 0.8 * m.spec.drive.motorCurrent };
  };
  const [braked, coasted] = [stopped(StopMode.directCurrent), stopped(StopMode.coast)];
  expect(braked.time).toBeLessThan(0.9 * coasted.time);
  // a star winding's direct current counts as √(2/3) of alternating
  expect(braked.current / (Math.sqrt(2 / 3) * braked.asked)).toBeGreaterThan(0.9);
});

test('another day is another machine: mains, air and load; the same day is the same', () => {
  const settled = (day: number) => {
    const { m, run } = enabled('C-07', { holdingBrake: 0 }, day);
    run(40, 8);
    return [m.motor.current, m.bus.voltage, m.temperature.winding];
  };
  expect(settled(1)).toEqual(settled(1));
  const days = [1, 2, 3, 4].map(settled);
  const spread = (i: number) => {
    const of = days.map((d) => d[i] ?? 0);
    return Math.max(...of) - Math.min(...of);
  };
  expect(spread(0)).toBeGreaterThan(0.02);
  expect(spread(1)).toBeGreaterThan(2);
  expect(spread(2)).toBeGreaterThan(2);
});

test('heat: what is lost goes to the air in the end, and a blocked fan makes it hotter', () => {
  const c = { windingOut: 20, rotorOut: 15, frameOut: 8, winding: 2000, rotor: 4000, frame: 20_000, still: 0.3, sinkTime: 100, sinkRise: 40 };
  const warm = (blown: number) => {
    const heat = new TrueHeat(c, 25);
    for (let i = 0; i < 400_000; i++) heat.advance(200, 120, 80, blown, 1, blown === 1, 25, 0.5);
    return heat;
  };
  const [cooled, blocked] = [warm(1), warm(0)];
  // 400 W through 8 W/K from the frame, 200 W through 20 W/K from the winding
  expect(cooled.frame).toBeCloseTo(25 + 400 / 8, 1);
  expect(cooled.winding).toBeCloseTo(cooled.frame + 10, 1);
  expect(cooled.rotor).toBeCloseTo(cooled.frame + 8, 1);
  expect(blocked.frame).toBeCloseTo(25 + 400 / (0.3 * 8), 1);
  expect([cooled.sink, blocked.sink].map(Math.round)).toEqual([65, 145]);
});
