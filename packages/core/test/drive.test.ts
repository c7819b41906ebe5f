import {
  Control,
  ControlWord,
  DriveState,
  nextState,
  restingBus,
  sourceInductance,
  stateFromStatusWord,
  statusWord,
  steadyHeat,
  stepBus,
  stepHeat,
  overloadTimeConstant,
  timeToTrip,
  type Supply,
} from '../src';

const supply = (voltage: number, frequency = 50): Supply => ({ voltage, frequency, inductance: sourceInductance(voltage, frequency, 15) });

/** Settled bus under a constant load. */
function settled(s: Supply, load: number): { mean: number; power: number } {
  const bus = restingBus(s);
  let sum = 0;
  let power = 0;
  for (let i = 0; i < 3000; i++) {
    stepBus(bus, s, 600e-6, load, 0, 0, 0, 0.001);
    if (i >= 2000) {
      sum += bus.voltage;
      power += bus.rectifierPower;
    }
  }
  return { mean: sum / 1000, power: power / 1000 };
}

// √2 U at rest: 400 V gives 566 V, 480 V gives 679 V, 230 V gives 325 V (Mohan, Power Electronics, ch. 5)
test.each([
  [230, 325],
  [400, 566],
  [480, 679],
])('a bus on %d V rests at %d V', (volts, wanted) => {
  const bus = restingBus(supply(volts));
  expect(Math.round(bus.voltage)).toBe(wanted);
  for (let i = 0; i < 1000; i++) stepBus(bus, supply(volts), 600e-6, 0, 0, 0, 0, 0.001);
  expect(Math.round(bus.voltage)).toBe(wanted);
});

// 1.35 U is the ideal mean of a six-pulse bridge in continuous conduction; the source takes a few percent more
test('a loaded bus falls to about 1.35 U and the rectifier brings what is drawn', () => {
  const { mean, power } = settled(supply(400), 8000);
  expect(mean / 400).toBeGreaterThan(1.27);
  expect(mean / 400).toBeLessThan(1.36);
  expect(power).toBeCloseTo(8000, -1);
  const light = settled(supply(400), 300);
  expect(light.mean).toBeGreaterThan(mean);
  expect(light.mean).toBeLessThan(566);
});

test('the bus falls steadily with load and never below zero', () => {
  let before = 566;
  for (const load of [500, 1000, 2000, 4000, 8000, 16000]) {
    const { mean } = settled(supply(400), load);
    expect(mean).toBeLessThan(before);
    before = mean;
  }
  const bus = restingBus(supply(400));
  for (let i = 0; i < 100; i++) stepBus(bus, supply(400), 600e-6, 1e7, 0, 0, 0, 0.001);
  expect(bus.voltage).toBeGreaterThan(0);
});

// ½ C (V₂² − V₁²) is the energy given, exactly, while the rectifier is off
test('regenerated energy is all in the bus', () => {
  const bus = restingBus(supply(400));
  const start = bus.voltage;
  let energy = 0;
  for (let i = 0; i < 200; i++) {
    const power = 200 + i;
    stepBus(bus, supply(400), 600e-6, -power, 0, 0, 0, 0.001);
    energy += power * 0.001;
  }
  expect(0.5 * 600e-6 * (bus.voltage ** 2 - start ** 2)).toBeCloseTo(energy, 9);
  expect(bus.rectifierPower).toBe(0);
});

test('the chopper holds the bus between its levels and burns what comes', () => {
  const bus = restingBus(supply(400));
  let burnt = 0;
  let top = 0;
  for (let i = 0; i < 4000; i++) {
    stepBus(bus, supply(400), 600e-6, -2000, 100, 760, 745, 0.001);
    if (i > 2000) {
      burnt += bus.chopperPower * 0.001;
      top = Math.max(top, bus.voltage);
    }
  }
  expect(top).toBeLessThan(765);
  expect(burnt / 1.999).toBeCloseTo(2000, -2);
});

// IEC 60947-4-1 trip classes (from memory)
describe('overload', () => {
  test.each([
    [10, 4 * 60, 4, 10],
    [20, 8 * 60, 6, 20],
    [30, 12 * 60, 9, 30],
  ])('class %d', (tripClass, warmBelow, coldFrom, coldTo) => {
    expect(timeToTrip(1.05, tripClass)).toBe(Infinity);
    expect(timeToTrip(1.2, tripClass)).toBeLessThan(2 * 3600);
    expect(timeToTrip(1.5, tripClass, steadyHeat(1))).toBeLessThan(warmBelow);
    expect(timeToTrip(7.2, tripClass)).toBeGreaterThanOrEqual(coldFrom);
    expect(timeToTrip(7.2, tripClass)).toBeLessThanOrEqual(coldTo);
  });

  test('150 % from warm trips a class 10 at 60 s within 5 %, stepped', () => {
    let heat = steadyHeat(1);
    let time = 0;
    while (heat < 1 && time < 100) {
      heat = stepHeat(heat, 1.5, overloadTimeConstant(10), 0.01);
      time += 0.01;
    }
    expect(Math.abs(time / 60 - 1)).toBeLessThan(0.05);
  });
});

// IEC 61800-7-201 state diagram and status word table
describe('state machine', () => {
  const go = (words: number[], stopped = true) =>
    words.reduce<DriveState>((s, w) => nextState(s, w, stopped, (w & Control.faultReset) !== 0), DriveState.notReady);
  const { shutdown, switchOn, enableOperation, disableVoltage, quickStop, faultReset } = ControlWord;

  test('up the ladder', () => {
    expect(go([0])).toBe(DriveState.switchOnDisabled);
    expect(go([0, shutdown])).toBe(DriveState.ready);
    expect(go([0, shutdown, switchOn])).toBe(DriveState.switchedOn);
    expect(go([0, shutdown, switchOn, enableOperation])).toBe(DriveState.operationEnabled);
  });
  test('no rung is skipped: a held enable starts nothing from switch-on disabled', () => {
    expect(go([0, enableOperation])).toBe(DriveState.switchOnDisabled);
    expect(go([0, enableOperation, enableOperation, enableOperation])).toBe(DriveState.switchOnDisabled);
  });
  test('ways down', () => {
    const up = [0, shutdown, switchOn, enableOperation];
    expect(go([...up, disableVoltage])).toBe(DriveState.switchOnDisabled);
    expect(go([...up, switchOn])).toBe(DriveState.switchedOn);
    expect(go([...up, shutdown])).toBe(DriveState.ready);
    expect(go([...up, quickStop], false)).toBe(DriveState.quickStop);
    expect(go([...up, quickStop, quickStop])).toBe(DriveState.switchOnDisabled);
    expect(nextState(DriveState.operationEnabled, switchOn, false, false)).toBe(DriveState.operationEnabled);
  });
  test('a fault stays until reset', () => {
    expect(nextState(DriveState.faultReaction, enableOperation, false, false)).toBe(DriveState.faultReaction);
    expect(nextState(DriveState.faultReaction, enableOperation, true, false)).toBe(DriveState.fault);
    expect(nextState(DriveState.fault, enableOperation, true, false)).toBe(DriveState.fault);
    expect(nextState(DriveState.fault, faultReset, true, true)).toBe(DriveState.switchOnDisabled);
  });
  test('every state is read back from its status word', () => {
    for (const s of Object.values(DriveState)) expect(stateFromStatusWord(statusWord(s, false))).toBe(s);
    for (const s of Object.values(DriveState)) expect(stateFromStatusWord(statusWord(s, true))).toBe(s);
  });
});
