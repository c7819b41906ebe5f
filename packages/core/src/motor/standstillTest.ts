/** A reading between two leads, RMS or direct. */
export interface LeadReading {
  /** V between the leads */
  voltage: number;
  /** A through them */
  current: number;
  /** W; of direct current V·I */
  power: number;
}

/** Share by which resistance has to rise from the lower to the higher frequency to be told from the magnetising branch beside it. */
const leastRise = 0.05;

export interface StandstillConstants {
  /** Ω per phase */
  statorResistance: number;
  rotorResistance: number;
  /** X1 + X2 per phase at rated frequency, Ω */
  leakageReactance: number;
}

/** A reading of single-phase current at a share of rated frequency. */
export interface SingleReading extends LeadReading {
  share: number;
}

/**
 * Motor constants from tests at standstill. Two levels of direct current give R1 as a difference, so that the fixed drop of the
 * inverter cancels; single-phase current gives R1 + R2 and X1 + X2 with the magnetising branch neglected (IEEE Std 112, impedance test).
 * Deep bars take resistance up and leakage down as frequency rises. Two readings show both, and by them a rotor of two branches, the upper bar beside the
 * lower: R(ω) = R0 + ΔR q / (1 + q), L(ω) = L0 − ΔR τ q / (1 + q), q = (ωτ)² (Boldea, Nasar, *The Induction Machine Handbook*, ch. 9), so that
 * τ = (L_slow − L_fast) / (R_fast − R_slow), and both are carried back to a turning motor's slip, ω → 0.
 * @param direct the lower and the higher level of direct current
 * @param single at the lower and at the higher frequency
 */
export function standstillConstants(
  direct: readonly [LeadReading, LeadReading],
  single: readonly [SingleReading, SingleReading],
): StandstillConstants {
  const [low, high] = direct;
  const statorResistance = (high.voltage - low.voltage) / (2 * (high.current - low.current));
  const [slow, fast] = single.map((r) => {
    const impedance = r.voltage / (2 * r.current);
    const resistance = r.power / (2 * r.current * r.current);
    return { rotor: resistance - statorResistance, reactance: Math.sqrt(Math.max(0, impedance * impedance - resistance * resistance)) / r.share };
  }) as [SeenAt, SeenAt];
  const rise = fast.rotor - slow.rotor;
  const fall = slow.reactance - fast.reactance;
  // bars that show nothing but the magnetising branch beside them, or noise turned round: the readings as they stand, each where it is read best
  const plain = { statorResistance, rotorResistance: slow.rotor, leakageReactance: fast.reactance };
  if (rise < leastRise * slow.rotor || fall <= 0) return plain;
  const [q, p] = single.map(({ share }) => ((share * fall) / rise) ** 2) as [number, number];
  const whole = rise / (p / (1 + p) - q / (1 + q));
  const barred = (whole * q) / (1 + q);
  const rotorResistance = slow.rotor - barred;
  return rotorResistance > 0 ? { statorResistance, rotorResistance, leakageReactance: slow.reactance + (barred * fall) / rise } : plain;
}

/** One single-phase reading, worked out. */
interface SeenAt {
  rotor: number;
  reactance: number;
}
