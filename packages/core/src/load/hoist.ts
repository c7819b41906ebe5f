import { gravity, type LoadState } from './state';

/** A load on a rope behind drum and gear: its weight pulls the same way whichever way the shaft turns. Hoisting is positive. */
export interface HoistLoad {
  kind: 'hoist';
  /** kg on the hook, and kg of the hook or bucket itself */
  mass: number;
  hookMass: number;
  /** m the hook rises for each rad of the motor */
  travel: number;
  /** of gear and rope, 0 to 1 */
  efficiency: number;
}

/**
 * What the weight asks of the shaft: F·r / η on the way up and F·r · η on the way down, where the gear's losses help (common practice for gears that
 * do not lock). Written as their mean, with half their difference as friction, so that a standing load is held by anything between.
 */
export function stepHoist(state: LoadState, hoist: HoistLoad): void {
  const { efficiency: eta, travel } = hoist;
  const hung = hoist.mass + hoist.hookMass;
  const pull = hung * gravity * travel;
  state.mass = hoist.mass;
  state.torque = (pull * (1 / eta + eta)) / 2;
  state.friction = (pull * (1 / eta - eta)) / 2;
  state.slope = 0;
  state.inertia = hung * travel * travel;
}
