/** What a load does to the motor shaft now, and how its process stands. Advanced in place. SI throughout. */
export interface LoadState {
  /** N·m at the motor shaft, against positive speed when positive; Coulomb friction not included */
  torque: number;
  /** N·m per rad/s, how steeply that torque rises with speed */
  slope: number;
  /** N·m at the motor shaft, Coulomb friction: opposes motion, and holds the shaft when the rest cannot overcome it */
  friction: number;
  /** kg·m² at the motor shaft that comes and goes with the load, such as what lies on a belt */
  inertia: number;
  /** Pa gauge after the check valve of a pump, or at the outlet of a fan; 0 for others */
  pressure: number;
  /** m³/s through pump or fan; kg/s off a belt */
  flow: number;
  /** m of water above the pump's eye */
  level: number;
  /** share of the pump still full of water */
  prime: number;
  /** kg on a belt */
  mass: number;
}

/**
 * A load at rest. Figures begin as fractions far below anything that counts: one that begins as the integer 0 makes the
 * engine change its layout of the object in the middle of a run.
 */
export const restingLoad = (): LoadState => ({
  torque: 1e-9,
  slope: 1e-9,
  friction: 1e-9,
  inertia: 1e-9,
  pressure: 1e-9,
  flow: 1e-9,
  level: 1e-9,
  prime: 0.999999,
  mass: 1e-9,
});

export const gravity = 9.80665;

/** Share of rated speed below which a pump or fan counts as standing: its affinity laws divide by the speed. */
export const standstillShare = 1e-6;
