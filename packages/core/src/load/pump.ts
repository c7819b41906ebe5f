import { sumpLevel, type Sump } from '../process/sump';
import { vesselPressure } from '../process/vessel';
import { gravity, standstillShare, type LoadState } from './state';

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
  /** shaft power at no flow over that at best flow, at the same speed */
  noFlowShare: number;
  /** how fast the power grows beyond the best flow, towards run-out, over how fast it does at it */
  runOut: number;
  /** N·m of seal or packing, whatever the speed */
  seal: number;
  /** s in which the water of pump and pipe follows what moves it */
  waterLag: number;
  /** m between the suction level the plant was built for and the pressure gauge */
  staticHead: number;
  /** m³/Pa of pipe and accumulator */
  compliance: number;
  /** m³/s per √Pa of the open demand valve */
  demand: number;
  /** m per (m³/s)² of the open discharge valve */
  valveFall: number;
  /** how far demand and discharge valve are open, 0 to 1 */
  demandOpening: number;
  dischargeOpening: number;
  /** 0 when the check valve leaks back as much as it should hold; 1 sound */
  checkValve: number;
  /** 1 when the pressure is that of a header it shares with others, who keep it */
  headerShared: number;
  /** pumps of the same make that run across the line beside it, into the same pipe */
  assisting: number;
  /** m², area of a sump of its own; 0 when the level is held, or kept by a sump it shares */
  sumpArea: number;
  /** m³/s into the sump */
  inflow: number;
  /** m, level against the one it was built for at which the pump draws air; the sump is empty there */
  dryLevel: number;
}

export const waterDensity = 998.2;
const rhoG = waterDensity * gravity;

/** m per (m³/s)² between pump and gauge, valve included; Infinity when shut. */
const fallWith = (pump: PumpLoad): number =>
  pump.dischargeOpening > 0.005 ? pump.headFall + pump.valveFall / (pump.dischargeOpening * pump.dischargeOpening) : Infinity;

/** Share of its head a radial wheel still makes when it turns the wrong way round (common practice: about half). */
const backwardHead = 0.5;

/** Flow in m³/s a pump gives against a pressure at a speed; the check valve keeps it from going back. */
export function pumpFlow(pump: PumpLoad, speed: number, pressure: number, level = 0, prime = 1): number {
  const nu = speed / pump.ratedSpeed;
  const made = (speed > 0 ? 1 : backwardHead) * pump.shutOffHead * nu * nu * prime;
  const spare = speed === 0 ? 0 : made - pump.staticHead + level - pressure / rhoG;
  return spare > 0 ? Math.sqrt(spare / fallWith(pump)) : 0;
}

/** Head in m at a flow and speed. */
export const pumpHead = (pump: PumpLoad, speed: number, flow: number): number => {
  const nu = speed / pump.ratedSpeed;
  return pump.shutOffHead * nu * nu - pump.headFall * flow * flow;
};

/** Share of the best point's power by which a pump's power grows with its flow there, at least and at most: what wheels of any form have. */
const steepness = { least: 0, most: 0.9 };

/**
 * Shaft power in W at a flow: a parabola through its share at no flow and the best point, where it grows as ρ g Q H does, so that ρ g Q H / P is
 * best there (conditions of the best efficiency point; curves of radial wheels in Gülich, *Centrifugal Pumps*, ch. 4, from memory: nearly straight).
 */
export function pumpPower(pump: PumpLoad, speed: number, flow: number): number {
  const nu = Math.abs(speed) / pump.ratedSpeed;
  if (nu < standstillShare) return 0;
  const best = pump.bestFlow * nu;
  const beyond = Math.min(flow / best, 1.8) - 1;
  const fall = pump.headFall * best * best;
  const bestHead = pump.shutOffHead * nu * nu - fall;
  const growth = Math.max(steepness.least, Math.min(steepness.most, 1 - (2 * fall) / bestHead));
  const bend = pump.noFlowShare - 1 + growth;
  const bestPower = (rhoG * bestHead * best) / pump.bestEfficiency;
  return bestPower * (beyond > 0 ? 1 + pump.runOut * growth * beyond : 1 + growth * beyond + bend * beyond * beyond);
}

/** Lowest speed in rad/s at which a pump lifts water against a pressure in Pa. */
export const shutOffSpeed = (pump: PumpLoad, pressure: number): number =>
  pump.ratedSpeed * Math.sqrt(Math.max(0, pump.staticHead + pressure / rhoG) / pump.shutOffHead);

/** Steady pressure in Pa and flow in m³/s at a speed: pump curve against the demand valve as it stands, both solved. */
export function pumpOperatingPoint(pump: PumpLoad, speed: number): { pressure: number; flow: number } {
  const nu = speed / pump.ratedSpeed;
  const spare = pump.shutOffHead * nu * nu - pump.staticHead;
  const open = pump.demand * pump.demandOpening;
  if (spare <= 0) return { pressure: 0, flow: 0 };
  if (open <= 0) return { pressure: spare * rhoG, flow: 0 };
  const flow = Math.sqrt(spare / (fallWith(pump) + 1 / (rhoG * open * open)));
  return { flow, pressure: (flow / open) ** 2 };
}

/** Written anew for each pump that asks, so that a step makes no garbage. */
const draining: { flow: number; stiffness: number } = { flow: 0, stiffness: 0 };

/** What the demand valve lets out at a pressure in Pa, m³/s, and how steeply that grows, m³/s per Pa. Valid until the next call. */
export function demandOf(pump: PumpLoad, pressure: number): { flow: number; stiffness: number } {
  const root = Math.sqrt(pressure > 0 ? pressure : 0);
  const open = pump.demand * pump.demandOpening;
  draining.flow = open * root;
  draining.stiffness = root > 1 ? open / (2 * root) : open / 2;
  return draining;
}

/** m³/s of water below which there is no flow: the slope of a square root has no end there. */
const noFlow = 1e-9;

/** Share by which the flow comes nearer to what moves it in dt seconds: water has inertia, and in a quick stop it goes on with the wheel. */
export const waterFollows = (pump: PumpLoad, dt: number): number => 1 - Math.exp(-dt / pump.waterLag);

/** How steeply a pump's flow falls as the pressure rises, m³/s per Pa, at a flow in m³/s. */
export const pumpStiffness = (pump: PumpLoad, flow: number): number => (flow > noFlow ? 1 / (2 * rhoG * fallWith(pump) * flow) : 0);

const own: Sump = { area: 1, inflow: 0, dryLevel: 0 };
function ownSump(pump: PumpLoad): Sump {
  own.area = pump.sumpArea;
  own.inflow = pump.inflow;
  own.dryLevel = pump.dryLevel;
  return own;
}

/** A pump that draws air loses its water within about two seconds and fills again when the level is back (common practice). */
const primeTime = 2;
/** Share of head and of power a wheel full of air still makes (common practice). */
const airHead = 0.05;
const airPower = 0.12;

export function stepPump(state: LoadState, pump: PumpLoad, speed: number, dt: number): void {
  const dry = pump.sumpArea > 0 || pump.dryLevel > -1e3 ? state.level <= pump.dryLevel : false;
  if (dry || state.prime < 0.9999) {
    state.prime += ((dry ? 0 : 1) - state.prime) * (dt / primeTime);
    if (state.prime > 0.9999) state.prime = 0.9999;
  }
  const headShare = airHead + (1 - airHead) * state.prime;
  const follows = waterFollows(pump, dt);
  const moved = state.flow + (pumpFlow(pump, speed, state.pressure, state.level, headShare) * state.prime - state.flow) * follows;
  const flow = moved > noFlow ? moved : 0;
  const each = pump.assisting > 0 ? pumpFlow(pump, pump.ratedSpeed, state.pressure, state.level, headShare) * state.prime : 0;
  const all = flow + pump.assisting * each;
  if (pump.headerShared === 0) {
    const p = state.pressure > 0 ? state.pressure : 0;
    const out = demandOf(pump, p);
    const back = pump.checkValve < 1 && flow === 0 ? (1 - pump.checkValve) * pump.demand * Math.sqrt(p) : 0;
    const stiffness = follows * pumpStiffness(pump, flow) + pump.assisting * pumpStiffness(pump, each) + out.stiffness;
    state.pressure = vesselPressure(p, all - out.flow - back, stiffness, pump.compliance, dt);
  }
  state.flow = flow;
  if (pump.sumpArea > 0) state.level = sumpLevel(state.level, ownSump(pump), all, dt);
  const power = pumpPower(pump, speed, flow) * (airPower + (1 - airPower) * state.prime);
  const a = Math.abs(speed);
  state.torque = a > 1 ? power / speed : power * speed;
  state.slope = a > 1 ? (2 * power) / (speed * speed) : power;
  state.friction = pump.seal;
}

/** Power at no flow over that at best flow of radial wheels (Gülich, *Centrifugal Pumps*, ch. 4, from memory: about half). */
const usualNoFlowShare = 0.5;

/** s of the water between suction and vessel (common practice: some ten metres of pipe at two metres a second, against forty metres). */
const usualWaterLag = 0.05;

/** What seal or packing takes of the shaft's rated torque (common practice: a half to two in a hundred). */
const usualSeal = 0.01;

/**
 * A pump from its rated point. Head at no flow 1.25 of rated and best efficiency at the rated flow are usual for radial
 * wheels of this size (common practice); the open discharge valve takes 2 % of the head.
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
  const valveFall = (0.02 * p.head) / (p.flow * p.flow);
  const across = (0.98 * p.head - p.staticHead) * rhoG;
  return {
    kind: 'pump',
    ratedSpeed: p.ratedSpeed,
    shutOffHead,
    headFall: (shutOffHead - p.head) / (p.flow * p.flow),
    bestFlow: p.flow,
    bestEfficiency: p.efficiency,
    noFlowShare: usualNoFlowShare,
    runOut: 1,
    seal: (usualSeal * rhoG * p.flow * p.head) / (p.efficiency * p.ratedSpeed),
    waterLag: usualWaterLag,
    staticHead: p.staticHead,
    compliance: p.compliance,
    demand: p.flow / Math.sqrt(across),
    valveFall,
    demandOpening: p.demandShare,
    dischargeOpening: 1,
    checkValve: 1,
    headerShared: 0,
    assisting: 0,
    sumpArea: 0,
    inflow: 0,
    dryLevel: -2,
  };
}
