import {
  balanceMismatch,
  checkPlate,
  completePlate,
  ie3Efficiency,
  polesFrom,
  ratedTorque,
  slip,
  synchronousSpeed,
  tableFullLoadCurrent,
  toSi,
  type StampedPlate,
} from '../src';
import { present } from '../src/present';
import { c21, demoPlates, p11, plates } from './plates';

// IEC 60034-1; any textbook on electrical machines
test('synchronous speed, slip and poles', () => {
  expect(synchronousSpeed(50, 2)).toBe(3000);
  expect(synchronousSpeed(60, 4)).toBe(1800);
  expect(slip(60, 4, 1760)).toBeCloseTo(0.02222, 5);
  expect(
    [
      [50, 2925, 2],
      [50, 1450, 4],
      [50, 970, 6],
      [60, 1760, 4],
      [60, 880, 8],
    ].map(([f, n]) => polesFrom(present(f), present(n))),
  ).toEqual([2, 4, 6, 4, 8]);
  expect(polesFrom(50, 3000)).toBeNull();
});

// trade constants: 9550 kW/rpm and 5252 hp/rpm
test('rated torque by both constants', () => {
  expect(ratedTorque(7500, 2925)).toBeCloseTo((9550 * 7.5) / 2925, 1);
  expect(ratedTorque(toSi(25, 'hp'), 1760) / 1.3558179483314).toBeCloseTo((5252 * 25) / 1760, 1);
});

// IEC 60034-30-1 four-pole column and NFPA 70 table 430.250, from memory
test('published tables', () => {
  for (const [kw, eta] of [
    [0.75, 82.5],
    [2.2, 86.7],
    [7.5, 90.4],
    [30, 93.6],
    [75, 95.0],
  ] as const)
    expect(ie3Efficiency(kw * 1000, 4) * 100).toBeCloseTo(eta, 6);
  for (const [hp, a] of [
    [1, 2.1],
    [3, 4.8],
    [5, 7.6],
    [10, 14],
    [25, 34],
    [50, 65],
    [100, 124],
  ] as const) {
    expect(tableFullLoadCurrent(toSi(hp, 'hp'), 460)).toBeCloseTo(a, 6);
    expect(tableFullLoadCurrent(toSi(hp, 'hp'), 230)).toBeCloseTo(2 * a, 6);
  }
  expect(tableFullLoadCurrent(1e6, 460)).toBeNull();
});

test('sound plates raise nothing', () => {
  for (const plate of [...plates, ...demoPlates])
    expect({ plate: `${plate.power} ${plate.powerUnit} ${plate.speed}`, findings: checkPlate(plate) }).toEqual({
      plate: expect.anything(),
      findings: [],
    });
});

interface Misreading {
  name: string;
  plate: StampedPlate;
  field: string;
  change: Partial<StampedPlate> | undefined;
}

const misreadings: Misreading[] = [
  { name: '4-pole 60 Hz speed on 50 Hz', plate: { ...c21, frequency: 50 }, field: 'frequency', change: { frequency: 60 } },
  { name: '4-pole speed with twice the frequency', plate: { ...p11, speed: 1450, frequency: 100 }, field: 'frequency', change: { frequency: 50 } },
  { name: 'speed of the field', plate: { ...p11, speed: 3000 }, field: 'speed', change: undefined },
  { name: 'kW for hp', plate: { ...p11, power: 10, powerUnit: 'kW' }, field: 'powerUnit', change: { powerUnit: 'hp' } },
  { name: 'hp for kW', plate: { ...p11, powerUnit: 'hp' }, field: 'powerUnit', change: { powerUnit: 'kW' } },
  { name: 'cos φ in percent', plate: { ...p11, powerFactor: 88 }, field: 'powerFactor', change: { powerFactor: 0.88 } },
  { name: 'η as a share', plate: { ...p11, efficiency: 0.901 }, field: 'efficiency', change: { efficiency: 90.1 } },
  { name: 'delta current with star volts', plate: { ...p11, current: 23.6 }, field: 'current', change: { current: 13.6 } },
  { name: 'low-voltage current of a dual plate', plate: { ...c21, current: 7.8 }, field: 'current', change: { current: 3.9 } },
  { name: 'decimal point of the current', plate: { ...p11, current: 136 }, field: 'current', change: { current: 13.6 } },
  { name: 'a digit of the speed left out', plate: { ...p11, speed: 293 }, field: 'speed', change: { speed: 2930 } },
  { name: 'a digit of a four-pole speed left out', plate: { ...p11, speed: 145 }, field: 'speed', change: { speed: 1450 } },
  { name: 'decimal point, nothing said of η', plate: { ...p11, current: 136, efficiency: null }, field: 'current', change: { current: 13.6 } },
  { name: 'decimal point, nothing said of cos φ', plate: { ...p11, current: 136, powerFactor: null }, field: 'current', change: { current: 13.6 } },
  {
    name: 'decimal point, neither',
    plate: { ...p11, current: 136, powerFactor: null, efficiency: null },
    field: 'current',
    change: { current: 13.6 },
  },
  { name: 'decimal point of the output', plate: { ...p11, power: 75 }, field: 'power', change: { power: 7.5 } },
  { name: 'no power at all', plate: { ...p11, power: 0 }, field: 'power', change: undefined },
];

test.each(misreadings)('$name is told, with what it probably should be', ({ plate, field, change }) => {
  const [first] = checkPlate(plate);
  expect(first?.field).toBe(field);
  expect(first?.remedy?.change).toEqual(change);
  expect(first?.sentence).toMatch(/\.$/);
  if (change) expect(checkPlate({ ...plate, ...change })).toEqual([]);
});

test('twelve poles of a large slow motor are believed, of a small one they are not', () => {
  const slow = { ...p11, power: 90, current: 185, speed: 492, powerFactor: 0.76, efficiency: 93.4 };
  expect(checkPlate(slow)).toEqual([]);
  expect(checkPlate({ ...p11, speed: 492 })[0]).toMatchObject({ field: 'speed', severity: 'warning' });
});

test('balance of the demo pump is within half a percent', () => {
  expect(Math.abs(present(balanceMismatch(p11)))).toBeLessThan(0.005);
});

test('what is missing is worked out and marked', () => {
  const noEta = completePlate({ ...p11, efficiency: null });
  expect(noEta.origin).toEqual({ powerFactor: 'stamped', efficiency: 'worked out' });
  expect(noEta.efficiency).toBeCloseTo(0.901, 2);
  const neither = completePlate(c21);
  expect(neither.origin).toEqual({ powerFactor: 'estimated', efficiency: 'estimated' });
  expect(neither.powerFactor).toBeGreaterThan(0.75);
  expect(neither.powerFactor).toBeLessThan(0.9);
  expect(() => completePlate({ ...p11, speed: 3000 })).toThrow('above every synchronous speed');
});
