import {
  demandOf,
  fanFromRatedPoint,
  present,
  pumpFromRatedPoint,
  restingLoad,
  stepLoad,
  stepSharedDuct,
  stepSharedHeader,
  stepSharedSump,
  type FanLoad,
  type PumpLoad,
  type SharedSump,
} from '../src';

const dt = 0.001;
const pump: PumpLoad = {
  ...pumpFromRatedPoint({ ratedSpeed: 306, flow: 34 / 3600, head: 52, efficiency: 0.7, staticHead: 4, compliance: 4e-8, demandShare: 0.7 }),
  headerShared: 1,
};

/** Pumps on one header at their speeds until they have settled. */
function onHeader(speeds: readonly number[]) {
  const pumps = speeds.map((speed) => ({ load: pump, state: restingLoad(), speed }));
  for (let i = 0; i < 20_000; i++) {
    for (const p of pumps) stepLoad(p.state, p.load, p.speed, dt);
    stepSharedHeader(pumps, dt);
  }
  return pumps.map((p) => p.state);
}

describe('pumps on one header', () => {
  test('have one pressure, and together deliver what the demand takes', () => {
    const [a, b] = onHeader([306, 300]);
    const { pressure } = present(a);
    expect(present(b).pressure).toBe(pressure);
    expect(present(a).flow + present(b).flow).toBeCloseTo(demandOf(pump, pressure).flow, 5);
    expect(present(a).flow).toBeGreaterThan(present(b).flow);
  });

  test('one that stands takes nothing back, and two deliver more than one but less than twice', () => {
    const [running, stands] = onHeader([306, 0]);
    expect(present(stands).flow).toBe(0);
    const two = onHeader([306, 306]).reduce((sum, s) => sum + s.flow, 0);
    expect(two).toBeGreaterThan(present(running).flow);
    expect(two).toBeLessThan(2 * present(running).flow);
  });
});

test('a sump falls by what all pumps draw together, and each is told its level', () => {
  const sump: SharedSump = { area: 4, inflow: 0.002, dryLevel: -3, level: 0 };
  const pumps = [0.004, 0.003].map((flow) => ({ load: pump, state: { ...restingLoad(), flow } }));
  for (let i = 0; i < 10_000; i++) stepSharedSump(sump, pumps, dt);
  expect(sump.level).toBeCloseTo((10 * (0.002 - 0.007)) / 4, 6);
  expect(pumps.map((p) => p.state.level)).toEqual([sump.level, sump.level]);
  // it is empty there, and spills over two metres above
  for (const p of pumps) p.state.flow = 1;
  for (let i = 0; i < 30_000; i++) stepSharedSump(sump, pumps, dt);
  expect(sump.level).toBe(-3);
  for (const p of pumps) p.state.flow = 0;
  const full: SharedSump = { ...sump, inflow: 1000 };
  for (let i = 0; i < 1000; i++) stepSharedSump(full, pumps, dt);
  expect(full.level).toBe(2);
});

test('fans on one duct have one pressure, and a second one adds to it', () => {
  const fan: FanLoad = { ...fanFromRatedPoint({ ratedSpeed: 100, flow: 9, pressure: 2000, efficiency: 0.72, volume: 12 }), ductShared: 1 };
  const settle = (speeds: readonly number[]) => {
    const fans = speeds.map((speed) => ({ load: fan, state: restingLoad(), speed }));
    for (let i = 0; i < 10_000; i++) {
      for (const f of fans) stepLoad(f.state, f.load, f.speed, dt);
      stepSharedDuct(fans, dt);
    }
    return fans.map((f) => f.state);
  };
  const [a, b] = settle([100, 100]);
  expect(present(a).pressure).toBe(present(b).pressure);
  expect(present(a).pressure).toBeGreaterThan(1.2 * present(settle([100])[0]).pressure);
});
