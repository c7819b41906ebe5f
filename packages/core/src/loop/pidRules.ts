import type { ProcessModel } from './model';

/** Gain in % of output per % of error, times in s; Infinity and 0 leave a part out. ISA standard form. */
export interface PidGains {
  gain: number;
  integralTime: number;
  derivativeTime: number;
}

export type RuleId =
  | 'simc'
  | 'simc smooth'
  | 'lambda'
  | 'itae disturbance PI'
  | 'itae disturbance PID'
  | 'itae set point PI'
  | 'itae set point PID'
  | 'cohen-coon PI'
  | 'ziegler-nichols PI'
  | 'largest integral';

/** A tuning rule with where it comes from and when it may be used. */
export interface PidRule {
  id: RuleId;
  /** what it is best for */
  purpose: 'both' | 'disturbance' | 'set point' | 'comparison';
  source: string;
  /** null where the rule does not hold for such a process; a rule that can be made gentler keeps to the largest gain */
  gains: (m: ProcessModel, mostGain?: number) => PidGains | null;
}

/** First order with dead time that stands for two lags: half of the smaller goes to each (half rule: Skogestad 2003). */
export function reduced(m: ProcessModel): { gain: number; lag: number; deadTime: number } {
  const [long, short] = m.lags;
  return { gain: Math.abs(m.gain), lag: long + short / 2, deadTime: m.deadTime + short / 2 };
}

/** Share of dead time over lag for which the rules of least ITAE and Cohen–Coon were made. */
const fitted = { least: 0.1, most: 1 };

const settling =
  (rule: (k: number, tau: number, theta: number) => PidGains, within: { least: number; most: number } | null = null) =>
  (m: ProcessModel): PidGains | null => {
    if (m.kind !== 'settling') return null;
    const { gain, lag, deadTime } = reduced(m);
    if (gain <= 0 || lag <= 0 || deadTime <= 0) return null;
    const ratio = deadTime / lag;
    return within && (ratio < within.least || ratio > within.most) ? null : rule(gain, lag, deadTime);
  };

const pi = (gain: number, integralTime: number): PidGains => ({ gain, integralTime, derivativeTime: 0 });

/** SIMC: τc sets how fast the closed loop is; τc = θ is the tightest that is still robust (Skogestad 2003, eq. 23 to 25 and 29). */
export function simc(m: ProcessModel, closed: number): PidGains {
  const { gain, lag, deadTime } = reduced(m);
  if (m.kind === 'integrating') {
    // a lag behind the integrator counts as dead time
    const late = m.deadTime + m.lags[0];
    return pi(1 / (Math.abs(m.gain) * (closed + late)), 4 * (closed + late));
  }
  return pi(lag / (gain * (closed + deadTime)), Math.min(lag, 4 * (closed + deadTime)));
}

/** s of closed loop that keep SIMC's gain to a largest one. */
function closedFor(m: ProcessModel, closed: number, mostGain: number): number {
  if (!Number.isFinite(mostGain)) return closed;
  const { gain, lag, deadTime } = reduced(m);
  if (m.kind === 'integrating') return Math.max(closed, 1 / (Math.abs(m.gain) * mostGain) - m.deadTime - m.lags[0]);
  return Math.max(closed, lag / (gain * mostGain) - deadTime);
}

/** s of dead time a loop has at least: scan, filter and ramp of a drive. */
export const leastDeadTime = 0.05;

const late = (m: ProcessModel): number => Math.max(leastDeadTime, m.kind === 'integrating' ? m.deadTime + m.lags[0] : reduced(m).deadTime);

/** Closed-loop lag of the lambda rule, of the process's own (common practice: one to three times). */
const usualLambda = 1.5;

export const pidRules: readonly PidRule[] = [
  { id: 'simc', purpose: 'both', source: 'Skogestad 2003, τc = θ', gains: (m, most = Infinity) => simc(m, closedFor(m, late(m), most)) },
  { id: 'simc smooth', purpose: 'both', source: 'Skogestad 2003, τc = 3θ', gains: (m, most = Infinity) => simc(m, closedFor(m, 3 * late(m), most)) },
  {
    id: 'lambda',
    purpose: 'set point',
    source: 'Dahlin 1968, λ = 1.5 τ',
    gains: settling((k, tau, theta) => pi(tau / (k * (usualLambda * tau + theta)), tau)),
  },
  {
    id: 'itae disturbance PI',
    purpose: 'disturbance',
    source: 'Lopez et al. 1967',
    gains: settling((k, tau, theta) => pi((0.859 / k) * (theta / tau) ** -0.977, (tau / 0.674) * (theta / tau) ** 0.68), fitted),
  },
  {
    id: 'itae disturbance PID',
    purpose: 'disturbance',
    source: 'Lopez et al. 1967',
    gains: settling(
      (k, tau, theta) => ({
        gain: (1.357 / k) * (theta / tau) ** -0.947,
        integralTime: (tau / 0.842) * (theta / tau) ** 0.738,
        derivativeTime: 0.381 * tau * (theta / tau) ** 0.995,
      }),
      fitted,
    ),
  },
  {
    id: 'itae set point PI',
    purpose: 'set point',
    source: 'Rovira et al. 1969',
    gains: settling((k, tau, theta) => pi((0.586 / k) * (theta / tau) ** -0.916, tau / (1.03 - 0.165 * (theta / tau))), fitted),
  },
  {
    id: 'itae set point PID',
    purpose: 'set point',
    source: 'Rovira et al. 1969',
    gains: settling(
      (k, tau, theta) => ({
        gain: (0.965 / k) * (theta / tau) ** -0.85,
        integralTime: tau / (0.796 - 0.1465 * (theta / tau)),
        derivativeTime: 0.308 * tau * (theta / tau) ** 0.929,
      }),
      fitted,
    ),
  },
  {
    id: 'cohen-coon PI',
    purpose: 'comparison',
    source: 'Cohen, Coon 1953',
    gains: settling(
      (k, tau, theta) => pi((tau / (k * theta)) * (0.9 + theta / (12 * tau)), (theta * (30 + (3 * theta) / tau)) / (9 + (20 * theta) / tau)),
      fitted,
    ),
  },
  {
    id: 'ziegler-nichols PI',
    purpose: 'comparison',
    source: 'Ziegler, Nichols 1942, from the step',
    gains: settling((k, tau, theta) => pi((0.9 * tau) / (k * theta), theta / 0.3), fitted),
  },
];
