import { toSi } from '../units';
import { present } from '../present';

/** An induction motor's nameplate as stamped, in the units stamped. `null` marks what the plate does not give. */
export interface StampedPlate {
  standard: 'IEC' | 'NEMA';
  power: number;
  powerUnit: 'kW' | 'hp';
  /** V, line to line, for the connection used */
  voltage: number;
  connection: 'star' | 'delta';
  /** A, for the connection used */
  current: number;
  /** Hz */
  frequency: number;
  /** rpm */
  speed: number;
  /** cos φ, 0 to 1 */
  powerFactor: number | null;
  /** % */
  efficiency: number | null;
  design: 'A' | 'B' | 'C' | 'D' | null;
  serviceFactor: number | null;
  /** leads in the terminal box; not said when absent */
  leads?: 3 | 6 | 9;
  /** how the halves of nine leads are joined */
  joined?: 'series' | 'parallel';
  /** what the drive works with: the frequency stamped, or √3 of it with the volts of star on windings in delta; see `raisedBase` */
  base?: 'rated' | 'raised';
}

export type Origin = 'stamped' | 'worked out' | 'estimated';

/** A plate in SI with the gaps filled; `origin` says which figures were not stamped. */
export interface Plate {
  /** W at the shaft */
  power: number;
  /** V line to line */
  voltage: number;
  /** A line */
  current: number;
  /** Hz */
  frequency: number;
  /** rpm */
  speed: number;
  powerFactor: number;
  /** 0 to 1 */
  efficiency: number;
  poles: number;
  slip: number;
  connection: 'star' | 'delta';
  design: 'A' | 'B' | 'C' | 'D';
  origin: { powerFactor: Origin; efficiency: Origin };
}

/** Synchronous speed in rpm, n_s = 120 f / p (IEC 60034-1; any textbook on electrical machines). */
export const synchronousSpeed = (frequency: number, poles: number): number => (120 * frequency) / poles;

/** Slip, (n_s − n) / n_s, dimensionless. */
export const slip = (frequency: number, poles: number, speed: number): number => {
  const ns = synchronousSpeed(frequency, poles);
  return (ns - speed) / ns;
};

/** The even number of poles whose synchronous speed is the smallest one above the rated speed; null when none from 2 to 24 fits. */
export function polesFrom(frequency: number, speed: number): number | null {
  if (!(frequency > 0) || !(speed > 0)) return null;
  for (let p = 24; p >= 2; p -= 2) if (synchronousSpeed(frequency, p) > speed) return p;
  return null;
}

/** Rated torque in N·m, T = P/ω with P in W and n in rpm. */
export const ratedTorque = (power: number, speed: number): number => power / ((speed * 2 * Math.PI) / 60);

/** Electrical input in W, √3 U I cos φ. */
export const inputPower = (voltage: number, current: number, powerFactor: number): number => Math.sqrt(3) * voltage * current * powerFactor;

export const stampedPower = (p: Pick<StampedPlate, 'power' | 'powerUnit'>): number => toSi(p.power, p.powerUnit);

/**
 * Fills what the plate leaves out. One of η and cos φ missing is solved from P = √3 U I cos φ η; both missing takes η from the
 * IE3 table for the size and solves cos φ. Call it on a plate that `checkPlate` found no error in.
 * @throws RangeError when no pole number fits.
 */
export function completePlate(s: StampedPlate): Plate {
  const poles = polesFrom(s.frequency, s.speed);
  if (poles === null) throw new RangeError(`${s.speed} rpm is above every synchronous speed at ${s.frequency} Hz`);
  const power = stampedPower(s);
  const apparent = Math.sqrt(3) * s.voltage * s.current;
  const origin: Plate['origin'] = { powerFactor: 'stamped', efficiency: 'stamped' };
  let efficiency = s.efficiency === null ? null : s.efficiency / 100;
  let powerFactor = s.powerFactor;
  if (efficiency === null && powerFactor === null) {
    efficiency = ie3Efficiency(power, poles);
    origin.efficiency = 'estimated';
  }
  if (efficiency === null && powerFactor !== null) {
    efficiency = power / (apparent * powerFactor);
    origin.efficiency = 'worked out';
  }
  if (powerFactor === null) {
    powerFactor = power / (apparent * present(efficiency));
    origin.powerFactor = origin.efficiency === 'estimated' ? 'estimated' : 'worked out';
  }
  return {
    power,
    voltage: s.voltage,
    current: s.current,
    frequency: s.frequency,
    speed: s.speed,
    powerFactor,
    efficiency: present(efficiency),
    poles,
    slip: slip(s.frequency, poles, s.speed),
    connection: s.connection,
    design: s.design ?? 'B',
    origin,
  };
}

/** IE3 efficiency, %, by output in kW and poles, 50 Hz: IEC 60034-30-1:2014 table (from memory). Rows: kW, 2, 4, 6, 8 poles. */
const ie3Table: ReadonlyArray<readonly [number, number, number, number, number]> = [
  [0.12, 60.8, 64.8, 57.7, 50.7],
  [0.18, 65.9, 69.9, 63.9, 58.7],
  [0.25, 69.7, 73.5, 68.6, 64.1],
  [0.37, 73.8, 77.3, 73.5, 69.3],
  [0.55, 77.8, 80.8, 77.2, 73.0],
  [0.75, 80.7, 82.5, 78.9, 75.0],
  [1.1, 82.7, 84.1, 81.0, 77.7],
  [1.5, 84.2, 85.3, 82.5, 79.7],
  [2.2, 85.9, 86.7, 84.3, 81.9],
  [3, 87.1, 87.7, 85.6, 83.5],
  [4, 88.1, 88.6, 86.8, 84.8],
  [5.5, 89.2, 89.6, 88.0, 86.2],
  [7.5, 90.1, 90.4, 89.1, 87.3],
  [11, 91.2, 91.4, 90.3, 88.6],
  [15, 91.9, 92.1, 91.2, 89.6],
  [18.5, 92.4, 92.6, 91.7, 90.1],
  [22, 92.7, 93.0, 92.2, 90.6],
  [30, 93.3, 93.6, 92.9, 91.3],
  [37, 93.7, 93.9, 93.3, 91.8],
  [45, 94.0, 94.2, 93.7, 92.2],
  [55, 94.3, 94.6, 94.1, 92.5],
  [75, 94.7, 95.0, 94.6, 93.1],
  [90, 95.0, 95.2, 94.9, 93.4],
  [110, 95.2, 95.4, 95.1, 93.7],
  [132, 95.4, 95.6, 95.4, 94.0],
  [160, 95.6, 95.8, 95.6, 94.3],
  [200, 95.8, 96.0, 95.8, 94.6],
];

/** IE3 efficiency (0 to 1) for a shaft output in W, interpolated over log output; poles above 8 use the 8-pole column. */
export function ie3Efficiency(power: number, poles: number): number {
  const column = poles <= 2 ? 1 : poles <= 4 ? 2 : poles <= 6 ? 3 : 4;
  const kw = power / 1000;
  const first = present(ie3Table[0]);
  const last = present(ie3Table[ie3Table.length - 1]);
  if (kw <= first[0]) return first[column] / 100;
  if (kw >= last[0]) return last[column] / 100;
  const i = ie3Table.findIndex((row) => row[0] >= kw);
  const a = present(ie3Table[i - 1]);
  const b = present(ie3Table[i]);
  const x = (Math.log(kw) - Math.log(a[0])) / (Math.log(b[0]) - Math.log(a[0]));
  return (a[column] + x * (b[column] - a[column])) / 100;
}

/** Full-load current, A at 460 V, by hp: NFPA 70 table 430.250 (from memory). For conductors; never an overload setting. */
const tableCurrent460: ReadonlyArray<readonly [number, number]> = [
  [0.5, 1.1],
  [1, 2.1],
  [2, 3.4],
  [3, 4.8],
  [5, 7.6],
  [10, 14],
  [25, 34],
  [50, 65],
  [100, 124],
  [200, 240],
];

/** The table full-load current in A for a size and voltage, interpolated over log output; null outside 0.5 to 200 hp. */
export function tableFullLoadCurrent(power: number, voltage: number): number | null {
  const hp = power / toSi(1, 'hp');
  const rows = tableCurrent460;
  if (hp < present(rows[0])[0] * 0.999 || hp > present(rows[rows.length - 1])[0] * 1.001) return null;
  const i = Math.max(
    1,
    rows.findIndex((r) => r[0] >= hp * 0.999),
  );
  const [h0, a0] = present(rows[i - 1]);
  const [h1, a1] = present(rows[i]);
  const x = (Math.log(hp) - Math.log(h0)) / (Math.log(h1) - Math.log(h0));
  return Math.exp(Math.log(a0) + x * (Math.log(a1) - Math.log(a0))) * (460 / voltage);
}
