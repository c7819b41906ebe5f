import { gravity, pumpPower, waterDensity, type PumpLoad } from '../load';
import type { MachineSpec } from '../machine';
import { operate } from '../motor';

/** When a pump that keeps a pressure may stand still, and when it must run again. */
export interface SleepSettings {
  /** Hz below which it may fall asleep; 0 never */
  frequency: number;
  /** s below it */
  delay: number;
  /** % the feedback may fall below the set point, and for how long, s */
  wakeFall: number;
  wakeDelay: number;
  /** % the set point is raised by before it falls asleep, and s it may take at most; 0 no boost */
  boost: number;
  boostTime: number;
  /** s it runs, and s it rests, at the least */
  leastRun: number;
  leastRest: number;
}

export interface SleepState {
  asleep: boolean;
  /** it fills up once more before it falls asleep */
  boosting: boolean;
  /** the set point has been reached since it woke: before that a low output means nothing */
  reached: boolean;
  /** Hz, the output smoothed: noise of a sensor shakes it across the sleep frequency */
  output: number;
  /** s the condition for the next change has lasted, and s since the last one */
  waited: number;
  since: number;
  /** how often it has woken */
  wakes: number;
}

export const awake = (): SleepState => ({ asleep: false, boosting: false, reached: false, output: 0, waited: 0, since: 0, wakes: 0 });

/** As one that has just been woken by nobody: the start of a run. */
export function stayAwake(state: SleepState): void {
  state.asleep = false;
  state.boosting = false;
  state.reached = false;
  state.waited = 0;
  state.since = 0;
}

/** % under the set point, and share of the wake fall, from which it counts as reached: a loop creeps up the last of the way. */
const nearly = 0.3;
const nearlyShare = 0.15;
/** s over which the output is smoothed. */
const smooth = 4;

/** Whether the output stays low, once the set point has been reached. */
function low(state: SleepState, s: SleepSettings, frequency: number, shortfall: number, dt: number): boolean {
  if (!state.reached) {
    state.reached = shortfall <= Math.max(nearly, nearlyShare * s.wakeFall);
    state.output = frequency;
  } else if (Number.isFinite(frequency)) state.output += (frequency - state.output) * Math.min(1, dt / smooth);
  else state.output = frequency;
  return state.reached && state.output <= s.frequency;
}

/** Share of the wake fall that, lost while it boosts, tells of somebody who draws. */
const drawsAgain = 0.5;

/** While it boosts: asleep once it has filled up or its time is over, awake again when somebody draws. */
function stepBoost(state: SleepState, s: SleepSettings, shortfall: number, dt: number): void {
  state.waited += dt;
  const drawn = shortfall > drawsAgain * s.wakeFall;
  if (!drawn && shortfall > -s.boost && state.waited < s.boostTime) return;
  state.boosting = false;
  state.asleep = !drawn;
  state.waited = 0;
  if (state.asleep) state.since = 0;
}

/**
 * One step; returns whether the drive should stand.
 * @param frequency Hz where the ramp stands @param shortfall set point without boost, minus feedback, in % and in the sense of the loop @param dt s
 */
export function stepSleep(state: SleepState, s: SleepSettings, frequency: number, shortfall: number, dt: number): boolean {
  if (s.frequency <= 0) {
    stayAwake(state);
    return false;
  }
  state.since += dt;
  if (state.boosting) {
    stepBoost(state, s, shortfall, dt);
    return state.asleep;
  }
  const toward = state.asleep ? shortfall >= s.wakeFall : low(state, s, frequency, shortfall, dt);
  // a short rise takes back as much of the wait as it lasts; a short fall of the feedback wakes nobody
  state.waited = toward ? state.waited + dt : state.asleep ? 0 : Math.max(0, state.waited - dt);
  if (!toward || state.waited < (state.asleep ? s.wakeDelay : s.delay) || state.since < (state.asleep ? s.leastRest : s.leastRun))
    return state.asleep;
  state.waited = 0;
  if (!state.asleep && s.boost > 0) {
    state.boosting = true;
    return false;
  }
  state.asleep = !state.asleep;
  state.since = 0;
  state.reached = false;
  if (!state.asleep) state.wakes++;
  return state.asleep;
}

/**
 * Starts an hour that motor and pump stand, by the motor's power in W: what makers of pumps allow, fewer the larger (common practice). Through a drive
 * the winding hardly warms by a start; seal, coupling and check valve wear by each.
 */
export const startsAllowed = (power: number): number => (power <= 5500 ? 20 : power <= 15_000 ? 15 : power <= 45_000 ? 10 : 6);

/** The same of a pump that a contactor puts straight across the line: each start heats its winding with several times its current, so fewer (common practice). */
export const startsAllowedAcross = (power: number): number => (power <= 5500 ? 12 : power <= 15_000 ? 8 : power <= 45_000 ? 6 : 4);

/** Hz of slip for each N·m at the shaft, by the circuit at rated volts: at full flux it goes with the torque, whatever the frequency. */
export function slipPerTorque({ circuit, drive }: Pick<MachineSpec, 'circuit' | 'drive'>): number {
  const synchronous = (4 * Math.PI * circuit.ratedFrequency) / circuit.poles;
  const slip = 1 - circuit.ratedSpeed / synchronous;
  return (slip * circuit.ratedFrequency) / operate(circuit, drive.motorVoltage / Math.sqrt(3), circuit.ratedFrequency, slip).shaftTorque;
}

/**
 * Hz at which a pump holds a pressure in Pa with a flow in m³/s through it: affinity laws for head, its own power for slip. With no flow it is the least
 * that can come while the pressure is kept.
 */
export function holdingFrequency(spec: Pick<MachineSpec, 'circuit' | 'drive'>, pump: PumpLoad, pressure: number, flow = 0): number {
  const head = Math.max(0, pump.staticHead + pressure / (waterDensity * gravity)) + (pump.headFall + pump.valveFall) * flow * flow;
  const speed = pump.ratedSpeed * Math.sqrt(head / pump.shutOffHead);
  const torque = speed > 1 ? pumpPower(pump, speed, flow) / speed : 0;
  return (speed * spec.circuit.poles) / (4 * Math.PI) + slipPerTorque(spec) * torque;
}
