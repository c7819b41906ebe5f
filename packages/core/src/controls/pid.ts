/** PID in the ISA standard form, output and feedback in % (Åström, Hägglund, *Advanced PID Control*, ch. 3). */
export interface PidSettings {
  /** % of output per % of error */
  proportionalGain: number;
  /** s; Infinity leaves the integral out */
  integralTime: number;
  /** s, on the measurement */
  derivativeTime: number;
  /** share of the set point in the proportional part */
  setpointWeight: number;
  /** true when the output must fall as the feedback falls */
  reverse: boolean;
  /** % */
  outputLow: number;
  outputHigh: number;
}

export interface PidState {
  /** % */
  integral: number;
  /** last measurement and its filtered derivative */
  measured: number;
  derivative: number;
  output: number;
}

export const restingPid = (measured: number): PidState => ({ integral: 0, measured, derivative: 0, output: 0 });

/** The derivative acts through a lag of its time over so many. */
export const derivativeShare = 8;

/** One step; returns the output in %. Anti-windup by back-calculation with T_t = T_i. */
export function stepPid(state: PidState, s: PidSettings, setpoint: number, measured: number, dt: number): number {
  const sign = s.reverse ? -1 : 1;
  const tf = Math.max(dt, s.derivativeTime / derivativeShare);
  state.derivative += ((measured - state.measured) / dt - state.derivative) * (dt / (tf + dt));
  state.measured = measured;
  const proportional = s.proportionalGain * sign * (s.setpointWeight * setpoint - measured);
  const damping = -s.proportionalGain * sign * s.derivativeTime * state.derivative;
  const free = proportional + state.integral + damping;
  const output = Math.min(s.outputHigh, Math.max(s.outputLow, free));
  const share = Number.isFinite(s.integralTime) ? dt / s.integralTime : 0;
  state.integral += s.proportionalGain * sign * (setpoint - measured) * share + (output - free) * Math.min(1, share * 4);
  state.output = output;
  return output;
}

/** Sets the integral so that the next output is `output`: hand to auto without a bump. */
export function bumpless(state: PidState, s: PidSettings, setpoint: number, measured: number, output: number): void {
  const sign = s.reverse ? -1 : 1;
  state.measured = measured;
  state.derivative = 0;
  state.integral = output - s.proportionalGain * sign * (s.setpointWeight * setpoint - measured);
  state.output = output;
}
