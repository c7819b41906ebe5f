import { rotorResistance, type Circuit } from './circuit';

/** What a motor does with direct current in its stator. */
export interface DirectCurrentBraking {
  /** N·m, against motion */
  torque: number;
  /** W in the stator */
  statorCopperLoss: number;
}

/**
 * Braking by direct current. A star winding fed between two leads acts like an alternating current of √(2/3) I_dc standing still; the
 * rotor cuts it at its own frequency, so with S = ω / ω_s the torque is 3 I₂² (R₂/S) / ω_s, I₂² = I² X_m² / ((R₂/S)² + (X_m + X₂)²)
 * (Dubey, *Fundamentals of Electrical Drives*, ch. 6, dynamic braking).
 * @param current A of direct current
 * @param speed mechanical, rad/s; its sign does not matter
 */
export function directCurrentBraking(c: Circuit, current: number, speed: number): DirectCurrentBraking {
  const synchronous = (4 * Math.PI * c.ratedFrequency) / c.poles;
  // at a stand the formula divides by the slip of a field at rest: its limit is no torque
  const s = Math.max(1e-9, Math.abs(speed) / synchronous);
  const equivalent2 = (2 / 3) * current * current;
  // at speed the rotor cuts it at a high frequency, which its bars feel
  const r = rotorResistance(c, s) / s;
  const rotor2 = (equivalent2 * c.xm * c.xm) / (r * r + (c.xm + c.x2) ** 2);
  return { torque: (3 * rotor2 * r) / synchronous, statorCopperLoss: 3 * equivalent2 * c.r1 };
}
