/** When a pump that keeps a pressure may stand still, and when it must run again. */
export interface SleepSettings {
  /** Hz below which it may fall asleep; 0 never */
  frequency: number;
  /** s below it */
  delay: number;
  /** % the feedback may fall below the set point, and for how long, s */
  wakeFall: number;
  wakeDelay: number;
}

export interface SleepState {
  asleep: boolean;
  /** s the condition for the next change has lasted */
  waited: number;
  /** how often it has woken */
  wakes: number;
}

export const awake = (): SleepState => ({ asleep: false, waited: 0, wakes: 0 });

/** One step; returns whether the drive should stand. `shortfall` is set point minus feedback in %, in the sense of the loop. */
export function stepSleep(state: SleepState, s: SleepSettings, frequency: number, shortfall: number, dt: number): boolean {
  if (s.frequency <= 0) {
    state.asleep = false;
    return false;
  }
  const toward = state.asleep ? shortfall >= s.wakeFall : frequency <= s.frequency;
  state.waited = toward ? state.waited + dt : 0;
  if (toward && state.waited >= (state.asleep ? s.wakeDelay : s.delay)) {
    state.asleep = !state.asleep;
    state.waited = 0;
    if (!state.asleep) state.wakes++;
  }
  return state.asleep;
}
