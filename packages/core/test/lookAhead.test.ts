import {
  completePlate,
  ControlWord,
  DriveState,
  lookAheadRun,
  runningMachine,
  stepMachine,
  shortestStop,
  sourceInductance,
  usualRotorInertia,
  type DriveParameters,
  type MachineSpec,
} from '../src';
import { present } from '../src/present';
import { c07, f32, p41 } from './plates';
import { machine, noLoad } from './specs';

/** A small belt as a torque law, on its own drive. */
const conveyor = (change: Partial<DriveParameters> = {}, extraInertia = 0.05): MachineSpec => {
  const s = machine(
    {
      motorCurrent: 4.64,
      motorSpeed: 1445,
      accelerationTime: 3,
      decelerationTime: 3,
      currentLimit: 8.7,
      overloadCurrent: 4.64,
      startBoost: 0.03,
      brakeResistance: 150,
      ...change,
    },
    { kind: 'torque', constant: 4, viscous: 0.01, quadratic: 0 },
    usualRotorInertia(2200, 4) + extraInertia,
    c07,
  );
  return {
    ...s,
    rating: { ...s.rating, current: 5.8, overcurrentTrip: 13.9, busCapacitance: 274e-6, idleLoss: 25, lossPerAmpere: 6.8, leastResistance: 164 },
    supply: { voltage: 400, frequency: 50, inductance: sourceInductance(400, 50, 5.8) },
  };
};
const plan = { reference: 50, runTime: 1, longest: 60 };

test('the series holds the peaks the summary tells, however few samples are kept', () => {
  const { series, summary } = lookAheadRun(conveyor({ decelerationTime: 0.7 }), { ...plan, samples: 60 });
  expect(series.time.length).toBeLessThan(140);
  expect(Math.max(...series.busVoltage) / summary.peakBus).toBeGreaterThan(0.99);
  expect(Math.max(...series.current) / summary.peakCurrent).toBeGreaterThan(0.97);
  expect([...series.time].every((t, i, all) => i === 0 || t > present(all[i - 1]))).toBe(true);
});

test('ramps take the time they are set to, from 0 to the rated frequency', () => {
  for (const [up, down] of [
    [3, 3],
    [8, 5],
  ] as const) {
    const { summary } = lookAheadRun(conveyor({ accelerationTime: up, decelerationTime: down }), plan);
    expect(present(summary.startTime) / up).toBeCloseTo(0.99, 1);
    expect(Math.abs(present(summary.stopTime) - down)).toBeLessThan(0.3);
  }
});

test('heavier is slower to stop: the shortest stop grows with inertia', () => {
  const times = [0.05, 0.2, 0.8].map((extra) => shortestStop(conveyor({}, extra), 50));
  expect(present(times[1])).toBeGreaterThan(present(times[0]));
  expect(present(times[2])).toBeGreaterThan(present(times[1]));
});

test('a larger bus capacitor lowers the peak, a higher supply raises it', () => {
  const peak = (s: MachineSpec) => lookAheadRun(s, plan).summary.peakBus;
  const s = conveyor({ decelerationTime: 3 }, 0.12);
  const base = peak(s);
  expect(base).toBeGreaterThan(580);
  expect(base).toBeLessThan(795);
  expect(peak({ ...s, rating: { ...s.rating, busCapacitance: 1e-3 } })).toBeLessThan(base);
  expect(peak({ ...s, supply: { ...s.supply, voltage: 430 } })).toBeGreaterThan(base);
});

test('an unreachable frequency is said, not waited for', () => {
  const { summary } = lookAheadRun(conveyor({ currentLimit: 2.2 }), { ...plan, longest: 15 });
  expect(summary.startTime).toBeNull();
  expect(summary.stopTime).toBeNull();
});

// larger rotors weigh more: J of standard four-pole motors, common practice: 2.2 kW about 0.008, 30 kW about 0.25 kg·m²
test('rotor inertia by size is of the usual order', () => {
  const inertia = (p: Parameters<typeof completePlate>[0]) => {
    const plate = completePlate(p);
    return usualRotorInertia(plate.power, plate.poles);
  };
  expect(inertia(c07)).toBeGreaterThan(0.005);
  expect(inertia(c07)).toBeLessThan(0.012);
  expect(inertia(f32)).toBeGreaterThan(0.18);
  expect(inertia(f32)).toBeLessThan(0.32);
  expect(inertia(p41)).toBeGreaterThan(inertia(c07));
});

describe('which way it turns, and when it ends', () => {
  test('a field turned round in the drive is there because the leads were crossed: what is foreseen turns the right way', () => {
    const [plain, turned] = [0, 1].map((phaseOrder) => lookAheadRun(machine({ phaseOrder }), plan).summary);
    expect(present(plain).settledPressure).toBeGreaterThan(1e5);
    expect(turned).toEqual(plain);
    expect(shortestStop(conveyor({ phaseOrder: 1 }), 50)).toBe(shortestStop(conveyor(), 50));
  });

  test('a reference above the maximum or in a band that is skipped is reached where the drive holds it', () => {
    for (const [change, reference] of [
      [{ maximumFrequency: 40 }, 60],
      [{ skipCentre: 30, skipWidth: 6 }, 30],
      [{ minimumFrequency: 20 }, 5],
    ] as const) {
      const { summary } = lookAheadRun(conveyor(change), { ...plan, reference });
      expect(summary.startTime).not.toBeNull();
      expect(summary.stopTime).not.toBeNull();
    }
  });

  test.each([
    ['no reference', {}, 0],
    ['reverse forbidden', { reversePermit: 0 }, -30],
  ] as const)('%s: nothing comes out, nothing turns, and the look-ahead ends at once', (_what, change, reference) => {
    const { series, summary } = lookAheadRun(conveyor(change), { ...plan, reference });
    expect(series.time.at(-1)).toBeLessThan(1);
    expect(Math.max(...series.frequency.map(Math.abs))).toBe(0);
    expect(Math.max(...series.speed.map(Math.abs))).toBe(0);
    expect([summary.startTime, summary.peakCurrent]).toEqual([null, 0]);
  });
});

// the pump's motor takes more than the limit from its boost alone, at no slip: a ramp that waits for that current to fall waits for ever
test.each([
  [0.02, 1],
  [0.02, 1.1],
  [0.03, 1],
  [0.03, 1.5],
])('at %d boost and %d times rated current the limiter lets the pump start', (startBoost, share) => {
  const { summary } = lookAheadRun(machine({ startBoost, currentLimit: share * 13.6 }), plan);
  expect(summary.trip?.cause ?? null).not.toBe('stall');
  expect(summary.startTime).toBeLessThan(8);
});

test('a quick stop of a heavy wheel that waits for the bus stays with the rotor: no slower than the ramp, and the shaft is not let go turning', () => {
  const wheel = machine(
    {
      motorCurrent: 54.4,
      motorSpeed: 1480,
      currentLimit: 70,
      overloadCurrent: 54.4,
      busRampHold: 1,
      decelerationTime: 60,
      quickStopTime: 10,
      accelerationTime: 30,
    },
    { kind: 'torque', constant: 1, viscous: 0, quadratic: 0.0015 },
    8,
    f32,
  );
  const big = {
    ...wheel,
    rating: { ...wheel.rating, current: 61, overcurrentTrip: 150, busCapacitance: 3e-3, idleLoss: 80, lossPerAmpere: 7 },
    supply: { voltage: 400, frequency: 50, inductance: sourceInductance(400, 50, 61) },
  };
  const stop = (stopMode: number) => present(lookAheadRun({ ...big, drive: { ...big.drive, stopMode } }, { ...plan, longest: 900 }).summary.stopTime);
  expect(stop(3)).toBeLessThan(1.05 * stop(0));
});

test('a load that drives the shaft past the end of a ramp that gave way keeps no drive at work for ever', () => {
  const m = runningMachine(machine({ busRampHold: 1, decelerationTime: 2 }, noLoad), 10);
  const turning = (2 * Math.PI * 0.9) / (m.spec.circuit.poles / 2);
  const end = m.time + 60;
  while (m.time < end && m.state === DriveState.operationEnabled) {
    stepMachine(m, ControlWord.switchOn, 10, 0.001);
    // held at 0.9 Hz from outside, as by a load: less than the current limit minds
    m.speed = Math.max(m.speed, turning);
  }
  expect(m.state).not.toBe(DriveState.operationEnabled);
});
