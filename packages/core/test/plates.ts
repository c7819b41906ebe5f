import type { StampedPlate } from '../src';

/**
 * Plates for the plate-to-circuit check. Output steps are the preferred series; efficiencies are IE3 of IEC 60034-30-1 (50 Hz) and
 * NEMA MG 1 table 12-12 (60 Hz), both from memory; speeds and power factors are those usual for the size (common practice);
 * current follows from P = √3 U I cos φ η and is rounded to three digits as a plate would be. The demo plates stand at the end.
 */
const row = (standard: 'IEC' | 'NEMA', power: number, frequency: number, speed: number, powerFactor: number, efficiency: number): StampedPlate => {
  const watts = standard === 'NEMA' ? power * 745.7 : power * 1000;
  const voltage = standard === 'NEMA' ? 460 : 400;
  const current = Number((watts / (Math.sqrt(3) * voltage * powerFactor * (efficiency / 100))).toPrecision(3));
  return {
    standard,
    power,
    powerUnit: standard === 'NEMA' ? 'hp' : 'kW',
    voltage,
    connection: power > 3 ? 'delta' : 'star',
    current,
    frequency,
    speed,
    powerFactor,
    efficiency,
    design: standard === 'NEMA' ? 'B' : null,
    serviceFactor: null,
  };
};

export const plates: StampedPlate[] = [
  row('IEC', 0.18, 50, 2780, 0.78, 65.9),
  row('IEC', 0.18, 50, 1370, 0.64, 69.9),
  row('IEC', 0.37, 50, 2800, 0.8, 73.8),
  row('IEC', 0.37, 50, 1400, 0.7, 77.3),
  row('IEC', 0.55, 50, 930, 0.68, 77.2),
  row('IEC', 0.75, 50, 2880, 0.82, 80.7),
  row('IEC', 0.75, 50, 1430, 0.75, 82.5),
  row('IEC', 0.75, 50, 695, 0.62, 75.0),
  row('IEC', 1.5, 50, 1440, 0.78, 85.3),
  row('IEC', 2.2, 50, 2890, 0.85, 85.9),
  row('IEC', 2.2, 50, 955, 0.74, 84.3),
  row('IEC', 4, 50, 1455, 0.82, 88.6),
  row('IEC', 4, 50, 715, 0.7, 84.8),
  row('IEC', 5.5, 50, 2920, 0.87, 89.2),
  row('IEC', 7.5, 50, 970, 0.78, 89.1),
  row('IEC', 11, 50, 1465, 0.84, 91.4),
  row('IEC', 15, 50, 2945, 0.88, 91.9),
  row('IEC', 18.5, 50, 730, 0.76, 90.1),
  row('IEC', 22, 50, 1470, 0.85, 93.0),
  row('IEC', 30, 50, 980, 0.83, 92.9),
  row('IEC', 45, 50, 1478, 0.86, 94.2),
  row('IEC', 55, 50, 2965, 0.89, 94.3),
  row('IEC', 75, 50, 988, 0.84, 94.6),
  row('IEC', 90, 50, 1485, 0.87, 95.2),
  row('IEC', 132, 50, 742, 0.8, 94.0),
  row('IEC', 160, 50, 1488, 0.87, 95.8),
  row('IEC', 200, 50, 2978, 0.9, 95.8),
  row('NEMA', 0.5, 60, 1730, 0.68, 76.0),
  row('NEMA', 1, 60, 3480, 0.84, 77.0),
  row('NEMA', 1, 60, 1755, 0.72, 85.5),
  row('NEMA', 3, 60, 1165, 0.7, 88.5),
  row('NEMA', 5, 60, 1750, 0.8, 89.5),
  row('NEMA', 10, 60, 3520, 0.88, 90.2),
  row('NEMA', 25, 60, 1770, 0.83, 93.6),
  row('NEMA', 50, 60, 1180, 0.82, 94.1),
  row('NEMA', 100, 60, 1785, 0.86, 95.4),
  row('NEMA', 150, 60, 3575, 0.9, 95.0),
  row('NEMA', 250, 60, 1788, 0.86, 96.2),
  row('NEMA', 20, 60, 880, 0.74, 91.0),
];

export const p11: StampedPlate = { ...row('IEC', 7.5, 50, 2925, 0.88, 90.1), current: 13.6 };
export const c07: StampedPlate = { ...row('IEC', 2.2, 50, 1445, 0.79, 86.7), current: 4.64, connection: 'star' };
export const m55: StampedPlate = { ...row('IEC', 0.18, 50, 1390, 0.65, 65), current: 0.61, connection: 'star' };
export const f32: StampedPlate = { ...row('IEC', 30, 50, 1475, 0.85, 93.6), current: 54.4 };
export const p41: StampedPlate = { ...row('IEC', 4, 50, 1450, 0.82, 88.6), current: 7.9 };
export const c21: StampedPlate = {
  standard: 'NEMA',
  power: 3,
  powerUnit: 'hp',
  voltage: 460,
  connection: 'star',
  current: 3.9,
  frequency: 60,
  speed: 1760,
  powerFactor: null,
  efficiency: null,
  design: 'B',
  serviceFactor: 1.15,
};
export const demoPlates = [p11, c07, m55, f32, p41, c21];
