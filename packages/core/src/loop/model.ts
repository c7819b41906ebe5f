/**
 * What a process makes of the drive's output, as far as a loop has to know: output in % of maximum frequency, feedback in % of the sensor's range.
 * Settling: K e^(−θs) / ((1 + τ₁s)(1 + τ₂s)). Integrating, such as a level: K e^(−θs) / (s (1 + τ₁s)).
 */
export interface ProcessModel {
  kind: 'settling' | 'integrating';
  /** % of the sensor per % of output; for an integrating process % per s and % */
  gain: number;
  /** s, the longer first; 0 where there is none */
  lags: readonly [number, number];
  /** s */
  deadTime: number;
}

/** A process at rest at an output of 0 and a feedback of 0, both as deviations. */
export interface ModelState {
  first: number;
  second: number;
  /** outputs of the dead time, oldest at `at` */
  readonly past: Float64Array;
  at: number;
}

export const restingModel = (m: ProcessModel, dt: number): ModelState => ({
  first: 0,
  second: 0,
  past: new Float64Array(Math.max(1, Math.round(m.deadTime / dt))),
  at: 0,
});

/** Share of the way a lag goes in a step. */
const towards = (lag: number, dt: number): number => (lag <= 0 ? 1 : 1 - Math.exp(-dt / lag));

/** One step of the process; returns its feedback. Exact for an output that stands during a step. @param output and what comes in beside it, in % */
export function stepModel(state: ModelState, m: ProcessModel, output: number, dt: number): number {
  const late = state.past[state.at] ?? NaN;
  state.past[state.at] = output;
  state.at = (state.at + 1) % state.past.length;
  const driven = m.deadTime < dt / 2 ? output : late;
  if (m.kind === 'integrating') {
    state.first += (driven - state.first) * towards(m.lags[0], dt);
    state.second += m.gain * state.first * dt;
    return state.second;
  }
  state.first += (m.gain * driven - state.first) * towards(m.lags[0], dt);
  state.second += (state.first - state.second) * towards(m.lags[1], dt);
  return state.second;
}
