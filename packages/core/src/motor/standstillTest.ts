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

/**
 * Motor constants from tests at standstill. Two levels of direct current give R1 as a difference, so that the fixed drop of the
 * inverter cancels; single-phase current at a share of rated frequency gives R1 + R2 and X1 + X2 with the magnetising branch
 * neglected (IEEE Std 112, impedance test).
 * @param direct the lower and the higher level of direct current
 * @param share frequency of the single-phase reading over rated frequency
 */
export function standstillConstants(direct: readonly [LeadReading, LeadReading], single: LeadReading, share: number): StandstillConstants {
  const [low, high] = direct;
  const statorResistance = (high.voltage - low.voltage) / (2 * (high.current - low.current));
  const impedance = single.voltage / (2 * single.current);
  const resistance = single.power / (2 * single.current * single.current);
  const reactance = Math.sqrt(Math.max(0, impedance * impedance - resistance * resistance));
  return { statorResistance, rotorResistance: resistance - statorResistance, leakageReactance: reactance / share };
}
