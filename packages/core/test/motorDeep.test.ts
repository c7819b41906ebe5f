import {
  breakdown,
  circuitFromPlate,
  coldMotor,
  completePlate,
  directCurrentBraking,
  fanCooling,
  fieldWeakeningOnset,
  insulationAt40,
  magnetisingShare,
  motorThermal,
  operate,
  operateOpenPhase,
  operateUnbalanced,
  raisedBase,
  ratedRise,
  sequenceVoltages,
  seriesAndParallel,
  starAndDelta,
  starting,
  stepMotorTemperature,
  unbalanceDerating,
  usualShaftShare,
  voltageUnbalance,
} from '../src';
import { present } from '../src/present';
import { c07, f32, p11, plates } from './plates';

const circuit = (plate: Parameters<typeof completePlate>[0]) => {
  const e = circuitFromPlate(completePlate(plate));
  if (!e.ok) throw new Error(e.sentence);
  return e.circuit;
};
const phase = 400 / Math.sqrt(3);

describe('iron', () => {
  test('at the plate’s load nothing changes: the estimated machine still gives back its plate', () => {
    const c = circuit(p11);
    const o = operate(c, phase, 50, 1 - 2925 / 3000);
    expect(o.current / 13.6).toBeCloseTo(1, 3);
    expect(magnetisingShare(c, 1)).toBeCloseTo(1, 12);
  });
  // common practice: standard motors work at the knee, so a tenth more volts costs far more than a tenth more no-load current
  test('over-excitation costs more current than volts', () => {
    const c = circuit(p11);
    const noLoad = (volts: number) => operate(c, volts, 50, 0.0005).current;
    expect(noLoad(1.1 * phase) / noLoad(phase)).toBeGreaterThan(1.15);
    expect(noLoad(0.8 * phase) / noLoad(phase)).toBeLessThan(0.8);
  });
  test('a 400 V 50 Hz motor on 400 V at 40 Hz is over-excited as at 500 V', () => {
    const c = circuit(p11);
    const o = operate(c, phase, 40, 0.001);
    const same = operate(c, phase * 1.25, 50, 0.001);
    expect(o.current / same.current).toBeGreaterThan(0.93);
    expect(o.current / same.current).toBeLessThan(1.07);
  });
});

test('deep bars: more starting torque, nothing changed at rated slip', () => {
  const c = circuit(f32);
  const plain = { ...c, skin: undefined };
  const slip = 25 / 1500;
  expect(operate(c, phase, 50, slip).torque / operate(plain, phase, 50, slip).torque).toBeCloseTo(1, 2);
  expect(starting(c, phase, 50).torque / starting(plain, phase, 50).torque).toBeGreaterThan(1.3);
});

describe('two supplies for one motor', () => {
  const use = { connection: 'delta' as const, voltage: 230, current: 12 };
  test('star and delta: √3, there and back', () => {
    const star = starAndDelta(use);
    expect(star.voltage).toBeCloseTo(398.4, 1);
    expect(star.current).toBeCloseTo(6.93, 2);
    expect(starAndDelta(star).voltage).toBeCloseTo(230, 9);
  });
  // NEMA dual voltage 230/460: half the current at twice the volts
  test('series and parallel: 2', () => {
    expect(seriesAndParallel({ connection: 'parallel', voltage: 230, current: 7.8 })).toEqual({ connection: 'series', voltage: 460, current: 3.9 });
  });
  // "87 Hz": 50 · √3 = 86.6 Hz at 398 V, √3 of the power (common practice of the trade)
  test('a 230 V delta winding run to 87 Hz', () => {
    const base = raisedBase(completePlate({ ...c07, voltage: 230, connection: 'delta', current: 8.04 }));
    expect(base.frequency).toBeCloseTo(86.6, 1);
    expect(base.voltage).toBeCloseTo(398.4, 1);
    expect(base.power / 2200).toBeGreaterThan(1.73);
    expect(base.power / 2200).toBeLessThan(1.78);
  });
  // a 460 V 60 Hz motor on 400 V keeps its flux up to 52.2 Hz
  test('field weakening begins where the volts end', () => {
    expect(fieldWeakeningOnset(60, 460, 400)).toBeCloseTo(52.17, 2);
  });
  test('above it breakdown torque falls with the square of frequency', () => {
    const c = { ...circuit(p11), saturation: 0, r1: 1e-6 };
    expect(breakdown(c, phase, 75).torque / breakdown(c, phase, 50).torque).toBeCloseTo((50 / 75) ** 2, 2);
  });
});

describe('unbalance', () => {
  // NEMA MG 1 (from memory): 460, 467, 450 V have a mean of 459 and a largest deviation of 9: 1.96 %
  test('of volts, and its derating', () => {
    expect(voltageUnbalance(460, 467, 450)).toBeCloseTo(1.96, 2);
    expect(unbalanceDerating(0.5)).toBe(1);
    expect(unbalanceDerating(3)).toBeCloseTo(0.88, 9);
    expect(unbalanceDerating(3.5)).toBeCloseTo(0.85, 9);
    expect(unbalanceDerating(5.1)).toBeNull();
  });
  // IEC 61000-4-30: equal line voltages have no negative sequence; the rest by Fortescue on the phasors themselves
  test('sequences from three line voltages agree with the phasors', () => {
    expect(sequenceVoltages(400, 400, 400).negative).toBeCloseTo(0, 4);
    const [ab, bc, ca] = [400, 390, 405];
    // triangle closed in the plane: ab along x, then bc and ca by their lengths
    const x = (ab ** 2 + ca ** 2 - bc ** 2) / (2 * ab);
    const y = Math.sqrt(ca ** 2 - x ** 2);
    const u = [
      [ab, 0],
      [x - ab, y],
      [-x, -y],
    ] as const;
    const turned = (k: number, [re, im]: readonly [number, number]) => {
      const a = (k * 2 * Math.PI) / 3;
      return [re * Math.cos(a) - im * Math.sin(a), re * Math.sin(a) + im * Math.cos(a)] as const;
    };
    const sum = (k: number) => {
      const parts = u.map((p, i) => turned(k * i, p));
      return (
        Math.hypot(
          parts.reduce((a, p) => a + p[0], 0),
          parts.reduce((a, p) => a + p[1], 0),
        ) /
        3 /
        Math.sqrt(3)
      );
    };
    const both = [sum(1), sum(-1)].sort((a, b) => b - a);
    const s = sequenceVoltages(ab, bc, ca);
    expect(s.positive).toBeCloseTo(present(both[0]), 6);
    expect(s.negative).toBeCloseTo(present(both[1]), 6);
    expect(() => sequenceVoltages(400, 100, 100)).toThrow(RangeError);
  });
  // NEMA MG 1 14.36 (from memory): current unbalance is some six to ten times that of the volts
  test('a little unbalance of volts is a lot of current', () => {
    const c = circuit(f32);
    const s = sequenceVoltages(400, 392, 408);
    const o = operateUnbalanced(c, s, 50, c.ratedSpeed);
    const ratio = o.negativeCurrent / o.positiveCurrent / (s.negative / s.positive);
    expect(ratio).toBeGreaterThan(4);
    expect(ratio).toBeLessThan(10);
    expect(o.torque).toBeLessThan(operate(c, s.positive, 50, 25 / 1500).torque);
  });
  test('with one lead open a motor cannot start, and carries its load at far more current', () => {
    const c = circuit(p11);
    const o = { current: 0, positiveCurrent: 0, negativeCurrent: 0, torque: 0, copperLoss: 0, input: 0 };
    operateOpenPhase(o, c, phase, 50, 0);
    expect(o.torque).toBeCloseTo(0, 9);
    operateOpenPhase(o, c, phase, 50, 0.96 * 314.16);
    expect(o.torque).toBeGreaterThan(10);
    expect(o.current).toBeGreaterThan(1.5 * operate(c, phase, 50, 0.04).current * (o.torque / operate(c, phase, 50, 0.04).torque));
  });
});

test('direct current brakes most at low speed, and not at all at standstill', () => {
  const c = circuit(p11);
  const at = (speed: number) => directCurrentBraking(c, 10, speed).torque;
  expect(at(0)).toBeCloseTo(0, 4);
  const peak = Math.max(...Array.from({ length: 300 }, (_, i) => at(i + 1)));
  const where = Array.from({ length: 300 }, (_, i) => at(i + 1)).indexOf(peak) + 1;
  expect(where).toBeLessThan(0.1 * 314);
  // Dubey: the peak lies where R₂/S = X_m + X₂
  expect(where / 314.16).toBeCloseTo(c.r2 / (c.xm + c.x2), 2);
  expect(directCurrentBraking(c, 20, 100).torque / at(100)).toBeCloseTo(4, 9);
});

// above its peak the torque falls as R₂/S, so that what the bars add to R₂ it has more of: at rated frequency in the rotor the whole skin factor
test('deep bars help direct current to brake at speed and leave the end of the stop as it was', () => {
  const c = { ...circuit(p11), skin: 2.5 };
  const plain = { ...c, skin: undefined };
  const gain = (share: number) => {
    const speed = (share * 4 * Math.PI * c.ratedFrequency) / c.poles;
    return directCurrentBraking(c, 10, speed).torque / directCurrentBraking(plain, 10, speed).torque;
  };
  expect(gain(1)).toBeCloseTo(2.5, 1);
  expect(gain(0.01)).toBeCloseTo(1, 3);
});

test('a drive that was not told the power of its motor guesses its torque, from 0.18 to 200 kW', () => {
  const off = plates
    .filter((p) => p.standard === 'IEC')
    .map((p) => {
      const voltAmperes = Math.sqrt(3) * p.voltage * p.current;
      return Math.abs((voltAmperes * usualShaftShare(voltAmperes)) / (1000 * p.power) - 1);
    })
    .sort((a, b) => a - b);
  expect(off[Math.floor(off.length / 2)]).toBeLessThan(0.1);
  // the worst has eight poles and little power factor
  expect(off.at(-1)).toBeLessThan(0.35);
});

describe('temperature', () => {
  const losses = 820;
  const p = motorThermal(losses, 7500);
  const settle = (winding: number, other: number, cooling: number) => {
    const t = coldMotor(40);
    for (let i = 0; i < 40_000; i++) stepMotorTemperature(t, p, winding, other, cooling, 40, 1);
    return t;
  };
  test('rated losses bring the rated rise', () => {
    expect(settle(0.7 * losses, 0.3 * losses, 1).winding - 40).toBeCloseTo(ratedRise, 0);
  });
  test('a shaft fan that hardly turns cools little: the same losses are far hotter', () => {
    expect(fanCooling(false, 0)).toBeCloseTo(0.3, 9);
    expect(fanCooling(true, 0)).toBe(1);
    expect(settle(0.7 * losses, 0.3 * losses, fanCooling(false, 0.1)).winding).toBeGreaterThan(150);
  });
});

// IEEE 43 (from memory): thermoplastic 20 MΩ at 20 °C is 5; thermosetting 15 MΩ at 20 °C is 11.4 and 2 MΩ at 60 °C is 4.5 MΩ at 40 °C
test('insulation readings are taken to 40 °C by the winding’s own law, unknown by the one that gives less', () => {
  expect(insulationAt40(20e6, 20, 'thermoplastic')).toBeCloseTo(5e6, 0);
  expect(insulationAt40(3e6, 60, 'thermoplastic')).toBeCloseTo(12e6, 0);
  expect(insulationAt40(15e6, 20, 'thermosetting') / 1e6).toBeCloseTo(11.4, 1);
  expect(insulationAt40(2e6, 60, 'thermosetting') / 1e6).toBeCloseTo(4.5, 1);
  for (const t of [10, 40, 80])
    expect(insulationAt40(1e6, t)).toBe(Math.min(insulationAt40(1e6, t, 'thermoplastic'), insulationAt40(1e6, t, 'thermosetting')));
});
