import { Solver } from 'odex';
import { present } from '../src/present';
import fc from 'fast-check';
import {
  clampReference,
  createMachine,
  emptyOperation,
  lookAheadRun,
  operateInto,
  rotationalTorque,
  shortestStop,
  stepMachine,
  ControlMethod,
  ControlWord,
  DriveState,
  StartMode,
  StopMode,
  type DriveParameters,
  type Load,
  type Machine,
  type MachineSpec,
} from '../src';
import { f32 } from './plates';
import { machine as spec, noLoad, pumpDrive as drive } from './specs';

/** Enabled, and run to a reference for a while. */
function running(s: MachineSpec, reference: number, seconds: number): Machine {
  const m = createMachine(s);
  for (const word of [ControlWord.shutdown, ControlWord.shutdown, ControlWord.switchOn]) stepMachine(m, word, 0, 0.001);
  for (let i = 0; i < seconds * 1000; i++) stepMachine(m, ControlWord.enableOperation, reference, 0.001);
  return m;
}

test('the motor draws its plate current at its plate point', () => {
  const torque = 7500 / ((2925 * 2 * Math.PI) / 60);
  const m = running(spec({ startBoost: 0.04 }, { kind: 'torque', constant: torque, viscous: 0, quadratic: 0 }), 50, 12);
  // the loaded bus gives a little less than 400 V, so slip and current rise by a few percent
  expect(m.motor.current / 13.6).toBeGreaterThan(0.99);
  expect(m.motor.current / 13.6).toBeLessThan(1.08);
  expect((m.speed * 60) / (2 * Math.PI)).toBeGreaterThan(2890);
});

// the whole motor, stator transients included, by an independent integrator (odex, Gragg–Bulirsch–Stoer): flux linkages in the frame of the field,
// Krause, Wasynczuk, Sudhoff, ch. 6
test('run-up on a stiff bus: speed and peak current against the motor of fifth order', () => {
  const s = spec(
    { accelerationTime: 1, startBoost: 0.03, currentLimit: 1000 },
    { kind: 'torque', constant: 0, viscous: 0.02, quadratic: 1e-4 },
    0.12,
  );
  const circuit = { ...s.circuit, saturation: 0, skin: 1, rFe: 1e9 };
  const stiff = {
    ...s,
    circuit,
    rating: { ...s.rating, overcurrentTrip: 1e6, current: 1e3, inverterDrop: 0 },
    supply: { ...s.supply, inductance: 1e-9 },
  };
  const m = createMachine(stiff);
  for (const word of [ControlWord.shutdown, ControlWord.shutdown, ControlWord.switchOn]) stepMachine(m, word, 0, 0.0005);
  // as cold as it starts
  const c = { ...m.warm };
  const base = 2 * Math.PI * c.ratedFrequency;
  const [ls, lm, lr] = [(c.x1 + c.xm) / base, c.xm / base, (c.x2 + c.xm) / base];
  const whole = ls * lr - lm * lm;
  const currents = (y: number[]) => {
    const [sd, sq, rd, rq] = y.map((v) => present(v)) as [number, number, number, number];
    return [(lr * sd - lm * rd) / whole, (lr * sq - lm * rq) / whole, (ls * rd - lm * sd) / whole, (ls * rq - lm * sq) / whole] as const;
  };
  const rates = (t: number, y: number[]) => {
    const f = Math.max(0.1, Math.min(50, 50 * t));
    const volts = Math.min(1, 0.03 + 0.97 * (f / 50)) * (400 / Math.sqrt(3));
    const [sd, sq, rd, rq, w] = y.map((v) => present(v)) as [number, number, number, number, number];
    const [isd, isq, ird, irq] = currents(y);
    const field = 2 * Math.PI * f;
    const slip = field - (w * c.poles) / 2;
    const torque = 3 * (c.poles / 2) * (sd * isq - sq * isd);
    return [
      volts - c.r1 * isd + field * sq,
      -c.r1 * isq - field * sd,
      -c.r2 * ird + slip * rq,
      -c.r2 * irq - slip * rd,
      (torque - rotationalTorque(c, w) - 0.02 * w - 1e-4 * w * w) / 0.12,
    ];
  };
  const exact = new Solver(rates, 5, { absoluteTolerance: 1e-7, relativeTolerance: 1e-7, maxSteps: 1e6 }).integrate(0, [0, 0, 0, 0, 0]);
  let [peak, truePeak] = [0, 0];
  for (let i = 1; i <= 3000; i++) {
    stepMachine(m, ControlWord.enableOperation, 50, 0.0005);
    const y = exact(i * 0.0005);
    const [isd, isq] = currents(y);
    peak = Math.max(peak, m.motor.current);
    truePeak = Math.max(truePeak, Math.hypot(isd, isq));
    // before that the shaft still swings into its field
    if (i % 600 === 0 && i > 600) expect(Math.abs(m.speed / present(y[4]) - 1)).toBeLessThan(0.002);
  }
  expect(Math.abs(peak / truePeak - 1)).toBeLessThan(0.04);
  // the steady state knows nothing of it
  const steady = operateInto(emptyOperation(), c, 0.03 * (400 / Math.sqrt(3)), 0.1, 0);
  expect(truePeak).toBeGreaterThan(2 * steady.current);
});

test('energy is neither made nor lost between shaft, losses and bus during a stop, to 0.1 %', () => {
  const s = spec({ decelerationTime: 0.8 }, noLoad, 0.05);
  const m = running({ ...s, rating: { ...s.rating, idleLoss: 0, lossPerAmpere: 0, overvoltageTrip: 5000, busCapacitance: 0.02 } }, 50, 7);
  const before = 0.5 * 0.05 * m.speed ** 2 + 0.5 * 0.02 * m.bus.voltage ** 2;
  let brought = 0;
  let lost = 0;
  for (let i = 0; i < 700; i++) {
    const w = m.speed;
    stepMachine(m, ControlWord.switchOn, 50, 0.001);
    const o = m.motor;
    lost += (o.statorCopperLoss + o.coreLoss + o.rotorCopperLoss + (rotationalTorque(s.circuit, w) * (w + m.speed)) / 2) * 0.001;
    brought += m.bus.rectifierPower * 0.001;
  }
  const after = 0.5 * 0.05 * m.speed ** 2 + 0.5 * 0.02 * m.bus.voltage ** 2;
  expect(Math.abs(before + brought - lost - after) / before).toBeLessThan(0.001);
});

test('halving the step changes published figures by less than 0.5 %', () => {
  for (const s of [
    spec({ decelerationTime: 4 }),
    spec({ decelerationTime: 90, accelerationTime: 20 }, { kind: 'torque', constant: 5, viscous: 0, quadratic: 0.007 }, 3, f32),
  ]) {
    const [a, b] = [0.001, 0.0005].map(
      (dt) =>
        lookAheadRun(
          {
            ...s,
            rating: { ...s.rating, overcurrentTrip: 500, current: 61 },
            drive: { ...s.drive, currentLimit: 90, overloadCurrent: 60, motorCurrent: 54, motorSpeed: s.circuit.poles === 4 ? 1475 : 2925 },
          },
          { reference: 50, runTime: 2, longest: 150, dt },
        ).summary,
    );
    expect(Math.abs(present(a).peakBus / present(b).peakBus - 1)).toBeLessThan(0.005);
    // the inrush of a cold motor lasts a few steps
    expect(Math.abs(present(a).peakCurrent / present(b).peakCurrent - 1)).toBeLessThan(0.01);
    expect(Math.abs(present(present(a).stopTime) / present(present(b).stopTime) - 1)).toBeLessThan(0.005);
    expect(Math.abs(present(present(a).startTime) / present(present(b).startTime) - 1)).toBeLessThan(0.005);
  }
});

test('a stop too fast for the inertia trips on overvoltage, a slower one does not, and a resistor cures it', () => {
  const heavy = (change: Partial<DriveParameters>) =>
    lookAheadRun(spec({ accelerationTime: 6, ...change }, noLoad, 0.15), { reference: 50, runTime: 1, longest: 120 }).summary;
  const fast = heavy({ decelerationTime: 1 });
  expect(fast.trip?.cause).toBe('overvoltage');
  const slow = heavy({ decelerationTime: 60 });
  expect(slow.trip).toBeNull();
  expect(slow.peakBus).toBeLessThan(fast.peakBus);
  expect(heavy({ decelerationTime: 2.5, chopper: 1 }).trip).toBeNull();
});

test('the ramp waits on a high bus when told to: no trip, a longer stop', () => {
  const s = lookAheadRun(spec({ decelerationTime: 1, busRampHold: 1 }, noLoad, 0.15), { reference: 50, runTime: 1, longest: 80 }).summary;
  expect(s.trip).toBeNull();
  expect(s.heldStopping).toBe('high bus');
  expect(s.stopTime).toBeGreaterThan(1.5);
});

test('the shortest stop is what the model says: it does not trip, and three quarters of it does', () => {
  const s = spec({}, noLoad, 0.15);
  const shortest = shortestStop(s, 50);
  const run = (decelerationTime: number) =>
    lookAheadRun({ ...s, drive: { ...s.drive, decelerationTime } }, { reference: 50, runTime: 2, longest: 80 }).summary;
  expect(run(shortest).trip).toBeNull();
  expect(run(shortest * 0.75).trip?.cause).toBe('overvoltage');
});

test('the current limit stretches the start and keeps the current near it', () => {
  const s = spec({ accelerationTime: 2, stopMode: 1, currentLimit: 20 }, noLoad, 0.6);
  const { summary } = lookAheadRun(s, { reference: 50, runTime: 1, longest: 90 });
  expect(summary.heldStarting).toBe('current limit');
  expect(summary.startTime).toBeGreaterThan(3);
  // the swing of a flux that comes after its field is over before the limit's controller has it
  expect(summary.peakCurrent).toBeLessThan(20 * 1.5);
  expect(summary.peakRunningCurrent).toBeLessThan(20);
  expect(summary.trip).toBeNull();
});

test('coasting gives nothing back to the bus', () => {
  const { summary } = lookAheadRun(spec({ stopMode: 1 }, undefined, 0.15), { reference: 50, runTime: 2, longest: 60 });
  expect(summary.peakBus).toBeLessThan(570);
  expect(summary.trip).toBeNull();
});

test('an overloaded motor trips on overload, not before its class allows', () => {
  const s = spec({ overloadCurrent: 8 }, { kind: 'torque', constant: 24, viscous: 0, quadratic: 0 });
  const m = running(s, 50, 300);
  expect(m.trip?.cause).toBe('motorOverload');
  expect(present(m.trip).time).toBeGreaterThan(20);
  expect(m.state).toBe(DriveState.fault);
  expect(m.motor.current).toBe(0);
});

test('reverse is a mirror, and forbidden reverse stands still', () => {
  const forward = running(spec({}, noLoad), 30, 8);
  const back = running(spec({}, noLoad), -30, 8);
  expect(back.speed).toBeCloseTo(-forward.speed, 6);
  expect(back.motor.current).toBeCloseTo(forward.motor.current, 6);
  expect(clampReference({ ...drive, reversePermit: 0 }, -30)).toBe(0);
  expect(clampReference({ ...drive, minimumFrequency: 20 }, 5)).toBe(20);
  expect(clampReference({ ...drive, maximumFrequency: 45 }, 50)).toBe(45);
});

test('slip compensation brings the loaded speed nearer to synchronous', () => {
  const load: Load = { kind: 'torque', constant: 20, viscous: 0, quadratic: 0 };
  const without = running(spec({}, load), 30, 9).speed;
  const with100 = running(spec({ slipCompensation: 1 }, load), 30, 9).speed;
  const synchronous = 2 * Math.PI * 30;
  expect(synchronous - with100).toBeLessThan(0.4 * (synchronous - without));
});

test('no figure ever stops being one, the bus never goes negative, and the same run is the same run', () => {
  fc.assert(
    fc.property(
      fc.record({
        accelerationTime: fc.double({ min: 0.1, max: 20, noNaN: true }),
        decelerationTime: fc.double({ min: 0.1, max: 20, noNaN: true }),
        currentLimit: fc.double({ min: 3, max: 34, noNaN: true }),
        startBoost: fc.double({ min: 0, max: 0.15, noNaN: true }),
        slipCompensation: fc.double({ min: 0, max: 1.5, noNaN: true }),
        controlMethod: fc.constantFrom(...Object.values(ControlMethod)),
        stopMode: fc.constantFrom(...Object.values(StopMode)),
        startMode: fc.constantFrom(...Object.values(StartMode)),
        busRampHold: fc.constantFrom(0, 1),
        chopper: fc.constantFrom(0, 1),
        inertia: fc.double({ min: 0.01, max: 3, noNaN: true }),
        reference: fc.double({ min: -50, max: 50, noNaN: true }),
        // a field that is no setting of a drive does not compile
      } satisfies { [Field in keyof DriveParameters | 'inertia' | 'reference']?: fc.Arbitrary<number> }),
      ({ inertia, reference, ...change }) => {
        const s = spec(change, undefined, inertia);
        const one = lookAheadRun(s, { reference, runTime: 0.5, longest: 12 });
        const two = lookAheadRun(s, { reference, runTime: 0.5, longest: 12 });
        expect(one).toEqual(two);
        for (const channel of Object.values(one.series) as Float64Array[]) for (const v of channel) expect(Number.isFinite(v)).toBe(true);
        expect(Math.min(...one.series.busVoltage)).toBeGreaterThan(0);
      },
    ),
    { numRuns: 25 },
  );
});
