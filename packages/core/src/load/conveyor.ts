import { gravity, type LoadState } from './state';

/** A belt conveyor behind a gear: rolling friction, slope, what lies on it, and how it comes and goes (CEMA / ISO 5048 in their simplest form). */
export interface ConveyorLoad {
  kind: 'conveyor';
  /** kg, belt and rollers reduced to the belt */
  beltMass: number;
  /** rolling friction, force over weight */
  frictionCoefficient: number;
  /** rad, upwards in the running direction */
  slope: number;
  /** m, drum */
  radius: number;
  /** motor turns for one of the drum */
  ratio: number;
  /** of the gear, 0 to 1 */
  efficiency: number;
  /** m between feed and head drum */
  length: number;
  /** kg/s fed while the belt moves */
  feed: number;
  /** N·m per rad/s at the motor, gear oil and bearings */
  viscous: number;
}

export function stepConveyor(state: LoadState, belt: ConveyorLoad, speed: number, dt: number): void {
  const arm = belt.radius / belt.ratio;
  const v = speed * arm;
  const leaving = (state.mass * Math.abs(v)) / belt.length;
  state.flow = leaving;
  state.mass += ((v > 0.01 ? belt.feed : 0) - leaving) * dt;
  if (state.mass < 0) state.mass = 0;
  const weight = (belt.beltMass + state.mass) * gravity;
  const pull = state.mass * gravity * Math.sin(belt.slope);
  // lifting asks more of the motor than the belt takes; a load that drives gives less than it has
  const lifting = pull * (speed === 0 ? 1 : speed) > 0;
  state.torque = (pull * arm) / (lifting ? belt.efficiency : 1 / belt.efficiency) + belt.viscous * speed;
  state.slope = belt.viscous;
  state.friction = (belt.frictionCoefficient * weight * Math.cos(belt.slope) * arm) / belt.efficiency;
  state.inertia = (belt.beltMass + state.mass) * arm * arm;
}

/** kg that lie on a belt in steady feed at a motor speed in rad/s. */
export const beltMassAt = (belt: ConveyorLoad, speed: number): number => {
  const v = (Math.abs(speed) * belt.radius) / belt.ratio;
  return v > 0.01 ? (belt.feed * belt.length) / v : 0;
};

/** Rolling and sliding friction of a belt on a slider bed, force over weight (common practice). */
const sliderBed = 0.35;

/**
 * A conveyor that takes `torque` N·m at the motor when it carries its rated feed at rated speed, level or sloping: a tenth in gear oil,
 * what the lift takes, and the rest as friction of belt and load; the belt's own mass is worked out from that. A belt that runs downhill may drive its
 * motor: its torque is then below zero, and what rubs is what the lift leaves.
 * @param feed kg/s @param beltSpeed m/s at rated motor speed @param slope rad
 */
export function conveyorFromDuty(p: {
  ratedSpeed: number;
  torque: number;
  feed: number;
  beltSpeed: number;
  length: number;
  slope: number;
  ratio: number;
}): ConveyorLoad {
  const arm = p.beltSpeed / p.ratedSpeed;
  const efficiency = 0.94;
  const mass = (p.feed * p.length) / p.beltSpeed;
  const lift = (mass * gravity * Math.sin(p.slope) * arm) / (p.slope >= 0 ? efficiency : 1 / efficiency);
  const size = Math.abs(p.torque);
  const rest = Math.max(0.05 * size, p.torque - 0.1 * size - lift);
  // a load that drives harder than its feed can has more of it on the belt
  const more = p.torque < 0 ? Math.max(1, (p.torque - 0.15 * size) / lift) : 1;
  const weight = (rest * efficiency) / (sliderBed * Math.cos(p.slope) * arm * gravity);
  const beltMass = Math.max(0.2 * mass, weight - mass);
  // where belt and load together would rub more than is left, they roll
  const rubs = Math.min(1, weight / (beltMass + more * mass));
  return {
    kind: 'conveyor',
    beltMass,
    frictionCoefficient: p.torque < 0 ? rubs * sliderBed : sliderBed,
    slope: p.slope,
    radius: arm * p.ratio,
    ratio: p.ratio,
    efficiency,
    length: p.length,
    feed: more * p.feed,
    viscous: (0.1 * size) / p.ratedSpeed,
  };
}
