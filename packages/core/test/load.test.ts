import {
  atFullSpeed,
  gravity,
  pumpFlow,
  pumpFromRatedPoint,
  pumpHead,
  pumpOperatingPoint,
  pumpPower,
  restingLoad,
  shutOffSpeed,
  stepLoad,
  waterDensity,
  type PumpLoad,
  type TorqueLoad,
} from '../src';

const ratedSpeed = 306.3;
const pump = (staticHead: number): PumpLoad =>
  pumpFromRatedPoint({ ratedSpeed, flow: 34 / 3600, head: 52, efficiency: 0.7, staticHead, compliance: 4e-8, demandShare: 1 });

test('the rated point is on the curve, and the open valve gives it', () => {
  const p = pump(4);
  expect(pumpHead(p, ratedSpeed, 34 / 3600)).toBeCloseTo(52, 9);
  expect(pumpPower(p, ratedSpeed, 34 / 3600)).toBeCloseTo((waterDensity * gravity * (34 / 3600) * 52) / 0.7, 6);
  expect(pumpOperatingPoint(p, ratedSpeed).flow).toBeCloseTo(34 / 3600, 9);
});

// Affinity laws (Gülich, Centrifugal Pumps, ch. 3): exact without static head
test('Q ∝ n, H ∝ n², P ∝ n³ without static head', () => {
  const p = pump(0);
  const full = pumpOperatingPoint(p, ratedSpeed);
  for (const nu of [0.3, 0.5, 0.8, 1.1]) {
    const part = pumpOperatingPoint(p, nu * ratedSpeed);
    expect(part.flow / full.flow).toBeCloseTo(nu, 9);
    expect(part.pressure / full.pressure).toBeCloseTo(nu ** 2, 9);
    expect(pumpPower(p, nu * ratedSpeed, part.flow) / pumpPower(p, ratedSpeed, full.flow)).toBeCloseTo(nu ** 3, 9);
  }
});

test('with static head there is no flow below the shut-off speed, and the check valve lets none back', () => {
  const p = pump(20);
  const limit = shutOffSpeed(p, 2e5);
  expect(pumpFlow(p, limit * 0.99, 2e5)).toBe(0);
  expect(pumpFlow(p, limit * 1.01, 2e5)).toBeGreaterThan(0);
  expect(pumpFlow(p, -0.3 * ratedSpeed, 0)).toBe(0);
  // the wrong way round a radial wheel still pumps, against about half the head (common practice)
  expect(pumpFlow(p, -ratedSpeed, 0)).toBeGreaterThan(0);
  expect(pumpFlow(p, -ratedSpeed, 0)).toBeLessThan(0.8 * pumpFlow(p, ratedSpeed, 0));
  expect(pumpOperatingPoint(p, 0.2 * ratedSpeed)).toEqual({ pressure: 0, flow: 0 });
});

test('stepped in time the pump settles on its operating point', () => {
  const p = pump(4);
  const state = restingLoad();
  for (let i = 0; i < 20_000; i++) stepLoad(state, p, 0.9 * ratedSpeed, 0.001);
  const steady = pumpOperatingPoint(p, 0.9 * ratedSpeed);
  expect(state.flow / steady.flow).toBeCloseTo(1, 4);
  expect(state.pressure / steady.pressure).toBeCloseTo(1, 4);
  expect(state.torque).toBeCloseTo(pumpPower(p, 0.9 * ratedSpeed, steady.flow) / (0.9 * ratedSpeed), 2);
});

test('a torque law opposes motion both ways and holds nothing at rest', () => {
  const law: TorqueLoad = { kind: 'torque', constant: 5, viscous: 0.01, quadratic: 1e-4 };
  const state = restingLoad();
  stepLoad(state, law, 100, 0.001);
  expect(state.torque).toBeCloseTo(1 + 1, 9);
  expect(state.friction).toBe(5);
  stepLoad(state, law, -100, 0.001);
  expect(state.torque).toBeCloseTo(-2, 9);
  stepLoad(state, law, 0, 0.001);
  expect(state.torque).toBe(0);
});

describe('a pump with no flow', () => {
  const p = pumpFromRatedPoint({ ratedSpeed: 150, flow: 0.02, head: 20, efficiency: 0.7, staticHead: 4, compliance: 1e-7, demandShare: 1 });
  // P = ρ g Q H / η at the rated point (textbook); power at no flow of radial wheels is about half of it (Gülich, from memory)
  test('takes its own share of the power at its best point, whatever its speed, and the best point is as before', () => {
    const rated = (waterDensity * gravity * 0.02 * 20) / 0.7;
    for (const share of [0.4, 0.5, 0.62]) {
      const pump = { ...p, noFlowShare: share };
      for (const nu of [0.4, 0.7, 1]) {
        expect(pumpPower(pump, 150 * nu, 0) / (rated * nu ** 3)).toBeCloseTo(share, 6);
        expect(pumpPower(pump, 150 * nu, 0.02 * nu) / (rated * nu ** 3)).toBeCloseTo(1, 6);
      }
    }
  });
  // what "best efficiency point" means: ρ g Q H / P has its top there
  test('is most efficient at its best flow', () => {
    const efficiency = (x: number) => (0.02 * x * pumpHead(p, 150, 0.02 * x)) / pumpPower(p, 150, 0.02 * x);
    for (const x of [0.5, 0.8, 0.97, 1.03, 1.2, 1.5]) expect(efficiency(x)).toBeLessThan(efficiency(1));
  });
  test('takes its seal’s torque at any speed', () => {
    const state = restingLoad();
    stepLoad(state, p, 30, 0.001);
    expect(state.friction).toBeCloseTo((0.01 * pumpPower(p, 150, 0.02)) / 150, 9);
  });
  test('takes more the more it gives, past its best flow too', () => {
    const powers = [0, 0.25, 0.5, 0.75, 1, 1.3, 1.6].map((x) => pumpPower(p, 150, 0.02 * x));
    for (let i = 1; i < powers.length; i++) expect(powers[i]).toBeGreaterThan(powers[i - 1] ?? Infinity);
  });
});

describe('what goes with the square of the speed', () => {
  test('at full speed from exact points and from scattered ones; from nothing it is not known', () => {
    // 176 kPa of a fan at full speed is 44 kPa at half of it (affinity laws)
    expect(atFullSpeed([{ share: 0.5, figure: 44 }])).toBeCloseTo(176, 9);
    // worked by hand: (0.25 · 10 + 1 · 44) / (0.0625 + 1)
    const points = [
      { share: 0.5, figure: 10 },
      { share: 1, figure: 44 },
    ];
    expect(atFullSpeed(points)).toBeCloseTo(43.7647, 4);
    expect(atFullSpeed([])).toBeNaN();
  });
});
