import fc from 'fast-check';
import { convert, formatFigure, parseFigure, toSi, unbroken, units, type UnitSymbol } from '../src';

// NIST SP 811 (2008), appendix B
test('published factors', () => {
  expect(toSi(1, 'hp')).toBeCloseTo(745.6999, 4);
  expect(toSi(1, 'psi')).toBeCloseTo(6894.757, 3);
  expect(toSi(1, 'gpm')).toBeCloseTo(6.30902e-5, 10);
  expect(toSi(1, 'lb·ft')).toBeCloseTo(1.355818, 6);
  expect(convert(212, '°F', '°C')).toBeCloseTo(100, 9);
  expect(convert(1500, 'rpm', 'rad/s')).toBeCloseTo(157.0796, 4);
});

test('there and back is the same figure', () => {
  const symbols = Object.keys(units) as UnitSymbol[];
  fc.assert(
    fc.property(fc.constantFrom(...symbols), fc.constantFrom(...symbols), fc.double({ min: -1e4, max: 1e4, noNaN: true }), (a, b, x) => {
      if (units[a].quantity !== units[b].quantity) expect(() => convert(x, a, b)).toThrow('do not measure');
      else expect(convert(convert(x, a, b), b, a)).toBeCloseTo(x, 6);
    }),
  );
});

test('figures as people read and type them', () => {
  expect(formatFigure(-0.04, 1)).toBe('0.0');
  expect(formatFigure(-3.25, 1)).toBe('−3.3');
  expect(formatFigure(12345.6, 1)).toBe('12\u2009345.6');
  expect(formatFigure(NaN, 1)).toBe('–');
  expect(parseFigure('13,6')).toBe(13.6);
  expect(parseFigure('−2.5')).toBe(-2.5);
  for (const bad of ['', '.', '1.2.3', '13.6A', '1e5', '--2']) expect(parseFigure(bad)).toBeNull();
});

test('a figure keeps its unit on its line, and nothing else is held together', () => {
  expect(unbroken('It carries 54.3 A at 45 °C for 60 s.')).toBe('It carries 54.3\u00a0A at 45\u00a0°C for 60\u00a0s.');
  expect(unbroken('5.0 Ω, 18 kg·m², 12\u2009000 rpm, 2.5 %.')).toBe('5.0\u00a0Ω, 18\u00a0kg·m², 12\u2009000\u00a0rpm, 2.5\u00a0%.');
  expect(unbroken('7 settings and 3 motors at 10 bar of 2 Vanes')).toBe('7 settings and 3 motors at 10\u00a0bar of 2 Vanes');
});
