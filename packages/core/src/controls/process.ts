import { SetpointSource, type SpeedLimits } from '../drive';
import { straightenedOf, type Straight } from './feedback';
import { bumpless, restingPid, stepPid, type PidSettings, type PidState } from './pid';
import { awake, stayAwake, stepSleep, type SleepSettings, type SleepState } from './sleep';

/** What the loop is to hold, in % of the range of the feedback as the loop sees it. */
export interface SetpointSettings {
  source: SetpointSource;
  /** as stored, and the one a contact chooses instead */
  stored: number;
  second: number;
  /** ends it is held to, from wherever it comes */
  low: number;
  high: number;
  /** s for the whole range; 0 takes a new one at once */
  ramp: number;
}

/** A process the drive keeps by itself, and when it may sleep. */
export interface ProcessSettings {
  setpoint: SetpointSettings;
  /** s, of the signal before anything else sees it */
  filter: number;
  /** null while the feedback is taken as it comes */
  straight: Straight | null;
  /** outputs in % of maximum frequency */
  pid: PidSettings;
  sleep: SleepSettings;
}

/** What outside a drive says of its set point. */
export interface SetpointInputs {
  /** the contact for the second one is closed */
  second: boolean;
  /** share of the second analogue input's range, and of the highest speed as the link has it */
  analogue: number;
  link: number;
}

export interface ProcessState {
  loop: PidState;
  sleep: SleepState;
  /** %, what the loop holds now: on its ramp, and where that ends */
  setpoint: number;
  wanted: number;
  /** the loop has the speed; it is taken over without a bump when it gets it */
  active: boolean;
}

export const restingProcess = (): ProcessState => ({ loop: restingPid(0), sleep: awake(), setpoint: 0, wanted: 0, active: false });

/** A stored set point with nothing else to it, and inputs that say nothing. */
export const plainSetpoint = (stored: number): SetpointSettings => ({
  ...{ source: SetpointSource.stored, stored, second: stored, low: 0, high: 100, ramp: 0 },
});
export const quietSetpoint: SetpointInputs = { second: false, analogue: 0, link: 0 };

/** The set point a loop is asked to hold, %. */
export function setpointOf(s: SetpointSettings, i: SetpointInputs): number {
  const given = s.source === SetpointSource.secondAnalogue ? 100 * i.analogue : s.source === SetpointSource.link ? 100 * i.link : s.stored;
  return Math.min(s.high, Math.max(s.low, i.second ? s.second : given));
}

/** The feedback as the loop sees it. @param raw % of the sensor's range */
export const seenBy = ({ straight }: Pick<ProcessSettings, 'straight'>, raw: number): number => (straight ? straightenedOf(straight, raw) : raw);

/** The loop gives the speed away, to hand or to a preset: it is awake when it gets it back. */
export function leaveProcess(state: ProcessState): void {
  state.active = false;
  stayAwake(state.sleep);
}

/** Takes the set point on by its ramp. */
function rampSetpoint(state: ProcessState, { ramp }: SetpointSettings, dt: number): void {
  const most = ramp > 0 ? (100 * dt) / ramp : Infinity;
  const way = state.wanted - state.setpoint;
  state.setpoint += Math.abs(way) <= most ? way : Math.sign(way) * most;
}

/**
 * One step of the loop with its sleep: Hz to run at, 0 when it should stand.
 * @param feedback % of the sensor's range, filtered @param present Hz, size of what the ramp stands at @param maximum Hz @param dt s
 * @param sleepsBy Hz that sleep goes by, where other pumps help
 */
export function stepProcess(
  state: ProcessState,
  s: ProcessSettings,
  inputs: SetpointInputs,
  feedback: number,
  present: number,
  maximum: number,
  dt: number,
  sleepsBy: number = present,
): number {
  const { pid } = s;
  const seen = seenBy(s, feedback);
  state.wanted = setpointOf(s.setpoint, inputs);
  if (!state.active) {
    // a ramp begins at what is there
    state.setpoint = s.setpoint.ramp > 0 ? seen : state.wanted;
    bumpless(state.loop, pid, state.setpoint, seen, Math.min(pid.outputHigh, Math.max(pid.outputLow, (100 * present) / maximum)));
    state.active = true;
  }
  rampSetpoint(state, s.setpoint, dt);
  const wasAsleep = state.sleep.asleep;
  const sense = pid.reverse ? -1 : 1;
  if (stepSleep(state.sleep, s.sleep, sleepsBy, (state.setpoint - seen) * sense, dt)) return 0;
  if (wasAsleep) bumpless(state.loop, pid, state.setpoint, seen, pid.outputLow);
  const held = state.sleep.boosting ? state.setpoint + sense * s.sleep.boost : state.setpoint;
  return (stepPid(state.loop, pid, held, seen, dt) / 100) * maximum;
}

/** The loop's output is held to the drive's lowest speed as well as to its own limits. */
export function withinLimits(s: ProcessSettings, { minimumFrequency, maximumFrequency }: SpeedLimits): ProcessSettings {
  return { ...s, pid: { ...s.pid, outputLow: Math.max(s.pid.outputLow, (100 * minimumFrequency) / maximumFrequency) } };
}
