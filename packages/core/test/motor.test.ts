import fc from 'fast-check';
import { present } from '../src/present';
import { breakdown, circuitFromPlate, completePlate, operate, operateInto, emptyOperation, speedCurve, starting } from '../src';
import { demoPlates, p11, plates } from './plates';
import { textbook } from './specs';

const volts = 460 / Math.sqrt(3);
const within = (value: number, wanted: number, share: number) => expect(Math.abs(value / wanted - 1)).toBeLessThanOrEqual(share);

test('the textbook motor at 2.2 % slip, within 1 %', () => {
  const o = operate(textbook, volts, 60, 0.022);
  within(o.current, 18.88, 0.01);
  within((Math.acos(o.powerFactor) * 180) / Math.PI, 33.6, 0.01);
  within(o.powerFactor, 0.833, 0.01);
  within(o.torque, 62.8, 0.01);
  within(o.shaftTorque, 56.9, 0.01);
  within(o.efficiency, 0.837, 0.01);
});

test('the textbook motor at its extremes, within 3 %', () => {
  const b = breakdown(textbook, volts, 60);
  within(b.torque, 229, 0.03);
  within(b.slip, 0.2, 0.03);
  within(starting(textbook, volts, 60).torque, 104, 0.03);
});

test('breakdown from Thévenin is the largest torque of the circuit itself', () => {
  const { r1, x1 } = textbook;
  for (const rFe of [Infinity, 400]) {
    const c = { ...textbook, rFe, r1, x1 };
    const top = Math.max(...Array.from({ length: 4000 }, (_, i) => operate(c, volts, 60, (i + 1) / 4000).torque));
    within(breakdown(c, volts, 60).torque, top, 0.001);
  }
});

test('power is conserved in the circuit, motoring and regenerating', () => {
  fc.assert(
    fc.property(fc.double({ min: -0.5, max: 1, noNaN: true }), fc.double({ min: 5, max: 80, noNaN: true }), (slip, f) => {
      const o = operate({ ...textbook, rFe: 300 }, (volts * f) / 60, f, slip);
      expect(o.input).toBeCloseTo(o.statorCopperLoss + o.coreLoss + o.airGapPower, 6);
      expect(o.airGapPower - o.rotorCopperLoss).toBeCloseTo((o.torque * ((1 - slip) * 4 * Math.PI * f)) / 4, 6);
    }),
  );
});

test('core loss and torque at constant V/f: same flux, same slip frequency, same torque without stator resistance', () => {
  const ideal = { ...textbook, r1: 1e-9, rFe: Infinity };
  const slipHertz = 1.2;
  const full = operate(ideal, volts, 60, slipHertz / 60).torque;
  const third = operate(ideal, volts / 3, 20, slipHertz / 20).torque;
  within(third, full, 1e-6);
});

describe('plate to circuit', () => {
  test('enough plates: 0.18 to 200 kW, 2 to 8 poles, both frequencies, both standards', () => {
    expect(plates.length).toBeGreaterThanOrEqual(30);
    const full = plates.map(completePlate);
    expect(new Set(full.map((p) => p.poles))).toEqual(new Set([2, 4, 6, 8]));
    expect(Math.min(...full.map((p) => p.power))).toBe(180);
    expect(Math.max(...full.map((p) => p.power))).toBe(200_000);
  });

  test.each([...plates, ...demoPlates].map((p) => [`${p.power} ${p.powerUnit} ${p.frequency} Hz ${p.speed} rpm`, p] as const))(
    '%s gives back its own plate within 1 %%',
    (_name, stamped) => {
      const plate = completePlate(stamped);
      const estimate = circuitFromPlate(plate);
      if (!estimate.ok) throw new Error(estimate.sentence);
      const o = operate(estimate.circuit, plate.voltage / Math.sqrt(3), plate.frequency, plate.slip);
      within(o.output, plate.power, 0.01);
      within(o.current, plate.current, 0.01);
      within(o.powerFactor, plate.powerFactor, 0.01);
      const pullOut = breakdown(estimate.circuit, plate.voltage / Math.sqrt(3), plate.frequency);
      // IEC 60034-12: at least 1.6 for design N; above 4 no standard motor goes (common practice)
      const ratio = pullOut.torque / (plate.power / estimate.circuit.ratedSpeed);
      expect(ratio).toBeGreaterThan(1.6);
      expect(ratio).toBeLessThan(4);
      for (const share of Object.values(estimate.spread)) expect(share).toBeLessThan(1.5);
    },
  );

  test('a plate no machine could have is refused with a sentence', () => {
    const plate = completePlate(p11);
    for (const bad of [
      { ...plate, power: 9000 },
      { ...plate, slip: 0.3, speed: 2100 },
    ]) {
      const answer = circuitFromPlate(bad);
      expect(answer.ok).toBe(false);
      if (!answer.ok) expect(answer.sentence).toMatch(/\.$/);
    }
  });

  test('never throws and never gives a figure that is not one', () => {
    fc.assert(
      fc.property(
        fc.record({
          power: fc.double({ min: 100, max: 3e5, noNaN: true }),
          current: fc.double({ min: 0.2, max: 600, noNaN: true }),
          powerFactor: fc.double({ min: 0.3, max: 0.99, noNaN: true }),
          speed: fc.double({ min: 500, max: 2999, noNaN: true }),
        }),
        (x) => {
          const stamped = { ...p11, ...x, power: x.power / 1000, efficiency: null };
          const answer = circuitFromPlate(completePlate(stamped));
          if (answer.ok) for (const v of [answer.circuit.r1, answer.circuit.x1, answer.circuit.xm, answer.circuit.r2]) expect(v).toBeGreaterThan(0);
          else expect(answer.sentence.length).toBeGreaterThan(20);
        },
      ),
      { numRuns: 60 },
    );
  });
});

test('the curve over speed starts at standstill and ends at synchronous speed with no torque left', () => {
  const curve = speedCurve(textbook, volts, 60);
  expect(present(curve[0]).speed).toBe(0);
  expect(present(curve.at(-1)).speed).toBeCloseTo(1800, 6);
  within(present(curve[0]).current, starting(textbook, volts, 60).current, 1e-9);
  expect(present(curve.at(-1)).torque).toBeLessThanOrEqual(0);
});

test('operateInto fills the object it is given', () => {
  const out = emptyOperation();
  expect(operateInto(out, textbook, volts, 60, 180)).toBe(out);
});
