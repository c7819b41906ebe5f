import { levenbergMarquardt } from 'ml-levenberg-marquardt';
import { inverse, Matrix } from 'ml-matrix';
import { nth } from '../present';

/**
 * Steps of the fit at most, how strongly the first is damped, by how much that changes and up to where, how far a value may go in one step, and the
 * share of the sum below which nothing is gained any more.
 */
const fitting = { steps: 30, damping: 10, change: 8, least: 1e-3, most: 1e7, reach: 0.6, enough: 1e-3 };

/**
 * Levenberg–Marquardt, a step at a time, so that one that makes things worse is taken back and damped more (Nocedal, Wright, *Numerical
 * Optimization*, ch. 10). Null when no step can be taken.
 * @param residuals in standard deviations
 * @param from values to begin with; the nearest is taken
 */
export function fitted(residuals: (p: ArrayLike<number>) => Float64Array, from: number[][]): number[] | null {
  const sumOf = (p: ArrayLike<number>) => residuals(p).reduce((sum, r) => sum + r * r, 0);
  const sums = from.map(sumOf);
  let sum = Math.min(...sums);
  let p = nth(from, sums.indexOf(sum));
  let { damping } = fitting;
  const total = residuals(p).length;
  const data = { x: Array.from({ length: total }, (_, i) => i), y: new Array<number>(total).fill(0) };
  for (let i = 0; i < fitting.steps && damping < fitting.most; i++) {
    let next: number[];
    try {
      next = levenbergMarquardt(
        data,
        (q: number[]) => {
          const r = residuals(q);
          return (k: number) => nth(r, k);
        },
        {
          // it works on what it is given
          initialValues: [...p],
          minValues: p.map((x) => x - fitting.reach),
          maxValues: p.map((x) => x + fitting.reach),
          damping,
          gradientDifference: 0.004,
          maxIterations: 1,
          errorTolerance: 1e-9,
        },
      ).parameterValues;
    } catch {
      return null;
    }
    const after = sumOf(next);
    if (!(after < sum)) {
      damping *= fitting.change;
      continue;
    }
    damping = Math.max(fitting.least, damping / fitting.change);
    p = next;
    const gained = sum - after;
    sum = after;
    if (gained < fitting.enough * sum) break;
  }
  return p;
}

/**
 * One standard deviation of each parameter: √diag((JᵀJ)⁻¹), the residuals being in standard deviations already. Where runs are fitted together,
 * what each of them would move a value by counts too, so that runs that contradict one another tell a value badly (variance clustered by runs:
 * K.-Y. Liang, S. L. Zeger, Biometrika 73, 1986).
 * @param ends where the residuals of each run end; what comes after the last is common to all
 */
export function spreadOf(residuals: (p: ArrayLike<number>) => Float64Array, p: number[], ends: readonly number[]): number[] {
  const d = 0.004;
  const base = residuals(p);
  const columns = p.map((_, k) => {
    const moved = residuals(p.map((v, i) => (i === k ? v + d : v)));
    return moved.map((v, i) => (v - nth(base, i)) / d);
  });
  const product = (a: Float64Array, b: Float64Array, from = 0, to = b.length) => {
    let sum = 0;
    for (let i = from; i < to; i++) sum += nth(a, i) * nth(b, i);
    return sum;
  };
  const covariance = inverse(new Matrix(columns.map((a) => columns.map((b) => product(a, b)))));
  const pulls = ends.map((end, run) => covariance.mmul(Matrix.columnVector(columns.map((c) => product(c, base, ends[run - 1] ?? 0, end)))));
  return p.map((_, k) => {
    const apart = ends.length > 1 ? pulls.reduce((sum, pull) => sum + pull.get(k, 0) ** 2, 0) : 0;
    return Math.sqrt(Math.max(0, covariance.get(k, k)) + apart);
  });
}
