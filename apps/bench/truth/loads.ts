import type { ConveyorLoad, FanLoad, HoistLoad, Load, LoadState, PumpLoad, TorqueLoad } from '@yare/core';
import { nth } from '@yare/core';

/**
 * What is driven, as it truly is: laws of other shape than the handbook's. Figures of the rated point come as data; exponents, seals, the
 * water's own inertia, leaking dampers, slip of the belt and what lies where on it are the bench's alone. SI at the motor shaft.
 */
export interface LoadShape {
  /** exponent of flow in the curve of pump or fan; of flow in pipe and duct; of speed in an agitator's torque */
  curve: number;
  pipe: number;
  stirring: number;
  /** share of its best power a pump or fan takes at no flow */
  noFlowPower: number;
  /** N·m of seals and packing, over rated torque */
  seal: number;
  /** share by which breaking loose takes more than sliding, and rad/s over which that goes */
  breakaway: number;
  looseAt: number;
  /** s in which the water in the pipe follows a change of head */
  waterTime: number;
  /** share of its opening a shut damper still leaves */
  damperLeak: number;
  /** slip of a belt at rated torque */
  beltSlip: number;
  /** share of rated torque lost in the gear whatever it carries */
  gearDrag: number;
}

/** What differs from one day to the next, as multipliers. */
export interface LoadDay {
  density: number;
  friction: number;
  viscosity: number;
  demand: number;
  feed: number;
  filter: number;
}

const gravity = 9.81;
const water = 998;
/** s in which a pump that draws air loses its water, or fills again; and what a wheel full of air still makes of head and of torque. */
const emptying = 2.2;
const airHead = 0.04;
const airTorque = 0.1;
/** Head of a radial wheel, and pressure of a fan's, turned the wrong way round. */
const backwardHead = 0.55;
const backwardPressure = 0.3;
/** Stretches into which a belt is cut. */
const cells = 24;
/** Below these a machine stands, and a vessel is empty. */
const standing = 0.02;
const least = 1e-9;

/** rad/s, N·m: what the shapes' shares are of. */
export interface Rated {
  speed: number;
  torque: number;
}

/** Torque of a curve machine: its power at best flow ∝ ν³, less of it at less flow along a straight line. */
function wheelTorque(nu: number, flowShare: number, bestPower: number, shape: LoadShape, ratedSpeed: number): number {
  const a = Math.abs(nu);
  const share = shape.noFlowPower + (1 - shape.noFlowPower) * Math.min(1.3, flowShare);
  return Math.sign(nu) * (bestPower / ratedSpeed) * a * a * share;
}

export class TrueLoad {
  /** kg on each stretch of belt, from the feed on */
  private readonly belt = new Float64Array(cells);
  private beltAt = 0;
  private flow = 0;
  /** of each pump across the line beside it */
  private beside = 0;
  private laid: number;

  constructor(
    readonly shape: LoadShape,
    private readonly rated: Rated,
    state: LoadState,
  ) {
    this.belt.fill(state.mass / cells);
    this.laid = state.mass;
  }

  /**
   * One step.
   * @param speed rad/s at the shaft @param dt s
   */
  advance(state: LoadState, load: Load, day: LoadDay, speed: number, dt: number): void {
    if (load.kind === 'pump') this.pump(state, load, day, speed, dt);
    else if (load.kind === 'fan') this.fan(state, load, day, speed, dt);
    else if (load.kind === 'conveyor') this.conveyor(state, load, day, speed, dt);
    else if (load.kind === 'hoist') this.hoist(state, load, day, speed);
    else this.stirrer(state, load, day, speed);
  }

  /** Sliding friction, more of it while it breaks loose. */
  private sliding(force: number, speed: number): number {
    const { breakaway, looseAt } = this.shape;
    return force * (1 + breakaway * Math.exp(-Math.abs(speed) / looseAt));
  }

  private pump(state: LoadState, p: PumpLoad, day: LoadDay, speed: number, dt: number): void {
    const { shape, rated } = this;
    const nu = speed / p.ratedSpeed;
    const dry = (p.sumpArea > 0 || p.dryLevel > -1e3) && state.level <= p.dryLevel;
    state.prime = Math.min(0.9999, Math.max(0, state.prime + ((dry ? 0 : 1) - state.prime) * (dt / emptying)));
    const full = state.prime > 0.99 ? 1 : airHead + (1 - airHead) * state.prime;
    const weight = water * day.density * gravity;
    const a = Math.abs(nu);
    const against = p.staticHead - state.level + state.pressure / weight;
    this.flow = this.flowAfter(p, this.flow, a, (speed >= 0 ? 1 : backwardHead) * full, against, dt);
    state.flow = this.flow * state.prime;
    this.beside = p.assisting > 0 || this.beside > least ? this.flowAfter(p, this.beside, p.assisting > 0 ? 1 : 0, full, against, dt) : 0;
    const all = state.flow + Math.max(1, p.assisting) * this.beside;
    if (p.headerShared === 0) this.vessel(state, p, day, all, dt);
    if (p.sumpArea > 0) state.level = Math.min(2, Math.max(p.dryLevel, state.level + ((p.inflow - all) * dt) / p.sumpArea));
    const bestHead = p.shutOffHead - p.headFall * p.bestFlow * p.bestFlow;
    const bestPower = (weight * p.bestFlow * bestHead) / p.bestEfficiency;
    const turned = wheelTorque(nu, a > standing ? state.flow / (p.bestFlow * a) : 0, bestPower, shape, p.ratedSpeed);
    const wet = state.prime > 0.99 ? 1 : airTorque + (1 - airTorque) * state.prime;
    state.torque = turned * wet;
    state.slope = a > standing ? (2 * Math.abs(state.torque)) / Math.abs(speed) : 0;
    state.friction = this.sliding(shape.seal * rated.torque * day.friction, speed);
  }

  /**
   * Flow of one wheel after a step: metres of head that are left move the column to its best flow in its time.
   * @param a share of rated speed @param makes share of its head the wheel makes @param against m
   */
  private flowAfter(p: PumpLoad, flow: number, a: number, makes: number, against: number, dt: number): number {
    const { curve, waterTime } = this.shape;
    const valve = p.dischargeOpening > 0.005 ? p.valveFall / (p.dischargeOpening * p.dischargeOpening) : Infinity;
    if (valve === Infinity) return 0;
    const fall = p.headFall * Math.pow(p.bestFlow, 2 - curve);
    // the curve's fall keeps its shape by the affinity laws: flow against what the wheel gives at this speed
    const lost = flow > least ? fall * Math.pow(flow, curve) * Math.pow(Math.max(a, 0.05), 2 - curve) : 0;
    const spare = makes * p.shutOffHead * a * a - lost - valve * flow * flow - against;
    return Math.max(0, flow + (dt / waterTime) * (p.bestFlow * (spare / (0.6 * p.shutOffHead))));
  }

  /** Pressure behind the check valve: what comes in, what the taps and a leaking valve let out. */
  private vessel(state: LoadState, p: PumpLoad, day: LoadDay, flow: number, dt: number): void {
    const { pipe } = this.shape;
    // the taps take what they are said to at one bar of their own; further off they bend otherwise
    const at = 3e5;
    const open = p.demand * day.demand * p.demandOpening * Math.sqrt(at);
    const pressure = Math.max(state.pressure, 1);
    const out = open * Math.pow(pressure / at, 1 / pipe);
    const leak = p.checkValve < 1 && this.flow <= least ? (1 - p.checkValve) * p.bestFlow * Math.sqrt(pressure / at) : 0;
    const stiff = (out + leak) / (pipe * pressure);
    state.pressure = Math.max(0, state.pressure + (dt * (flow - out - leak)) / (p.compliance + dt * stiff));
  }

  private fan(state: LoadState, f: FanLoad, day: LoadDay, speed: number, dt: number): void {
    const { shape, rated } = this;
    const nu = speed / f.ratedSpeed;
    const a = Math.abs(nu);
    const made = (speed >= 0 ? 1 : backwardPressure) * f.shutOffPressure * day.density * a * a;
    const inner = (f.pressureFall + f.filter * f.clogging * day.filter) * day.density * Math.pow(f.bestFlow, 2 - shape.curve);
    const spare = made - state.pressure;
    const bend = Math.pow(Math.max(a, 0.05), 2 - shape.curve);
    state.flow = spare > 0 ? Math.pow(spare / (inner * bend), 1 / shape.curve) : 0;
    const open = Math.max(f.damper, shape.damperLeak);
    const outer = (f.duct * day.density * Math.pow(f.bestFlow, 2 - shape.pipe)) / (open * open);
    const pressure = Math.max(state.pressure, 1e-3);
    const out = Math.pow(pressure / outer, 1 / shape.pipe);
    const stiff = (spare > 1 ? state.flow / (shape.curve * spare) : 0) + out / (shape.pipe * pressure);
    state.pressure = Math.max(0, state.pressure + (dt * (state.flow - out)) / (f.compliance + dt * stiff));
    const bestPressure = f.shutOffPressure - f.pressureFall * f.bestFlow * f.bestFlow;
    const bestPower = (day.density * f.bestFlow * bestPressure) / f.bestEfficiency;
    state.torque = wheelTorque(nu, a > standing ? state.flow / (f.bestFlow * a) : 0, bestPower, shape, f.ratedSpeed);
    state.slope = a > standing ? (2 * Math.abs(state.torque)) / Math.abs(speed) : 0;
    state.friction = this.sliding(0.5 * shape.seal * rated.torque * day.friction, speed);
  }

  private conveyor(state: LoadState, b: ConveyorLoad, day: LoadDay, speed: number, dt: number): void {
    const { shape, rated, belt } = this;
    const arm = b.radius / b.ratio;
    // somebody put something on the belt, or took it off
    if (Math.abs(state.mass - this.laid) > 1e-6) for (let i = 0; i < cells; i++) belt[i] = (nth(belt, i) * state.mass) / Math.max(this.laid, 1e-6);
    const pulled = Math.min(2, Math.abs(state.friction + state.torque) / rated.torque);
    const v = speed * arm * (1 - shape.beltSlip * pulled);
    const stretch = b.length / cells;
    if (v > 0.005) belt[0] = nth(belt, 0) + b.feed * day.feed * dt;
    this.beltAt += v * dt;
    while (this.beltAt >= stretch) {
      this.beltAt -= stretch;
      belt.copyWithin(1, 0, cells - 1);
      belt[0] = 0;
    }
    while (this.beltAt <= -stretch) {
      this.beltAt += stretch;
      belt.copyWithin(0, 1);
      belt[cells - 1] = 0;
    }
    let mass = 0;
    for (let i = 0; i < cells; i++) mass += nth(belt, i);
    state.mass = mass;
    this.laid = mass;
    state.flow = (mass * Math.abs(v)) / b.length;
    const pull = mass * gravity * Math.sin(b.slope) * arm;
    const rolling = b.frictionCoefficient * day.friction * (b.beltMass + mass) * gravity * Math.cos(b.slope) * arm;
    const drag = shape.gearDrag * rated.torque * day.viscosity;
    // a gear loses a share of what goes through it, whichever way it goes
    const lifting = pull * (speed < 0 ? -1 : 1) > 0;
    state.torque = (lifting ? pull / b.efficiency : pull * b.efficiency) + b.viscous * day.viscosity * speed;
    state.slope = b.viscous * day.viscosity;
    state.friction = this.sliding(rolling / b.efficiency + drag, speed);
    state.inertia = (b.beltMass + mass) * arm * arm;
  }

  /** A rope on a drum. The gear loses the same torque both ways, so that it is better up than down; turning it takes something even with an empty hook. */
  private hoist(state: LoadState, h: HoistLoad, day: LoadDay, speed: number): void {
    const { shape, rated } = this;
    const hung = h.hookMass + h.mass * day.feed;
    const pull = hung * gravity * h.travel;
    state.mass = h.mass * day.feed;
    state.torque = pull;
    state.friction = this.sliding(pull * (1 / h.efficiency - 1) + shape.gearDrag * rated.torque * day.viscosity, speed);
    state.slope = 0;
    state.inertia = hung * h.travel * h.travel;
  }

  private stirrer(state: LoadState, t: TorqueLoad, day: LoadDay, speed: number): void {
    const { shape, rated } = this;
    const a = Math.abs(speed) / rated.speed;
    const square = t.quadratic * rated.speed * rated.speed * day.density * Math.pow(a, shape.stirring);
    state.torque = Math.sign(speed) * square + t.viscous * day.viscosity * speed;
    state.slope = t.viscous * day.viscosity + (a > standing ? (shape.stirring * square) / Math.abs(speed) : 0);
    state.friction = this.sliding(t.constant * day.friction, speed);
  }
}
