import { restingPid, stepPid } from '../controls/pid';
import { restingModel, stepModel, type ProcessModel } from './model';
import type { PidGains } from './pidRules';

/** A predicted answer of the closed loop, as deviations in %. */
export interface Predicted {
  /** s */
  time: Float64Array;
  feedback: Float64Array;
  output: Float64Array;
  /** ∫|error| dt, % s */
  iae: number;
  /** % of the step beyond it; of a disturbance the largest deviation over what it would be in the end without a loop */
  overshoot: number;
  /** s until the error stays within 5 % of the step or of the largest deviation */
  settled: number | null;
  /** sum of |Δoutput|, %: the way the drive has to go */
  travel: number;
}

export interface Asked {
  /** % of set point, and % of output that comes in before the process, both at once */
  setpoint: number;
  disturbance: number;
  /** s */
  longest: number;
  /** share of the set point in the proportional part */
  setpointWeight?: number;
  /** % the output may leave where it stands, both ways */
  room?: { low: number; high: number };
  /** % of output a second that the drive's ramp gives; it goes there at once unless told */
  ramp?: number;
}

const within = 0.05;

/** The closed loop's answer to a step of set point or of disturbance, by the drive's own controller on the model. */
export function predict(m: ProcessModel, c: PidGains, asked: Asked, dt = Math.max(0.002, Math.min(0.05, asked.longest / 4000))): Predicted {
  const n = Math.max(2, Math.ceil(asked.longest / dt));
  const out: Predicted = {
    ...{ time: new Float64Array(n), feedback: new Float64Array(n), output: new Float64Array(n) },
    ...{ iae: 0, overshoot: 0, settled: null, travel: 0 },
  };
  const pid = restingPid(0);
  const settings = {
    ...{ proportionalGain: c.gain, integralTime: c.integralTime, derivativeTime: c.derivativeTime },
    ...{ setpointWeight: asked.setpointWeight ?? 1, reverse: m.gain < 0 },
    ...{ outputLow: asked.room?.low ?? -1e6, outputHigh: asked.room?.high ?? 1e6 },
  };
  const state = restingModel(m, dt);
  let y = 0;
  let u = 0;
  const stride = (asked.ramp ?? Infinity) * dt;
  let most = 0;
  for (let i = 0; i < n; i++) {
    const before = u;
    u += Math.max(-stride, Math.min(stride, stepPid(pid, settings, asked.setpoint, y, dt) - u));
    out.travel += i === 0 ? 0 : Math.abs(u - before);
    y = stepModel(state, m, u + asked.disturbance, dt);
    out.time[i] = i * dt;
    out.feedback[i] = y;
    out.output[i] = u;
    out.iae += Math.abs(asked.setpoint - y) * dt;
    most = Math.max(most, asked.setpoint !== 0 ? (y / asked.setpoint - 1) * 100 : Math.abs(y));
  }
  out.overshoot = asked.setpoint !== 0 ? Math.max(0, most) : (100 * most) / Math.max(1e-9, Math.abs(m.gain * asked.disturbance));
  const band = within * (asked.setpoint !== 0 ? Math.abs(asked.setpoint) : Math.max(1e-9, most));
  let last = n;
  while (last > 0 && Math.abs(asked.setpoint - (out.feedback[last - 1] ?? NaN)) <= band) last--;
  out.settled = last === n ? null : last * dt;
  return out;
}
