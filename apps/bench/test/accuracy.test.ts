import { demoPlant } from '@yare/demo-plant';
import { present } from '@yare/core';
import { compareOne, figures, type Compared } from '../accuracy/lookahead';

const one = (tag: string, seed: number) => compareOne(present(demoPlant.find((m) => m.tag === tag)), seed);

test('the same seed is the same comparison', () => {
  expect(one('M-55', 42)).toEqual(one('M-55', 42));
});

test('learning brings a machine nearer: on its own figures', () => {
  const all = [1].map((seed) => one('P-11', 4000 + seed));
  const before = figures(all.map((c) => c.before));
  const after = figures(all.flatMap((c) => (c.after ? [c.after] : [])));
  expect(all.every((c) => c.after !== null)).toBe(true);
  expect(after.medianErrorPct).toBeLessThan(before.medianErrorPct);
  expect(after.medianErrorPct).toBeLessThan(2);
}, 60_000);

test('median, 95th percentile and right decisions are what they are called', () => {
  const side: Compared[] = Array.from({ length: 100 }, (_, i) => ({ errors: { 'peak bus': i / 1000 }, tripRight: i >= 3 }));
  expect(figures(side)).toEqual({ medianErrorPct: 5, p95ErrorPct: 9.5, tripDecisionRightPct: 97 });
});
