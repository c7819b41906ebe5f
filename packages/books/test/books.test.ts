import Ajv from 'ajv';
import fc from 'fast-check';
import { DriveBook } from '@yare/contract';
import { absentFeature, checkPlate, completePlate, requiredRoles } from '@yare/core';
import {
  allBooks,
  bookById,
  demoPlant,
  driveParameters,
  driveRating,
  estimateMachine,
  factoryValue,
  fromWord,
  groupOf,
  plateSettings,
  refuseDependency,
  refuseValue,
  settingsOf,
  storedValue,
  toWord,
} from '../src';

describe.each(allBooks().map((b) => [b.family, b] as const))('%s', (_name, book) => {
  test('keeps the schema', () => {
    const validate = new Ajv({ allErrors: true }).compile(DriveBook);
    validate(book);
    expect(validate.errors).toBeNull();
  });

  test('codes, registers and names are used once; every group and dependency exists', () => {
    const { settings } = book;
    expect(settings.length).toBeGreaterThanOrEqual(40);
    for (const key of ['code', 'register', 'name'] as const) expect(new Set(settings.map((s) => s[key])).size).toBe(settings.length);
    const words = [...Object.values(book.words.live), ...Object.values(book.words.command)].map((w) => w.register);
    expect(new Set([...words, ...settings.map((s) => s.register)]).size).toBe(words.length + settings.length);
    for (const s of settings) {
      expect(book.groups.map((g) => g.id)).toContain(groupOf(s.code));
      if (s.depends) expect(settings.map((x) => x.code)).toContain(s.depends.code);
    }
    expect(book.ratings.length).toBeGreaterThanOrEqual(6);
  });

  test.each(book.ratings.map((r) => r.size))('size %s: factory values lie in range on the step, every range fits a word', (size) => {
    for (const s of settingsOf(book, size)) {
      for (const region of [50, 60] as const) {
        const value = factoryValue(s, region);
        expect([s.code, refuseValue(s, value)]).toEqual([s.code, null]);
        expect(storedValue(s, value)).toBe(value);
      }
      for (const end of [s.min, s.max]) expect(fromWord(toWord(end, s.step) & 0xffff, s.step, s.signed)).toBeCloseTo(end, 6);
    }
  });

  test('gives the model every figure it needs', () => {
    for (const { size } of book.ratings) {
      const values = Object.fromEntries(settingsOf(book, size).map((s) => [s.code, s.factory50]));
      for (const [role, value] of Object.entries(driveParameters(book, size, values))) expect([role, Number.isFinite(value)]).toEqual([role, true]);
      expect(Object.keys(driveParameters(book, size, values)).sort()).toEqual([...Object.keys(absentFeature), ...requiredRoles].sort());
    }
  });
});

const book = bookById('osier-g');

test('words carry implied decimals: 33.44 Hz is 3344, and minus is two’s complement', () => {
  expect(toWord(33.44, 0.01)).toBe(3344);
  expect(fromWord(3344, 0.01, false)).toBe(33.44);
  expect(fromWord(toWord(-12.5, 0.01), 0.01, true)).toBe(-12.5);
  fc.assert(
    fc.property(fc.integer({ min: -32768, max: 32767 }), fc.constantFrom(0.001, 0.01, 0.1, 1), (n, step) => {
      expect(toWord(fromWord(n & 0xffff, step, true), step) & 0xffff).toBe(n & 0xffff);
    }),
  );
});

test('a coarse drive rounds a small current: 0.26 A becomes 0.3 A', () => {
  const overload = settingsOf(book, 'G0.75').find((s) => s.role === 'overloadCurrent')!;
  expect(storedValue(overload, 0.26)).toBe(0.3);
});

test('contradictions are told in words', () => {
  const settings = settingsOf(book, 'G7.5');
  const minimum = settings.find((s) => s.role === 'minimumFrequency')!;
  expect(refuseDependency(settings, minimum, 60, { '2b': 50 })).toBe('Minimum frequency must not exceed maximum frequency, which is 50 Hz.');
  expect(refuseDependency(settings, minimum, 40, { '2b': 50 })).toBeNull();
});

describe('demo plant', () => {
  test.each(demoPlant.map((m) => [m.tag, m] as const))(
    '%s: the plate is sound, the draft valid, the drive big enough, the machine can be estimated',
    (_tag, m) => {
      expect(checkPlate(m.plate)).toEqual([]);
      const settings = settingsOf(bookById(m.bookId), m.size);
      for (const d of [...m.draft, ...Object.entries(m.asFound).map(([code, value]) => ({ code, value }))]) {
        expect([
          d.code,
          refuseValue(
            settings.find((s) => s.code === d.code)!,
            d.value,
          ),
        ]).toEqual([d.code, null]);
      }
      const rating = driveRating(bookById(m.bookId), m.size);
      expect(rating.current).toBeGreaterThanOrEqual(m.plate.current);
      const values = Object.fromEntries(settings.map((s) => [s.code, factoryValue(s, m.region)]));
      const estimate = estimateMachine(m.plate, m.driven, driveParameters(bookById(m.bookId), m.size, values), rating, m.supply);
      expect(estimate.ok).toBe(true);
    },
  );

  test('units are one each, in order', () => {
    expect(demoPlant.map((m) => m.unit)).toEqual(demoPlant.map((_, i) => i + 1));
  });
});

test('a plate puts its figures in, and what it leaves out is marked as worked out', () => {
  const c21 = demoPlant.find((m) => m.tag === 'C-21')!;
  const lines = plateSettings(book, c21.size, c21.plate);
  expect(lines.find((l) => l.code === '1a')).toMatchObject({ value: 2.24, source: 'plate' });
  expect(lines.find((l) => l.code === '1f')).toMatchObject({
    source: 'worked out',
    value: storedValue({ step: 0.01, decimals: 2 }, completePlate(c21.plate).powerFactor),
  });
});

test('a plate that cannot be estimated gives its sentence', () => {
  const m = demoPlant[0]!;
  const values = Object.fromEntries(settingsOf(book, m.size).map((s) => [s.code, s.factory50]));
  const parameters = driveParameters(book, m.size, values);
  const answer = estimateMachine({ ...m.plate, speed: 3000 }, m.driven, parameters, driveRating(book, m.size), m.supply);
  expect(answer).toMatchObject({ ok: false, sentence: expect.stringContaining('synchronous') });
});
