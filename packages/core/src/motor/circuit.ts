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
  /** friction, windage and stray-load loss at rated speed, W */
  rotationalLoss: number;
  /** Hz */
  ratedFrequency: number;
  /** rad/s, mechanical, at rated load */
  ratedSpeed: number;
  poles: number;
  /** phase V behind the stator leakage at the plate's own load: the flux at which `xm` holds. Absent: the iron never saturates */
  ratedEmf?: number;
  /** share of the rated magnetising current that the bent part of the iron takes; used with `ratedEmf` */
  saturation?: number;
  /** rotor resistance at rated frequency over that at none (deep bars); absent: no skin effect */
  skin?: number;
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
  /** phase V across the magnetising branch */
  emf: number;
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
  emf: 0.5,
  torque: 0.5,
  shaftTorque: 0.5,
  output: 0.5,
  efficiency: 0.5,
});

/** Share of the rotational loss that bearings take at any speed; windage and stray load fall with it (common practice). */
const bearingShare = 0.2;

/** Coulomb friction of the bearings, N·m. */
export const bearingFriction = (c: Circuit): number => (bearingShare * c.rotationalLoss) / c.ratedSpeed;

/** N·m per rad/s of windage and stray load; their loss power falls with the square of speed (common practice). */
export const windage = (c: Circuit): number => ((1 - bearingShare) * c.rotationalLoss) / (c.ratedSpeed * c.ratedSpeed);

/** Torque in N·m that friction, windage and stray loss take at a mechanical speed in rad/s. */
export const rotationalTorque = (c: Circuit, speed: number): number =>
  windage(c) * speed + (speed > 0 ? bearingFriction(c) : speed < 0 ? -bearingFriction(c) : 0);

/**
 * What is left of `xm` at a flux (1 at the plate's load): magnetising current is (1 − σ) φ + σ φ⁹, an even power series of the
 * usual kind for machine iron (common practice). 1 when the circuit has no saturation.
 */
export function magnetisingShare(c: Circuit, flux: number): number {
  const sigma = c.saturation ?? 0;
  if (sigma === 0) return 1;
  const squared = Math.min(flux * flux, 4);
  return 1 / (1 - sigma + sigma * squared * squared * squared * squared);
}

/** Flux of an operation over that at the plate's load; 1 when the circuit has no saturation. */
export const fluxShare = (c: Circuit, emf: number, frequency: number): number =>
  c.ratedEmf === undefined ? 1 : (emf * c.ratedFrequency) / (c.ratedEmf * frequency);

/**
 * Rotor resistance at a frequency in the rotor, over rated frequency: it grows as √(1 + (κ² − 1) f²), which is quadratic at low frequency like
 * a deep bar's (Boldea, Nasar, *The Induction Machine Handbook*, ch. 9). Ω.
 */
export const rotorResistance = (c: Circuit, share: number): number =>
  c.skin === undefined ? c.r2 : c.r2 * Math.sqrt(1 + (c.skin * c.skin - 1) * share * share);

/**
 * Solves the circuit into `out` without allocating. Core loss follows E² f^−0.5, that is Φ² f^1.5 (common practice); the rotor as in
 * {@link rotorResistance}.
 * @param voltage phase RMS, V
 * @param frequency stator, Hz, above zero
 * @param speed rotor, mechanical rad/s, positive in the direction of the field
 * @param magnetising share of xm that the flux leaves, see {@link magnetisingShare}
 */
export function operateInto(out: Operation, c: Circuit, voltage: number, frequency: number, speed: number, magnetising = 1): Operation {
  const k = frequency / c.ratedFrequency;
  const field = 2 * Math.PI * frequency;
  const pairs = c.poles / 2;
  const s = (field - speed * pairs) / field;
  const sx2 = s * c.x2 * k;
  const r2 = rotorResistance(c, s * k);
  const rotor = s / (r2 * r2 + sx2 * sx2);
  const g2 = rotor * r2;
  const b2 = -rotor * sx2;
  const gFe = 1 / (c.rFe * Math.sqrt(k));
  const g = g2 + gFe;
  const b = b2 - 1 / (c.xm * magnetising * k);
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
  out.emf = Math.sqrt(emf2);
  out.airGapPower = 3 * emf2 * g2;
  out.rotorCopperLoss = out.airGapPower * s;
  out.torque = (out.airGapPower * pairs) / field;
  out.shaftTorque = out.torque - rotationalTorque(c, speed);
  out.output = out.shaftTorque * speed;
  out.efficiency = out.output > 0 && out.input > 0 ? out.output / out.input : 0;
  return out;
}

/**
 * The steady state at a slip, iron included: the share of xm that its own flux leaves is found by bisection (more xm, more flux,
 * less share: one root). Voltage phase RMS, V; frequency Hz.
 */
export function operate(c: Circuit, voltage: number, frequency: number, slip: number): Operation {
  const speed = ((1 - slip) * 4 * Math.PI * frequency) / c.poles;
  const out = operateInto(emptyOperation(), c, voltage, frequency, speed);
  if (c.ratedEmf === undefined || !c.saturation) return out;
  let low = 0;
  let high = 1 / (1 - c.saturation);
  for (let i = 0; i < 40; i++) {
    const share = (low + high) / 2;
    operateInto(out, c, voltage, frequency, speed, share);
    if (magnetisingShare(c, fluxShare(c, out.emf, frequency)) > share) low = share;
    else high = share;
  }
  return out;
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

/**
 * Impedance of a phase with the rotor locked at a share of rated frequency, Ω; R1 alone at 0. The iron is at low flux, where nothing of
 * it is bent.
 */
export function lockedImpedance(c: Circuit, share: number): { resistance: number; reactance: number } {
  if (share === 0) return { resistance: c.r1, reactance: 0 };
  const r2 = rotorResistance(c, share);
  const x2 = c.x2 * share;
  const xm = (c.xm * share) / (1 - (c.saturation ?? 0));
  const across = r2 * r2 + (x2 + xm) ** 2;
  return { resistance: c.r1 + (r2 * xm * xm) / across, reactance: c.x1 * share + (xm * (r2 * r2 + x2 * (x2 + xm))) / across };
}
