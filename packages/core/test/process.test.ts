import {
  agitator,
  awake,
  beltMassAt,
  bumpless,
  conveyorFromDuty,
  fanFromRatedPoint,
  fanOperatingPoint,
  fanPower,
  gravity,
  liveZero,
  milliamperes,
  processValue,
  pumpFromRatedPoint,
  random,
  restingLoad,
  restingPid,
  restingSensor,
  sensorStep,
  stepLoad,
  stepPid,
  stepSensor,
  stepSleep,
  type PidSettings,
  type Sensor,
} from '../src';
import { present } from '../src/present';

describe('fan', () => {
  const ratedSpeed = 154;
  const fan = fanFromRatedPoint({ ratedSpeed, flow: 9, pressure: 2000, efficiency: 0.72, volume: 12 });
  // fan laws (AMCA 201): Q ∝ n, p ∝ n², P ∝ n³, exact through a quadratic duct
  test('fan laws', () => {
    const full = fanOperatingPoint(fan, ratedSpeed);
    expect(full.flow).toBeCloseTo(9, 9);
    for (const nu of [0.3, 0.6, 1.2]) {
      const part = fanOperatingPoint(fan, nu * ratedSpeed);
      expect(part.flow / full.flow).toBeCloseTo(nu, 9);
      expect(part.pressure / full.pressure).toBeCloseTo(nu ** 2, 9);
      expect(fanPower(fan, nu * ratedSpeed, part.flow) / fanPower(fan, ratedSpeed, full.flow)).toBeCloseTo(nu ** 3, 9);
    }
  });
  test('rated point: P = Q Δp / η', () => {
    expect(fanPower(fan, ratedSpeed, 9)).toBeCloseTo((9 * 2000) / 0.72, 6);
  });
  test('stepped in time it settles on that point; a clogged filter and a shut damper take flow', () => {
    const settle = (change: Partial<typeof fan>) => {
      const state = restingLoad();
      for (let i = 0; i < 8000; i++) stepLoad(state, { ...fan, ...change }, ratedSpeed, 0.001);
      return state;
    };
    expect(settle({}).flow).toBeCloseTo(9, 2);
    expect(settle({ clogging: 8 }).flow).toBeLessThan(8);
    expect(settle({ clogging: 8 }).pressure).toBeLessThan(settle({}).pressure);
    const shut = settle({ damper: 0.1 });
    expect(shut.flow).toBeLessThan(2.5);
    expect(shut.pressure).toBeGreaterThan(2000);
    expect(shut.torque).toBeLessThan(settle({}).torque);
  });
});

describe('conveyor', () => {
  const duty = { ratedSpeed: 151, torque: 10, feed: 5, beltSpeed: 1.1, length: 14, slope: 0.15, ratio: 28 };
  const belt = conveyorFromDuty(duty);
  const settle = (speed: number, seconds: number, b = belt) => {
    const state = restingLoad();
    for (let i = 0; i < seconds * 1000; i++) stepLoad(state, b, speed, 0.001);
    return state;
  };
  test('takes the torque it was described with, at its duty', () => {
    const s = settle(151, 120);
    expect(s.mass).toBeCloseTo(beltMassAt(belt, 151), 1);
    expect(s.torque + s.friction).toBeCloseTo(10, 1);
  });
  // mass balance: what lies on the belt is feed · length / speed
  test('the slower it runs the more lies on it', () => {
    expect(settle(75.5, 200).mass / settle(151, 200).mass).toBeCloseTo(2, 1);
  });
  // lifting costs m g sin α · v; efficiency works the other way when the load drives
  test('uphill costs torque, downhill gives it back, less the gear’s losses', () => {
    const up = settle(151, 120);
    const down = settle(151, 120, { ...belt, slope: -0.15 });
    const lift = (up.mass * gravity * Math.sin(0.15) * belt.radius) / belt.ratio;
    expect(up.torque - belt.viscous * 151).toBeCloseTo(lift / belt.efficiency, 6);
    expect(down.torque - belt.viscous * 151).toBeCloseTo(-lift * belt.efficiency, 6);
  });
  test('what lies on the belt counts as inertia through the gear', () => {
    const s = settle(151, 120);
    expect(s.inertia).toBeCloseTo((belt.beltMass + s.mass) * (belt.radius / belt.ratio) ** 2, 9);
  });
});

test('an agitator in its turbulent range asks for torque with the square of speed', () => {
  const a = agitator(1, 100);
  const at = (speed: number) => {
    const s = restingLoad();
    stepLoad(s, a, speed, 0.001);
    return s.torque + s.friction;
  };
  expect(at(100)).toBeCloseTo(1, 9);
  expect(at(200) / at(100)).toBeGreaterThan(3.2);
});

describe('pump', () => {
  const ratedSpeed = 306;
  const pump = pumpFromRatedPoint({ ratedSpeed, flow: 34 / 3600, head: 52, efficiency: 0.7, staticHead: 4, compliance: 4e-8, demandShare: 0.7 });
  const settle = (change: Partial<typeof pump>, speed = ratedSpeed, from = restingLoad(), seconds = 20) => {
    for (let i = 0; i < seconds * 1000; i++) stepLoad(from, { ...pump, ...change }, speed, 0.001);
    return from;
  };
  test('with the discharge valve shut there is no flow and still some power', () => {
    const s = settle({ dischargeOpening: 0 });
    expect(s.flow).toBe(0);
    expect(s.torque).toBeGreaterThan(3);
  });
  test('the check valve holds the pressure of a closed house; a leaking one does not', () => {
    const charged = () => settle({});
    expect(settle({ demandOpening: 0 }, 0, charged(), 5).pressure).toBeGreaterThan(5e5);
    expect(settle({ demandOpening: 0, checkValve: 0.7 }, 0, charged(), 5).pressure).toBeLessThan(3e5);
  });
  test('a dry pump loses flow and nearly all of its load, and has both back when the water is', () => {
    const wet = settle({});
    const full = wet.torque;
    const dry = settle({ dryLevel: 1 }, ratedSpeed, wet, 15);
    expect(dry.flow).toBeLessThan(0.001);
    expect(dry.torque).toBeLessThan(0.3 * full);
    expect(settle({}, ratedSpeed, dry, 20).torque).toBeGreaterThan(0.9 * full);
  });
  test('a sump falls by what is pumped and rises by what flows in', () => {
    const s = settle({ sumpArea: 2, inflow: 0, staticHead: 2 }, ratedSpeed, restingLoad(), 30);
    expect(s.level).toBeLessThan(-0.08);
    const rising = settle({ sumpArea: 2, inflow: 0.01 }, 0, restingLoad(), 10);
    expect(rising.level).toBeCloseTo((0.01 * 10) / 2, 3);
  });
});

describe('sensor', () => {
  const s: Sensor = { low: 0, high: 1e6, lag: 0.2, deadTime: 0.1, noise: 0, step: 0, offset: 0 };
  // 4 to 20 mA: 40 % of the range is 10.4 mA
  test('range and live zero', () => {
    expect(milliamperes(s, 4e5)).toBeCloseTo(10.4, 9);
    expect(processValue(s, 10.4)).toBeCloseTo(4e5, 6);
    expect(milliamperes(s, -1e6)).toBe(3.8);
    expect(milliamperes(s, 9e6)).toBe(20.5);
  });
  // NAMUR NE 43 (from memory): 3.6 and 21 mA are the limits of failure, 3.8 and 20.5 those of measuring
  test('NE 43', () => {
    expect([3.5, 3.7, 12, 20.3, 21.5].map(liveZero)).toEqual(['failed low', 'under range', 'measuring', 'over range', 'failed high']);
  });
  test('dead time, then a first-order lag', () => {
    const state = restingSensor(s, 0);
    const seen: number[] = [];
    for (let i = 0; i < 200; i++) {
      stepSensor(state, s, 1e6, random(1));
      seen.push(state.current);
    }
    expect(seen[8]).toBeCloseTo(4, 6);
    const at = (seconds: number) => (present(seen[Math.round((seconds + s.deadTime) / sensorStep)]) - 4) / 16;
    expect(at(0.2)).toBeCloseTo(1 - Math.exp(-1), 1);
    expect(at(1)).toBeGreaterThan(0.98);
  });
  test('noise has the deviation it says, steps are whole, a broken wire is 0 mA', () => {
    const noisy = { ...s, noise: 0.05, step: 0.004 };
    const state = restingSensor(noisy, 5e5);
    const r = random(3);
    const values = Array.from({ length: 4000 }, () => {
      stepSensor(state, noisy, 5e5, r);
      return state.current;
    });
    const mean = values.reduce((a, b) => a + b) / values.length;
    expect(mean).toBeCloseTo(12, 1);
    expect(Math.sqrt(values.reduce((a, b) => a + (b - mean) ** 2, 0) / values.length)).toBeCloseTo(0.05, 2);
    for (const v of values.slice(0, 50)) expect(Math.abs(v / 0.004 - Math.round(v / 0.004))).toBeLessThan(1e-6);
    stepSensor(state, noisy, 5e5, r, true);
    expect(state.current).toBe(0);
  });
});

describe('loop', () => {
  const pid: PidSettings = {
    proportionalGain: 2,
    integralTime: 4,
    derivativeTime: 0,
    setpointWeight: 1,
    reverse: false,
    outputLow: 0,
    outputHigh: 100,
  };
  test('proportional and integral as the standard form says', () => {
    const s = restingPid(40);
    // error of 10 %: 2 · 10 at once, and 2 · 10 / 4 each second more
    expect(stepPid(s, pid, 50, 40, 0.01)).toBeCloseTo(20, 1);
    for (let i = 1; i < 400; i++) stepPid(s, pid, 50, 40, 0.01);
    expect(s.output).toBeCloseTo(40, 0);
  });
  test('a saturated output does not wind up: it leaves the limit soon after the error has turned', () => {
    const s = restingPid(0);
    for (let i = 0; i < 6000; i++) stepPid(s, pid, 90, 0, 0.01);
    expect(s.output).toBe(100);
    let steps = 0;
    while (s.output > 99 && steps < 2000) {
      stepPid(s, pid, 40, 60, 0.01);
      steps++;
    }
    expect(steps).toBeLessThan(300);
  });
  test('reverse action turns it round; hand to auto makes no bump', () => {
    const s = restingPid(50);
    expect(stepPid(s, { ...pid, reverse: true }, 40, 50, 0.01)).toBeGreaterThan(15);
    bumpless(s, pid, 50, 47, 62);
    expect(stepPid(s, pid, 50, 47, 0.01)).toBeCloseTo(62, 1);
  });
  test('sleeps after its delay, wakes on a fall, and not before either', () => {
    const s = awake();
    const settings = { frequency: 30, delay: 5, wakeFall: 4, wakeDelay: 1, boost: 0, boostTime: 0, leastRun: 0, leastRest: 0 };
    let t = 0;
    while (!stepSleep(s, settings, 28, 0, 0.1) && t < 20) t += 0.1;
    expect(t).toBeCloseTo(5, 0);
    for (let i = 0; i < 100; i++) expect(stepSleep(s, settings, 0, 3.9, 0.1)).toBe(true);
    t = 0;
    while (stepSleep(s, settings, 0, 4.5, 0.1) && t < 20) t += 0.1;
    expect(t).toBeCloseTo(1, 0);
    expect(s.wakes).toBe(1);
  });
});
