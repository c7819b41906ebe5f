/** A reading between two leads, RMS or direct. */
export interface LeadReading {
  /** V between the leads */
  voltage: number;
  /** A through them */
  current: number;
  /** W; of direct current V·I */
  power: number;
}

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
 * Deep bars raise R2 with frequency as √(1 + k f²): readings at two frequencies carry it back to a turning motor's slip, f → 0. The leakage is read at the higher, where
 * resistance hides less of it.
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
  const [a, b] = [single[0].share ** 2, single[1].share ** 2];
  const squared = (slow.rotor * slow.rotor * b - fast.rotor * fast.rotor * a) / (b - a);
  // a reading that noise has turned round is kept as it is
  const rotorResistance = squared > 0 ? Math.sqrt(squared) : slow.rotor;
  return { statorResistance, rotorResistance, leakageReactance: fast.reactance };
}

/** One single-phase reading, worked out. */
interface SeenAt {
  rotor: number;
  reactance: number;
}
