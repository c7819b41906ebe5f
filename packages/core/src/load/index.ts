/** Loads on the motor shaft. `step…` functions advance the state they are given. SI throughout. */

/** A torque law: Coulomb, viscous and quadratic parts at the motor shaft. For what is driven straight, without its own process. */
export interface TorqueLoad {
  kind: 'torque';
  /** N·m, against motion */
  constant: number;
  /** N·m per rad/s */
  viscous: number;
  /** N·m per (rad/s)² */
  quadratic: number;
}

/**
 * A centrifugal pump into a pipe with a check valve, some elasticity and a demand valve. Head falls with the square of flow;
 * curve and best flow move by the affinity laws (Q ∝ n, H ∝ n², P ∝ n³; Gülich, *Centrifugal Pumps*, ch. 3).
 */
export interface PumpLoad {
  kind: 'pump';
  /** rad/s for which the curve is given */
  ratedSpeed: number;
  /** m at no flow and rated speed */
  shutOffHead: number;
  /** m per (m³/s)² */
  headFall: number;
  /** m³/s at best efficiency and rated speed */
  bestFlow: number;
  /** 0 to 1 at best flow */
  bestEfficiency: number;
  /** m between suction level and the pressure gauge */
  staticHead: number;
  /** m³/Pa of pipe and accumulator */
  compliance: number;
  /** m³/s per √Pa of the open demand valve */
  demand: number;
}

export type Load = TorqueLoad | PumpLoad;

export interface LoadState {
  /** N·m at the motor shaft, against positive speed when positive */
  torque: number;
  /** N·m per rad/s, how steeply the torque rises with speed now */
  slope: number;
  /** Pa gauge after the check valve; 0 for torque loads */
  pressure: number;
  /** m³/s */
  flow: number;
}

export const restingLoad = (): LoadState => ({ torque: 1e-9, slope: 1e-9, pressure: 1e-9, flow: 1e-9 });

export const waterDensity = 998.2;
export const gravity = 9.80665;
const rhoG = waterDensity * gravity;

/** Speed below which Coulomb friction is spread out so that a machine at rest stays at rest, rad/s. */
const creep = 0.5;

function stepTorqueLoad(state: LoadState, load: TorqueLoad, speed: number): void {
  const a = Math.abs(speed);
  const coulomb = a < creep ? speed / creep : speed > 0 ? 1 : -1;
  state.torque = load.constant * coulomb + load.viscous * speed + load.quadratic * a * speed;
  state.slope = (a < creep ? load.constant / creep : 0) + load.viscous + 2 * load.quadratic * a;
}

/** Flow in m³/s a pump gives against a pressure at a speed; the check valve keeps it from going back. */
export function pumpFlow(pump: PumpLoad, speed: number, pressure: number): number {
  const nu = speed / pump.ratedSpeed;
  const spare = speed > 0 ? pump.shutOffHead * nu * nu - pump.staticHead - pressure / rhoG : 0;
  return spare > 0 ? Math.sqrt(spare / pump.headFall) : 0;
}

/** Head in m at a flow and speed. */
export const pumpHead = (pump: PumpLoad, speed: number, flow: number): number => {
  const nu = speed / pump.ratedSpeed;
  return pump.shutOffHead * nu * nu - pump.headFall * flow * flow;
};

/** Shaft power in W: ρ g Q H / η with η = η_best (2x − x²), x = Q / Q_best(n), written so that it stays finite at no flow. */
export function pumpPower(pump: PumpLoad, speed: number, flow: number): number {
  const nu = Math.abs(speed) / pump.ratedSpeed;
  if (nu < 1e-6) return 0;
  const best = pump.bestFlow * nu;
  const x = Math.min(flow / best, 1.8);
  const head = Math.max(pump.shutOffHead * nu * nu - pump.headFall * flow * flow, 0.05 * pump.shutOffHead * nu * nu);
  return (rhoG * head * best) / (pump.bestEfficiency * (2 - x));
}

/** Lowest speed in rad/s at which a pump lifts water against a pressure in Pa. */
export const shutOffSpeed = (pump: PumpLoad, pressure: number): number =>
  pump.ratedSpeed * Math.sqrt(Math.max(0, pump.staticHead + pressure / rhoG) / pump.shutOffHead);

/** Steady pressure in Pa and flow in m³/s at a speed: pump curve against the open demand valve, both solved. */
export function pumpOperatingPoint(pump: PumpLoad, speed: number): { pressure: number; flow: number } {
  const nu = speed / pump.ratedSpeed;
  const spare = pump.shutOffHead * nu * nu - pump.staticHead;
  if (spare <= 0) return { pressure: 0, flow: 0 };
  const flow = Math.sqrt(spare / (pump.headFall + 1 / (rhoG * pump.demand * pump.demand)));
  return { flow, pressure: (flow / pump.demand) ** 2 };
}

function stepPump(state: LoadState, pump: PumpLoad, speed: number, dt: number): void {
  const flow = pumpFlow(pump, speed, state.pressure);
  const p = state.pressure > 0 ? state.pressure : 0;
  const root = Math.sqrt(p);
  const out = pump.demand * root;
  // taken at the end of the step, linearised: the valve and the pump's own slope are stiff near no flow
  const stiff = (flow > 1e-9 ? 1 / (2 * rhoG * pump.headFall * flow) : 0) + (root > 1 ? pump.demand / (2 * root) : pump.demand / 2);
  state.pressure = p + ((flow - out) * dt) / (pump.compliance + dt * stiff);
  if (state.pressure < 0) state.pressure = 0;
  state.flow = flow;
  const power = pumpPower(pump, speed, flow);
  const a = Math.abs(speed);
  state.torque = a > 1 ? power / speed : (power / 1) * speed;
  state.slope = a > 1 ? (2 * power) / (speed * speed) : power;
}

/** Advances the load at a shaft speed in rad/s by dt s; torque, pressure and flow are left in the state. */
export function stepLoad(state: LoadState, load: Load, speed: number, dt: number): void {
  if (load.kind === 'pump') stepPump(state, load, speed, dt);
  else stepTorqueLoad(state, load, speed);
}

/**
 * A pump from its rated point. Head at no flow 1.25 of rated and best efficiency at the rated flow are usual for radial
 * wheels of this size (common practice).
 * @param demandShare how far the demand valve is open, 1 giving rated flow at rated head
 */
export function pumpFromRatedPoint(p: {
  ratedSpeed: number;
  flow: number;
  head: number;
  efficiency: number;
  staticHead: number;
  compliance: number;
  demandShare: number;
}): PumpLoad {
  const shutOffHead = 1.25 * p.head;
  const across = (p.head - p.staticHead) * rhoG;
  return {
    kind: 'pump',
    ratedSpeed: p.ratedSpeed,
    shutOffHead,
    headFall: (shutOffHead - p.head) / (p.flow * p.flow),
    bestFlow: p.flow,
    bestEfficiency: p.efficiency,
    staticHead: p.staticHead,
    compliance: p.compliance,
    demand: (p.demandShare * p.flow) / Math.sqrt(across),
  };
}
