import { heldBy } from '../again';
import { pct, quantile } from '../figures';
import type { Held, JudgedLoop } from './judge';

interface OfLoops {
  /** machines tuned */
  count: number;
  /** % that neither swing nor come nearer to it than Ms 2, anywhere in the working range */
  stableMs2Pct: number;
  medianIaeRatio: number;
  p95IaeRatio: number;
}

export interface LoopResult {
  straightened: OfLoops;
  raw: OfLoops;
  refused: number;
}

const mostSensitive = 2;

function of(all: readonly (Held | null)[]): OfLoops {
  const held = all.filter((h) => h !== null);
  const ratios = held.map((h) => h.iaeRatio).sort((a, b) => a - b);
  const round = (x: number) => Math.round(x * 1000) / 1000;
  return {
    count: held.length,
    // one that could not be tuned is not held
    stableMs2Pct: pct(held.filter((h) => h.stable && h.sensitivity <= mostSensitive).length / all.length),
    medianIaeRatio: round(quantile(ratios, 0.5)),
    p95IaeRatio: round(quantile(ratios, 0.95)),
  };
}

export const loopsOf = (all: readonly JudgedLoop[]): LoopResult => ({
  straightened: of(all.map((j) => j.straightened)),
  raw: of(all.map((j) => j.raw)),
  refused: all.filter((j) => j.refused !== null).length,
});

const line = (cells: readonly (string | number)[]) => `| ${cells.join(' | ')} |`;

/** docs/accuracy-loops.md. */
export function loopsPage(all: readonly JudgedLoop[], seed: number): string {
  const row = (name: string, some: readonly JudgedLoop[]) => {
    const r = loopsOf(some);
    return [r.straightened, r.raw]
      .map((x, i) => line([name, i === 0 ? 'with the table' : 'without', x.count, x.stableMs2Pct, x.medianIaeRatio, x.p95IaeRatio]))
      .join('\n');
  };
  const kinds = [...new Set(all.map((j) => j.kind))];
  return `# How well a loop is held that was tuned with the tool

Made by \`npm run accuracy -- --part loops\`; never edited by hand. Seed ${seed}, ${all.length} processes, every one of them **simulated**; ${loopsOf(all).refused} step tests were refused.
${heldBy('loops', (n) => all[n])}.

Each process is richer than what is fitted to it, in code of its own (apps/bench/accuracy/loops): a curve that is bent, two lags that change with speed, dead time,
a check valve, a sensor with lag, noise, steps and drift. It is tuned from what a link shows: one step of the output (of a level there and back), sampled ten times a second and a little late,
and, "with the table", the steady points of a guided run, which tell how much steeper the process is elsewhere. Then it is held against itself: the largest
sensitivity Ms over the working range, worked out from its true constants, and ∫|e| of a demand that grows by a quarter and goes back, over the least that a
search on the true process finds with Ms ≤ 2. Wanted: stable with Ms ≤ 2 in 99 %, a median within 1.25.

${line(['', 'steady points', 'tuned', 'stable with Ms ≤ 2, %', '∫\\|e\\| over the best, median', '95th percentile'])}
|---|---|---|---|---|---|
${row('all', all)}
${kinds
  .map((k) =>
    row(
      k,
      all.filter((j) => j.kind === k),
    ),
  )
  .join('\n')}
`;
}
