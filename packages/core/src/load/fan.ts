import { vesselPressure } from '../process/vessel';
import { standstillShare, type LoadState } from './state';

/**
 * A fan through a filter into a duct with a damper. Pressure falls with the square of flow and the curve moves by the fan laws
 * (Q ∝ n, p ∝ n², P ∝ n³; AMCA 201, ISO 5801); the ductwork's resistance is quadratic and its air is springy.
 */
export interface FanLoad {
  kind: 'fan';
  /** rad/s at the motor for which the curve is given */
  ratedSpeed: number;
  /** Pa at no flow and rated speed */
  shutOffPressure: number;
  /** Pa per (m³/s)² */
  pressureFall: number;
  /** m³/s at best efficiency and rated speed */
  bestFlow: number;
  /** 0 to 1 */
  bestEfficiency: number;
  /** Pa per (m³/s)², clean filter */
  filter: number;
  /** resistance of the filter over that when clean */
  clogging: number;
  /** Pa per (m³/s)², duct with the damper open */
  duct: number;
  /** 0 shut to 1 open */
  damper: number;
  /** 1 when the pressure is that of a duct it shares with others, who keep it */
  ductShared: number;
  /** m³/Pa of the air in the duct, V/(κ p₀) */
  compliance: number;
}

/** Pa per (m³/s)² between the gauge and the open air. */
const ductFall = (fan: FanLoad): number => {
  const open = Math.max(0.02, fan.damper);
  return fan.duct / (open * open);
};

/** Steady outlet pressure in Pa and flow in m³/s at a speed. */
export function fanOperatingPoint(fan: FanLoad, speed: number): { pressure: number; flow: number } {
  const nu = speed / fan.ratedSpeed;
  const out = ductFall(fan);
  const flow = (nu > 0 ? nu : 0) * Math.sqrt(fan.shutOffPressure / (fan.pressureFall + fan.filter * fan.clogging + out));
  return { flow, pressure: out * flow * flow };
}

/** Shaft power in W at a speed and flow, with the efficiency curve of {@link pumpPower}. */
export function fanPower(fan: FanLoad, speed: number, flow: number): number {
  const nu = Math.abs(speed) / fan.ratedSpeed;
  if (nu < standstillShare) return 0;
  const best = fan.bestFlow * nu;
  const x = Math.min(flow / best, 1.8);
  const pressure = Math.max(fan.shutOffPressure * nu * nu - fan.pressureFall * flow * flow, 0.05 * fan.shutOffPressure * nu * nu);
  return (pressure * best) / (fan.bestEfficiency * (2 - x));
}

/** m³/s of air below which there is no flow: the slope of a square root has no end there. */
const noFlow = 1e-6;

/** Share of its pressure a backward-curved wheel still makes when it turns the wrong way round (common practice: about a third). */
const backwardPressure = 0.33;

/** Written anew for each fan that asks, so that a step makes no garbage. */
const leaving: { flow: number; stiffness: number } = { flow: 0, stiffness: 0 };

/** What the damper lets out at a pressure in Pa, m³/s, and how steeply that grows, m³/s per Pa. Valid until the next call. */
export function outletOf(fan: FanLoad, pressure: number): { flow: number; stiffness: number } {
  const fall = ductFall(fan);
  const out = Math.sqrt(pressure > 0 ? pressure / fall : 0);
  leaving.flow = out;
  leaving.stiffness = out > noFlow ? 1 / (2 * fall * out) : 0;
  return leaving;
}

/** How steeply a fan's flow falls as the pressure rises, m³/s per Pa, at a flow in m³/s. */
export const fanStiffness = (fan: FanLoad, flow: number): number =>
  flow > noFlow ? 1 / (2 * (fan.pressureFall + fan.filter * fan.clogging) * flow) : 0;

export function stepFan(state: LoadState, fan: FanLoad, speed: number, dt: number): void {
  const nu = speed / fan.ratedSpeed;
  const inner = fan.pressureFall + fan.filter * fan.clogging;
  const spare = (speed > 0 ? 1 : backwardPressure) * fan.shutOffPressure * nu * nu - state.pressure;
  const flow = spare > 0 ? Math.sqrt(spare / inner) : 0;
  if (fan.ductShared === 0) {
    const p = state.pressure > 0 ? state.pressure : 0;
    const out = outletOf(fan, p);
    state.pressure = vesselPressure(p, flow - out.flow, fanStiffness(fan, flow) + out.stiffness, fan.compliance, dt);
  }
  state.flow = flow;
  const power = fanPower(fan, speed, flow);
  const a = Math.abs(speed);
  state.torque = a > 1 ? power / speed : power * speed;
  state.slope = a > 1 ? (2 * power) / (speed * speed) : power;
  state.friction = 0.01 * (power / (a > 1 ? a : 1)) + 0.02;
}

/** Adiabatic exponent times the pressure of the air, Pa. */
const springOfAir = 1.4 * 101325;

/**
 * A fan from its rated point: pressure at no flow 1.3 of rated, filter 12 % and duct the rest of the pressure at rated flow
 * (common practice for backward-curved wheels).
 * @param flow m³/s @param pressure Pa @param volume m³ of ductwork
 */
export function fanFromRatedPoint(p: { ratedSpeed: number; flow: number; pressure: number; efficiency: number; volume: number }): FanLoad {
  const square = p.flow * p.flow;
  return {
    kind: 'fan',
    ratedSpeed: p.ratedSpeed,
    shutOffPressure: 1.3 * p.pressure,
    pressureFall: (0.3 * p.pressure) / square,
    bestFlow: p.flow,
    bestEfficiency: p.efficiency,
    filter: (0.12 * p.pressure) / square,
    clogging: 1,
    duct: (0.88 * p.pressure) / square,
    damper: 1,
    ductShared: 0,
    compliance: p.volume / springOfAir,
  };
}
