import type { LoadState } from './state';

/** A torque law: Coulomb, viscous and quadratic parts at the motor shaft. An agitator, or what is driven without its own process. */
export interface TorqueLoad {
  kind: 'torque';
  /** N·m, against motion */
  constant: number;
  /** N·m per rad/s */
  viscous: number;
  /** N·m per (rad/s)² */
  quadratic: number;
}

export function stepTorqueLoad(state: LoadState, load: TorqueLoad, speed: number): void {
  const a = Math.abs(speed);
  state.torque = load.viscous * speed + load.quadratic * a * speed;
  state.slope = load.viscous + 2 * load.quadratic * a;
  state.friction = load.constant;
}

/**
 * An agitator in the turbulent range: P = N_p ρ n³ D⁵, so torque ∝ n² (Nagata, *Mixing*; power number from the maker), with a
 * seal's friction and the part of the product's viscosity that grows with speed.
 * @param torque N·m at rated speed
 */
export const agitator = (torque: number, ratedSpeed: number, thickness = 1): TorqueLoad => ({
  kind: 'torque',
  constant: 0.04 * torque,
  viscous: (0.16 * torque * thickness) / ratedSpeed,
  quadratic: (0.8 * torque * thickness) / ratedSpeed ** 2,
});
