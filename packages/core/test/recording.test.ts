import fc from 'fast-check';
import { present } from '../src/present';
import { decimate, extentIn, indexAt, random, valueAt } from '../src';

const time = Float64Array.from({ length: 10_000 }, (_, i) => i * 0.05);
const wave = Float64Array.from(time, (t) => Math.sin(t));

test('a single spike among ten thousand samples survives decimation to any width', () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 9999 }), fc.integer({ min: 20, max: 800 }), (at, pixels) => {
      const spiked = Float64Array.from(wave);
      spiked[at] = 50;
      const d = decimate(time, spiked, 0, present(time[9999]), pixels);
      expect(Math.max(...d.value)).toBe(50);
      expect(d.time.length).toBeLessThanOrEqual(4 * (pixels + 2));
      expect([...d.time].sort((a, b) => a - b)).toEqual(d.time);
    }),
    { numRuns: 60 },
  );
});

test('few samples pass as they are, with one either side of the window', () => {
  const d = decimate([0, 1, 2, 3, 4], [5, 6, 7, 8, 9], 1.5, 2.5, 300);
  expect(d).toEqual({ time: [1, 2, 3], value: [6, 7, 8] });
});

test('values between samples are linear; outside there are none', () => {
  expect(valueAt([0, 2], [10, 20], 1)).toBe(15);
  expect(valueAt([0, 2], [10, 20], 2)).toBe(20);
  expect(valueAt([0, 2], [10, 20], 2.1)).toBeNull();
  expect(valueAt([], [], 0)).toBeNull();
  expect(indexAt([0, 1, 2], 1)).toBe(1);
  expect(extentIn([0, 1, 2, 3], [5, -1, 7, 100], 0.5, 1.5)).toEqual([-1, 7]);
  expect(extentIn([], [], 0, 1)).toBeNull();
});

test('the same seed draws the same numbers, normal with mean 0 and deviation 1', () => {
  const a = random(7);
  const b = random(7);
  const draws = Array.from({ length: 20_000 }, () => a.normal());
  expect(draws.slice(0, 50)).toEqual(Array.from({ length: 50 }, () => b.normal()));
  const mean = draws.reduce((s, x) => s + x, 0) / draws.length;
  const deviation = Math.sqrt(draws.reduce((s, x) => s + (x - mean) ** 2, 0) / draws.length);
  expect(Math.abs(mean)).toBeLessThan(0.03);
  expect(Math.abs(deviation - 1)).toBeLessThan(0.03);
});
