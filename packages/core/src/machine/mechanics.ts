import { stepLoad } from '../load';
import { bearingFriction, windage } from '../motor';
import type { Machine } from './state';

/** The brake follows its command with its own lag; told to open by nobody it stays shut. */
function brakeFriction(m: Machine, dt: number): number {
  const { brake } = m.spec;
  if (brake === undefined) return 0;
  m.brakeOpening += Math.max(-dt / brake.lag, Math.min(dt / brake.lag, m.brakeCommand - m.brakeOpening));
  return brake.torque * (1 - m.brakeOpening);
}

/**
 * One step of J dω/dt = T − T_loss − T_load − friction, Rosenbrock–Euler: taken at the end of the step along the present slopes, so
 * that light rotors stay stable at 1 ms. Friction opposes motion, ends it at zero, and holds the shaft until the rest overcomes it.
 * Returns the shaft power in W over the step, with the torque that really acted, so that no energy is made or lost between shaft and bus.
 */
export function stepMechanics(m: Machine, dt: number): number {
  const { circuit } = m.spec;
  const coupled = m.conditions.coupling === 1;
  const before = m.speed;
  const load = m.loadState;
  stepLoad(load, m.spec.load, coupled ? before : 0, dt);
  const drag = windage(circuit);
  const friction = bearingFriction(circuit) + (coupled ? load.friction : 0) + m.conditions.jam + brakeFriction(m, dt);
  const rest = m.motor.torque - drag * before - (coupled ? load.torque : 0);
  if (before === 0 && rest <= friction && rest >= -friction) return 0;
  const direction = before > 0 || (before === 0 && rest > 0) ? 1 : -1;
  const inertia = coupled ? m.spec.inertia + load.inertia : m.spec.rotorInertia;
  const against = (coupled ? load.slope : 0) + drag;
  let change = (dt * (rest - direction * friction)) / (inertia + dt * (against - m.slope));
  // friction alone never turns a shaft round
  if (before !== 0 && (before + change) * before < 0 && rest * direction <= friction) change = -before;
  m.speed = before + change;
  return ((m.motor.torque + m.slope * change) * (before + m.speed)) / 2;
}
