import { bumpless, restingPid, stepPid, type PidSettings, type PidState } from './pid';
import { awake, stepSleep, type SleepSettings, type SleepState } from './sleep';

/** A process the drive keeps by itself, and when it may sleep. */
export interface ProcessSettings {
  /** % of the sensor's range */
  setpoint: number;
  /** outputs in % of maximum frequency */
  pid: PidSettings;
  sleep: SleepSettings;
}

export interface ProcessState {
  loop: PidState;
  sleep: SleepState;
  /** the loop has the speed; it is taken over without a bump when it gets it */
  active: boolean;
}

export const restingProcess = (): ProcessState => ({ loop: restingPid(0), sleep: awake(), active: false });

/** The loop gives the speed away, to hand or to a preset: it is awake when it gets it back. */
export function leaveProcess(state: ProcessState): void {
  state.active = false;
  state.sleep.asleep = false;
  state.sleep.waited = 0;
}

/**
 * One step of the loop with its sleep: Hz to run at, 0 when it should stand.
 * @param feedback % of the sensor's range @param present Hz, size of what the ramp stands at @param maximum Hz @param dt s
 */
export function stepProcess(state: ProcessState, s: ProcessSettings, feedback: number, present: number, maximum: number, dt: number): number {
  const { pid, setpoint } = s;
  if (!state.active) {
    bumpless(state.loop, pid, setpoint, feedback, Math.max(pid.outputLow, (100 * present) / maximum));
    state.active = true;
  }
  const wasAsleep = state.sleep.asleep;
  const shortfall = (setpoint - feedback) * (pid.reverse ? -1 : 1);
  if (stepSleep(state.sleep, s.sleep, present, shortfall, dt)) return 0;
  if (wasAsleep) bumpless(state.loop, pid, setpoint, feedback, pid.outputLow);
  return (stepPid(state.loop, pid, setpoint, feedback, dt) / 100) * maximum;
}
