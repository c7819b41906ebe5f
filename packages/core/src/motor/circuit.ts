/**
 * Per-phase T equivalent circuit of an induction motor, star equivalent (IEEE Std 112; Chapman, *Electric Machinery
 * Fundamentals*, ch. 6). Reactances at rated frequency, rotor values referred to the stator.
 */
export interface Circuit {
  /** stator resistance, Ω */
  r1: number;
  /** stator leakage reactance, Ω at rated frequency */
  x1: number;
  /** magnetising reactance, Ω at rated frequency */
  xm: number;
  /** rotor resistance, Ω */
  r2: number;
  /** rotor leakage reactance, Ω at rated frequency */
  x2: number;
  /** core-loss resistance in parallel with xm, Ω at rated frequency; Infinity leaves core loss out */
  rFe: number;
  /** friction, windage and stray-load loss at rated speed, W; its torque falls in proportion to speed */
  rotationalLoss: number;
  /** Hz */
  ratedFrequency: number;
  /** rad/s, mechanical, at rated load */
  ratedSpeed: number;
  poles: number;
}

/** What the machine does at one voltage, frequency and rotor speed. Motoring positive. */
export interface Operation {
  /** A RMS per phase (line current of the star equivalent) */
  current: number;
  powerFactor: number;
  /** W at the terminals */
  input: number;
  statorCopperLoss: number;
  coreLoss: number;
  rotorCopperLoss: number;
  /** W across the air gap */
  airGapPower: number;
  /** N·m developed in the gap */
  torque: number;
  /** N·m at the shaft, rotational loss taken off */
  shaftTorque: number;
  /** W at the shaft */
  output: number;
  /** 0 to 1; 0 when not motoring */
  efficiency: number;
}

export const emptyOperation = (): Operation => ({
  current: 0.5,
  powerFactor: 0.5,
  input: 0.5,
  statorCopperLoss: 0.5,
  coreLoss: 0.5,
  rotorCopperLoss: 0.5,
  airGapPower: 0.5,
  torque: 0.5,
  shaftTorque: 0.5,
  output: 0.5,
  efficiency: 0.5,
});

/** Torque in N·m that friction, windage and stray loss take at a mechanical speed in rad/s; loss power ∝ n² (common practice). */
export const rotationalTorque = (c: Circuit, speed: number): number => (c.rotationalLoss * speed) / (c.ratedSpeed * c.ratedSpeed);

/**
 * Solves the circuit into `out` without allocating. Core loss follows E² f^−0.5, that is Φ² f^1.5 (common practice).
 * @param voltage phase RMS, V
 * @param frequency stator, Hz, above zero
 * @param speed rotor, mechanical rad/s, positive in the direction of the field
 */
export function operateInto(out: Operation, c: Circuit, voltage: number, frequency: number, speed: number): Operation {
  const k = frequency / c.ratedFrequency;
  const field = 2 * Math.PI * frequency;
  const pairs = c.poles / 2;
  const s = (field - speed * pairs) / field;
  const sx2 = s * c.x2 * k;
  const rotor = s / (c.r2 * c.r2 + sx2 * sx2);
  const g2 = rotor * c.r2;
  const b2 = -rotor * sx2;
  const gFe = 1 / (c.rFe * Math.sqrt(k));
  const g = g2 + gFe;
  const b = b2 - 1 / (c.xm * k);
  const y2 = g * g + b * b;
  // Z = r1 + j x1 + 1/(g + jb)
  const re = c.r1 + g / y2;
  const im = c.x1 * k - b / y2;
  const z2 = re * re + im * im;
  const current2 = (voltage * voltage) / z2;
  const emf2 = current2 / y2;
  out.current = Math.sqrt(current2);
  out.powerFactor = re / Math.sqrt(z2);
  out.input = 3 * current2 * re;
  out.statorCopperLoss = 3 * current2 * c.r1;
  out.coreLoss = 3 * emf2 * gFe;
  out.airGapPower = 3 * emf2 * g2;
  out.rotorCopperLoss = out.airGapPower * s;
  out.torque = (out.airGapPower * pairs) / field;
  out.shaftTorque = out.torque - rotationalTorque(c, speed);
  out.output = out.shaftTorque * speed;
  out.efficiency = out.output > 0 && out.input > 0 ? out.output / out.input : 0;
  return out;
}

/** The circuit at a slip: {@link operateInto} with a fresh result. Voltage phase RMS, V; frequency Hz. */
export function operate(c: Circuit, voltage: number, frequency: number, slip: number): Operation {
  const speed = ((1 - slip) * 4 * Math.PI * frequency) / c.poles;
  return operateInto(emptyOperation(), c, voltage, frequency, speed);
}

export interface Breakdown {
  /** N·m, in the gap */
  torque: number;
  slip: number;
}

/** Breakdown torque and its slip from the Thévenin equivalent seen by the rotor (Chapman ch. 6). Voltage phase RMS, V. */
export function breakdown(c: Circuit, voltage: number, frequency: number): Breakdown {
  const k = frequency / c.ratedFrequency;
  const gm = 1 / (c.rFe * Math.sqrt(k));
  const bm = -1 / (c.xm * k);
  const y2 = gm * gm + bm * bm;
  const rm = gm / y2;
  const xm = -bm / y2;
  const x1 = c.x1 * k;
  const sumR = c.r1 + rm;
  const sumX = x1 + xm;
  const sum2 = sumR * sumR + sumX * sumX;
  const vth2 = (voltage * voltage * (rm * rm + xm * xm)) / sum2;
  const numR = c.r1 * rm - x1 * xm;
  const numX = c.r1 * xm + x1 * rm;
  const rth = (numR * sumR + numX * sumX) / sum2;
  const xth = (numX * sumR - numR * sumX) / sum2;
  const reach = Math.sqrt(rth * rth + (xth + c.x2 * k) ** 2);
  const synchronous = (4 * Math.PI * frequency) / c.poles;
  return { torque: (3 * vth2) / (2 * synchronous * (rth + reach)), slip: c.r2 / reach };
}

/** Torque in the gap and current at standstill, across the line. */
export function starting(c: Circuit, voltage: number, frequency: number): { torque: number; current: number } {
  const o = operate(c, voltage, frequency, 1);
  return { torque: o.torque, current: o.current };
}

export interface SpeedCurvePoint {
  /** rpm */
  speed: number;
  /** N·m at the shaft */
  torque: number;
  /** A */
  current: number;
}

/** Shaft torque and current from standstill to synchronous speed, closer together where the curve bends. */
export function speedCurve(c: Circuit, voltage: number, frequency: number, points = 121): SpeedCurvePoint[] {
  const synchronous = (120 * frequency) / c.poles;
  return Array.from({ length: points }, (_, i) => {
    const slip = (1 - i / (points - 1)) ** 1.8;
    const o = operate(c, voltage, frequency, slip);
    return { speed: (1 - slip) * synchronous, torque: o.shaftTorque, current: o.current };
  });
}
