import '../src/all';
import { bookById, driveFit, smallestFit } from '../src';
import { present } from '@yare/core';

const osier = bookById('osier-g');
const withy = bookById('withy');

describe('is the drive big enough', () => {
  const usual = { ambient: 35, altitude: 200, phases: 3 } as const;

  test('every derating stands on its own row, with what is left after it', () => {
    const fit = driveFit(osier, 'G7.5', { ambient: 50, altitude: 2000, phases: 3 }, 8, 13.6);
    // 17 A, 10 K above 40 °C at 2.5 %/K, 1000 m above 1000 m at 1 %/100 m, 4 kHz above 4 kHz at 4 %/kHz (common practice)
    expect(fit.rows.map((r) => [r.name, r.share])).toEqual([
      ['ambient', 0.75],
      ['altitude', 0.9],
      ['carrier frequency', 0.84],
      ['single-phase supply', 1],
    ]);
    expect(present(fit.rows[1]).left).toBeCloseTo(17 * 0.75 * 0.9, 9);
    expect(fit.left).toBeCloseTo(17 * 0.75 * 0.9 * 0.84, 9);
    expect(fit.margin).toBeCloseTo(fit.left / 13.6 - 1, 9);
    expect(fit.margin).toBeLessThan(0);
  });

  test('one phase leaves half, but not of a size that is made for it', () => {
    expect(driveFit(osier, 'G7.5', { ...usual, phases: 1 }, 4, 13.6).left).toBe(8.5);
    expect(driveFit(withy, 'W0.4D', { ...usual, phases: 1 }, 4, 1).left).toBe(2.2);
  });

  test('what nobody has taken down derates nothing and says so', () => {
    const fit = driveFit(osier, 'G7.5', { ambient: null, altitude: null, phases: 3 }, 4, 13.6);
    expect(fit.left).toBe(17);
    expect(present(fit.rows[0]).given).toContain('not given');
  });

  test('the smallest size that carries it there, on this supply; none when none does', () => {
    expect(present(smallestFit(osier, usual, 4, 13.6, 400)).rating.size).toBe('G7.5');
    expect(present(smallestFit(osier, { ...usual, phases: 1 }, 4, 13.6, 400)).rating.size).toBe('G18');
    expect(smallestFit(osier, usual, 4, 500, 400)).toBeNull();
    expect(present(smallestFit(withy, usual, 4, 1, 120)).rating.size).toBe('W0.4D');
  });
});
