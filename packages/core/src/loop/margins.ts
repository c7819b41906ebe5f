import { derivativeShare } from '../controls/pid';
import type { ProcessModel } from './model';
import type { PidGains } from './pidRules';

/** How far a loop is from swinging. */
export interface Margins {
  /** times the gain may grow; Infinity where nothing crosses */
  gainMargin: number;
  /** ° */
  phaseMargin: number;
  /** largest of |1 / (1 + L)|: 1.4 to 1.8 is robust, 2 the usual limit (Åström, Hägglund, *Advanced PID Control*, ch. 7) */
  sensitivity: number;
  /** rad/s where the loop's gain is one; 0 where it never is */
  crossover: number;
  stable: boolean;
}

/** Real and imaginary part of the open loop at a frequency in rad/s. */
export function openLoop(m: ProcessModel, c: PidGains, w: number): { re: number; im: number } {
  const k = Math.abs(m.gain);
  // the controller: gain (1 + 1/(jw Ti) + jw Td / (1 + jw Td/8))
  const f = (w * c.derivativeTime) / derivativeShare;
  const d = 1 + f * f;
  const cr = c.gain * (1 + (w * c.derivativeTime * f) / d);
  const ci = c.gain * (-1 / (w * c.integralTime) + (w * c.derivativeTime) / d);
  let size = k;
  let angle = -w * m.deadTime;
  const lag = (t: number) => {
    size /= Math.hypot(1, w * t);
    angle -= Math.atan(w * t);
  };
  lag(m.lags[0]);
  if (m.kind === 'settling') lag(m.lags[1]);
  else {
    size /= w;
    angle -= Math.PI / 2;
  }
  const [pr, pim] = [size * Math.cos(angle), size * Math.sin(angle)];
  return { re: cr * pr - ci * pim, im: cr * pim + ci * pr };
}

/** Frequencies of a decade looked at, from a hundredth of the slowest to a hundred times the quickest of the process. */
const finely = 80;

/** Gain and phase margin and the largest sensitivity, by the Nyquist curve; stable when the curve does not go round −1. */
export function marginsOf(m: ProcessModel, c: PidGains, perDecade = finely): Margins {
  const times = [m.lags[0], m.lags[1], m.deadTime, c.integralTime].filter((t) => t > 0 && Number.isFinite(t));
  const low = 0.01 / Math.max(...times, 1e-3);
  const high = Math.min(100 / Math.max(1e-3, Math.min(...times)), 4e3);
  const n = Math.max(40, Math.ceil(perDecade * Math.log10(high / low)));
  const out: Margins = { gainMargin: Infinity, phaseMargin: Infinity, sensitivity: 0, crossover: 0, stable: true };
  let before = { re: 0, im: 0, size: 0, phase: 0 };
  for (let i = 0; i <= n; i++) {
    const w = low * (high / low) ** (i / n);
    const { re, im } = openLoop(m, c, w);
    const size = Math.hypot(re, im);
    let phase = Math.atan2(im, re);
    if (i > 0) while (phase > before.phase + Math.PI) phase -= 2 * Math.PI;
    if (i > 0) while (phase < before.phase - Math.PI) phase += 2 * Math.PI;
    // an integrator in front begins at −90 or −180
    else if (phase > 0) phase -= 2 * Math.PI;
    out.sensitivity = Math.max(out.sensitivity, 1 / Math.max(1e-9, Math.hypot(1 + re, im)));
    if (i > 0) {
      if (before.size >= 1 && size < 1) {
        const share = Math.log(before.size) / Math.log(before.size / size);
        const margin = 180 + ((before.phase + share * (phase - before.phase)) * 180) / Math.PI;
        if (margin < out.phaseMargin) {
          out.phaseMargin = margin;
          out.crossover = low * (high / low) ** ((i - 1 + share) / n);
        }
      }
      // a dead time goes round again and again: any odd half turn counts, and the loop need not be smaller at a later one
      const half = Math.floor((before.phase / Math.PI - 1) / 2) * 2 + 1;
      const turn = (half === before.phase / Math.PI ? half - 2 : half) * Math.PI;
      if (phase <= turn && before.phase > turn) {
        const share = (before.phase - turn) / (before.phase - phase);
        out.gainMargin = Math.min(out.gainMargin, 1 / (before.size + share * (size - before.size)));
      }
    }
    before = { re, im, size, phase };
  }
  out.stable = out.phaseMargin > 0 && out.gainMargin > 1;
  return out;
}
