import { gravity, pumpPower, waterDensity, type PumpLoad } from '../load';
import type { MachineSpec } from '../machine';
import { sumpLevel, type Sump } from '../process/sump';
import { quietSetpoint, restingProcess, setpointOf, stepProcess, withinLimits, type ProcessSettings } from '../controls';
import { restingStation, sideBySide, stationMaster, stepStation, type StationMember, type StationSettings } from '../controls/station';
import { demandAt, efficiencyLine } from './sleepDay';
import { nth } from '../present';

/** Several pumps of one make, and what they have to do together. */
export interface StationPlan {
  sensor: { measures: 'pressure' | 'level'; low: number; high: number };
  process: ProcessSettings;
  station: StationSettings;
  /** m³/s at even times of a day, as in a {@link DayPlan}: what is drawn, or what flows into the sump */
  demand: readonly number[];
  /** a pump that trips, or is taken to hand, and when, s */
  lost?: { number: number; at: number };
}

/** What each pump has done. */
export interface StationCount {
  /** h, and starts, by pump */
  hours: number[];
  starts: number[];
  /** most starts of one pump within an hour */
  startsPerHour: number[];
  /** h in which all that may run did, at full output, and it was not enough */
  short: number;
  /** kWh at the motors' terminals */
  energy: number;
}

/** One sample each: s, m³/s, Hz, pumps running as bits by number, SI of the sensor. */
export interface StationSeries {
  time: number[];
  demand: number[];
  output: number[];
  running: number[];
  feedback: number[];
}

const rhoG = waterDensity * gravity;
/** Energy is taken once in so many steps: it changes slowly. */
const energyEvery = 6;
/** Share of full output from which it counts as all there is. */
const full = 0.995;

/** m³/s of one pump at a share of rated speed against a pressure in Pa and with a level in m. @param pipe m per (m³/s)² behind it */
function flowAt(pump: PumpLoad, share: number, pressure: number, level: number, pipe = 0): number {
  const spare = pump.shutOffHead * share * share - pump.staticHead + level - pressure / rhoG;
  return spare > 0 ? Math.sqrt(spare / (pump.headFall + pump.valveFall + pipe)) : 0;
}

/** Share of rated speed at which so many pumps together give a flow against a pressure (affinity laws). */
const shareFor = (pump: PumpLoad, flow: number, pumps: number, pressure: number): number =>
  Math.sqrt((pump.staticHead + pressure / rhoG + (pump.headFall + pump.valveFall) * (flow / pumps) ** 2) / pump.shutOffHead);

/** A station as it goes on by steps of some seconds: loops settle within a step, ramps are over, a level moves. */
class Station {
  readonly members: StationMember[];
  readonly count: StationCount;
  private readonly state = restingStation();
  private readonly process = restingProcess();
  private readonly settings: ProcessSettings;
  private readonly efficiency;
  private readonly pump: PumpLoad;
  private readonly sump: Sump;
  private readonly recent: number[][];
  private readonly pressure: number;
  /** m per (m³/s)², a pipe of its own behind each pump of a sump; a kept pressure is in one pipe for all */
  private readonly pipe: number;
  private readonly contactors: boolean;
  private was: readonly number[] = [];
  private steps = 0;
  output = 0;
  level = 0;
  feedback: number;

  constructor(
    private readonly spec: MachineSpec,
    private readonly plan: StationPlan,
  ) {
    if (spec.load.kind !== 'pump') throw new RangeError('A station is worked out for pumps.');
    const { station, sensor } = plan;
    this.pump = spec.load;
    this.settings = withinLimits(plan.process, spec.drive);
    const held = sensor.low + (setpointOf(this.settings.setpoint, quietSetpoint) / 100) * (sensor.high - sensor.low);
    this.pressure = sensor.measures === 'pressure' ? held : 0;
    this.level = sensor.measures === 'level' ? held : 0;
    this.pipe = sensor.measures === 'level' ? 1 / (rhoG * this.pump.demand * this.pump.demand) : 0;
    this.feedback = held;
    this.sump = { area: Math.max(0.1, spec.load.sumpArea), inflow: 0, dryLevel: spec.load.dryLevel };
    this.efficiency = efficiencyLine(spec);
    this.contactors = !sideBySide(station);
    const zero = () => Array.from({ length: station.pumps }, () => 0);
    this.members = zero().map(() => ({ able: true, hours: 0 }));
    this.count = { hours: zero(), starts: zero(), startsPerHour: zero(), short: 0, energy: 0 };
    this.recent = zero().map(() => []);
  }

  get running(): readonly number[] {
    return this.state.order;
  }

  /** Hz the loop gives, null asleep. */
  private goal(demand: number, dt: number): number | null {
    const { sensor } = this.plan;
    const { maximumFrequency, motorFrequency } = this.spec.drive;
    if (sensor.measures === 'pressure') {
      const pumps = Math.max(1, this.state.order.length);
      const fixed = this.contactors ? pumps - 1 : 0;
      const beside = fixed * flowAt(this.pump, 1, this.pressure, 0);
      const share = shareFor(this.pump, Math.max(0, demand - beside), pumps - fixed, this.pressure);
      const asleep = this.settings.sleep.frequency > 0 && demand <= 0 && pumps === 1;
      return asleep ? null : Math.min(maximumFrequency, Math.max((this.settings.pid.outputLow / 100) * maximumFrequency, share * motorFrequency));
    }
    const seen = (100 * (this.level - sensor.low)) / (sensor.high - sensor.low);
    const sleepsBy = this.state.order.length > 1 ? Infinity : this.output;
    const goal = stepProcess(this.process, this.settings, quietSetpoint, seen, this.output, maximumFrequency, dt, sleepsBy);
    return this.process.sleep.asleep ? null : goal;
  }

  /** @param at s @param demand m³/s @param dt s */
  step(at: number, demand: number, dt: number): void {
    const { plan, state, members, spec } = this;
    const { lost, station } = plan;
    if (lost) nth(members, lost.number - 1).able = at < lost.at;
    const goal = stationMaster(members) === 0 ? null : this.goal(demand, dt);
    stepStation(state, station, members, goal !== null, this.output, this.contactors ? 1 : 0, dt);
    this.output = goal ?? 0;
    const { motorFrequency, maximumFrequency } = spec.drive;
    const share = this.output / motorFrequency;
    let flow = 0;
    for (const n of state.order) flow += flowAt(this.pump, this.contactors && n !== 1 ? 1 : share, this.pressure, this.level, this.pipe);
    if (plan.sensor.measures === 'level') {
      this.sump.inflow = demand;
      this.level = sumpLevel(this.level, this.sump, flow, dt);
      this.feedback = this.level;
    } else this.feedback = flow < demand ? this.pressure * (flow / Math.max(1e-9, demand)) ** 2 : this.pressure;
    if (flow < demand && this.output >= full * maximumFrequency && this.allRun) this.count.short += dt / 3600;
    this.note(at, share, flow, dt);
  }

  /** All that may run, and can, do. */
  private get allRun(): boolean {
    const { station } = this.plan;
    const able = this.members.filter((m, i) => m.able && i + 1 !== station.jockey).length;
    return this.state.order.length >= Math.min(station.most, able);
  }

  /** Hours, starts and energy of each pump. */
  private note(at: number, share: number, flow: number, dt: number): void {
    const { state, members, count } = this;
    const counts = this.steps++ % energyEvery === 0;
    const each = state.order.length > 0 ? flow / state.order.length : 0;
    for (const n of state.order) {
      const i = n - 1;
      if (counts) {
        const power = pumpPower(this.pump, (this.contactors && n !== 1 ? 1 : share) * this.pump.ratedSpeed, each);
        count.energy += power > 0 ? ((power / this.efficiency(power)) * energyEvery * dt) / 3.6e6 : 0;
      }
      count.hours[i] = (count.hours[i] ?? NaN) + dt / 3600;
      nth(members, i).hours += dt / 3600;
      if (this.was.includes(n)) continue;
      count.starts[i] = (count.starts[i] ?? NaN) + 1;
      const recent = nth(this.recent, i);
      recent.push(at);
      while (at - nth(recent, 0) >= 3600) recent.shift();
      count.startsPerHour[i] = Math.max(count.startsPerHour[i] ?? NaN, recent.length);
    }
    // the order is changed in place: what stood before has to be a copy
    this.was = [...state.order];
  }
}

/** s of a step over a year. */
const yearStep = 10;
/** An assumed year, for want of the plant's own: every so many days a wet one, how much more flows on it, and how much less at the weekend. */
const usualYear = { wetEvery: 9, wet: 1.8, weekend: 0.5 };

/** A year of a station: every day its demand, every ninth a wet one, weekends quiet. Settles each step; good for hours and starts, not for seconds. */
export function stationYear(spec: MachineSpec, plan: StationPlan, days = 365): StationCount {
  const station = new Station(spec, plan);
  const perDay = 86400 / yearStep;
  for (let day = 0; day < days; day++) {
    const times = (day % 7 >= 5 ? usualYear.weekend : 1) * (day % usualYear.wetEvery === usualYear.wetEvery - 1 ? usualYear.wet : 1);
    for (let i = 0; i < perDay; i++) station.step(day * 86400 + i * yearStep, times * demandAt(plan.demand, i * yearStep), yearStep);
  }
  return station.count;
}

/** A demand that rises to a peak and falls again, and what the pumps make of it. @param peak m³/s @param lasts s */
export function stationRamp(
  spec: MachineSpec,
  plan: Omit<StationPlan, 'demand'>,
  peak: number,
  lasts = 3600,
): StationSeries & { count: StationCount } {
  const station = new Station(spec, { ...plan, demand: [] });
  const out: StationSeries = { time: [], demand: [], output: [], running: [], feedback: [] };
  const every = Math.max(1, Math.round(lasts / 600));
  for (let t = 0; t < lasts; t++) {
    const demand = peak * (1 - Math.abs((2 * t) / lasts - 1));
    station.step(t, demand, 1);
    if (t % every > 0) continue;
    out.time.push(t);
    out.demand.push(demand);
    out.output.push(station.output);
    out.running.push(station.running.reduce((bits, n) => bits | (1 << (n - 1)), 0));
    out.feedback.push(station.feedback);
  }
  return { ...out, count: station.count };
}
