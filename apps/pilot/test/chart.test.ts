import type { Pane } from '../src/ui/chart/pane';
import { linePath, paneDomain, scaleFor } from '../src/ui/chart/scale';

const pane = (values: number[], more: Partial<Pane> = {}): Pane => ({
  key: 'v',
  name: 'DC bus',
  unit: 'V',
  decimals: 0,
  series: [{ time: values.map((_, i) => i), values }],
  ...more,
});

test('the y-axis fits what is seen, not what is outside the window', () => {
  const [low] = paneDomain(pane([0, 0, 10, 12, 11, 900]), 1.5, 3);
  expect(low).toBeLessThanOrEqual(0);
  expect(paneDomain(pane([0, 0, 10, 12, 11, 900]), 1.5, 3)[1]).toBeLessThan(20);
});

test('a limit is taken in when the data comes near it, and left out when it is far', () => {
  const limits = [{ value: 800, label: 'trips at 800', side: 'above' as const }];
  expect(paneDomain(pane([560, 740], { limits }), 0, 1)[1]).toBeGreaterThan(800);
  expect(paneDomain(pane([560, 570], { limits }), 0, 1)[1]).toBeLessThan(800);
});

test('a flat line still has a span, and an empty pane an axis', () => {
  const [low, high] = paneDomain(pane([566, 566], { leastSpan: 60 }), 0, 1);
  expect(high - low).toBeGreaterThanOrEqual(60);
  expect(low).toBeLessThan(566);
  expect(paneDomain(pane([]), 0, 1)[1]).toBeGreaterThan(paneDomain(pane([]), 0, 1)[0]);
});

test('a path of many samples keeps its peak and stays short', () => {
  const values = Array.from({ length: 50_000 }, (_, i) => (i === 31_234 ? 1000 : 0));
  const x = scaleFor([0, 50_000], [50, 376]);
  const y = scaleFor([0, 1000], [100, 0]);
  const path = linePath({ time: values.map((_, i) => i), values }, x, y);
  expect(path).toMatch(/,0(L|$)/);
  expect(path.length).toBeLessThan(30_000);
});
