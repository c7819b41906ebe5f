import '../src/all';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import Ajv from 'ajv';
import fc from 'fast-check';
import {
  allBooks,
  bookById,
  checkRoles,
  DriveSettings,
  factoryValue,
  factoryValues,
  fromWord,
  groupOf,
  memoryWord,
  readMemory,
  readTrace,
  refuseValue,
  settingsOf,
  storedValue,
  toWord,
  traceWord,
  type RememberedTrip,
} from '../src';
import { DriveBook } from '@yare/contract';
import { absentFeature, completePlate, InputJob, present, requiredRoles, roleEntry, StopMode } from '@yare/core';
import { demoMachine } from '@yare/demo-plant';

const textOfBook = (id: string): string => readFileSync(join(__dirname, '../data', `${id}.json`), 'utf8');

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

  test('every role is one of the catalogue, once, in a unit and with choices that can say it; none that every family must have is lacking', () => {
    expect(checkRoles(book, textOfBook(book.id))).toEqual({ faults: [], lacking: [] });
  });

  test('gives the model every figure it needs', () => {
    for (const { size } of book.ratings) {
      const parameters = new DriveSettings(book, size, {}, 50).parameters();
      for (const [role, value] of Object.entries(parameters)) expect([role, Number.isFinite(value)]).toEqual([role, true]);
      expect(Object.keys(parameters).sort()).toEqual([...Object.keys(absentFeature), ...requiredRoles].sort());
    }
  });
});

const book = bookById('osier-g');

describe('roles', () => {
  /** The book with something written otherwise. */
  const written = (from: string, to: string) => {
    const text = textOfBook('osier-g').replace(from, to);
    return checkRoles(JSON.parse(text) as DriveBook, text);
  };
  const lineOf = (text: string) => textOfBook('osier-g').slice(0, textOfBook('osier-g').indexOf(text)).split('\n').length;

  test('a misspelt one is told by its line, and what every family must have is missed', () => {
    const at = lineOf('"role": "accelerationTime"');
    const { faults, lacking } = written('"role": "accelerationTime"', '"role": "accelerationTme"');
    expect(faults).toMatchObject([{ line: at, fault: 'no such role', what: 'accelerationTme' }]);
    expect(lacking).toEqual(['accelerationTime']);
  });
  test('one that stands twice, a unit it has not, a choice that is none', () => {
    expect(written('"role": "keypadSpeed"', '"role": "jogSpeed"').faults).toMatchObject([{ fault: 'role twice', what: 'jogSpeed' }]);
    expect(written('"role": "busRampHold"', '"role": "stallTime"').faults.map((f) => f.fault)).toContain('unit');
    expect(written('"role": "stallTime"', '"role": "busRampHold"').faults.map((f) => f.fault)).toContain('no choices');
    expect(written('"role": "busRampHold"', '"role": "localSpeed"').faults.map((f) => f.fault)).toEqual(['role twice']);
    expect(written('"role": "stopMode"', '"role": "chopper"').faults.map((f) => f.what)).toEqual(expect.arrayContaining(['Direct current']));
  });
  test('terminals and presets have theirs by name; the word alone is none', () => {
    for (const role of ['job D1', 'local job D4', 'relay R1', 'analogue out M1', 'preset1', 'preset15'])
      expect([role, roleEntry(role)]).not.toEqual([role, null]);
    for (const role of ['job', 'job ', 'preset', 'preset0', 'presetx', 'toString', 'Job D1']) expect([role, roleEntry(role)]).toEqual([role, null]);
  });
  test('a family without the setting says what the catalogue says, null where nothing stands in, and its own where it has it', () => {
    const withy = new DriveSettings(bookById('withy'), 'W1.1', {}, 50);
    expect(withy.find('wakeFall')).toBeUndefined();
    expect([withy.role('wakeFall'), withy.roleValue('wakeFall'), withy.controls().process.sleep.wakeFall]).toEqual([null, 0.03, 3]);
    expect([withy.roleValue('hoursRun'), withy.roleValue('secondSetpoint'), withy.roleValue('stageUpFrequency')]).toEqual([0, null, Infinity]);
    const speed: number = withy.role('maximumFrequency');
    expect(speed).toBe(50);
  });
});

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
  const overload = present(settingsOf(book, 'G0.75').find((s) => s.role === 'overloadCurrent'));
  expect(storedValue(overload, 0.26)).toBe(0.3);
});

test('contradictions are told in words', () => {
  const settings = new DriveSettings(book, 'G7.5', { '2b': 50 }, 50);
  const minimum = settings.need('minimumFrequency');
  expect(settings.contradiction(minimum, 60)).toBe('Minimum frequency must not exceed maximum frequency, which is 50 Hz.');
  expect(settings.contradiction(minimum, 40)).toBeNull();
});

test('what a drive’s values lack is as from the factory of its own region', () => {
  for (const region of [50, 60] as const) {
    const settings = new DriveSettings(book, 'G7.5', {}, region);
    expect(settings.values).toEqual({});
    expect(settings.role('maximumFrequency')).toBe(region);
    expect(settings.parameters()).toEqual(settings.with(factoryValues(book, 'G7.5', region)).parameters());
  }
});

test('a plate puts its figures in, and what it leaves out is marked as worked out', () => {
  const c21 = demoMachine('C-21');
  const lines = new DriveSettings(book, c21.size, {}, c21.region).plate(c21.plate);
  expect(lines.find((l) => l.code === '1a')).toMatchObject({ value: 2.24, source: 'plate' });
  expect(lines.find((l) => l.code === '1f')).toMatchObject({
    source: 'worked out',
    value: storedValue({ step: 0.01, decimals: 2 }, completePlate(c21.plate).powerFactor),
  });
});

test('a role’s figure comes back from the setting it was put into, in every family', () => {
  for (const [id, size] of [
    ['osier-g', 'G7.5'],
    ['sallow', 'S30'],
    ['withy', 'W1.1'],
  ] as const) {
    const settings = new DriveSettings(bookById(id), size, {}, 50);
    const maximum = settings.need('maximumFrequency');
    expect(settings.valueFor(maximum, 40)).toBeCloseTo(maximum.unit === 'rpm' ? 1200 : 40, 6);
    const [coast] = settings.change('stopMode', StopMode.coast);
    const changed = settings.with({ [present(coast).code]: present(coast).value });
    expect(changed.text(settings.need('stopMode'))).toMatch(/Coast/);
    expect(changed.role('stopMode')).toBe(StopMode.coast);
  }
});

test('an input is found by its job, whatever the family calls it', () => {
  const code = (id: string, size: string) => new DriveSettings(bookById(id), size, {}, 50).input(InputJob.externalTrip)?.code;
  for (const [id, size] of [
    ['osier-g', 'G7.5'],
    ['sallow', 'S30'],
  ] as const) {
    const settings = new DriveSettings(bookById(id), size, {}, 50);
    const input = present(settings.at(code(id, size) ?? ''));
    expect(settings.text(input)).toBe('External trip');
  }
});

describe('a family that states band and repeats', () => {
  const sallow = new DriveSettings(bookById('sallow'), 'S4', { '20/2': 250, '20/3': 0 }, 50);
  // by definition: a band of 250 % is a gain of 0.4; a gain of 4 a band of 25 %, 30 s are two repeats a minute
  test('says them in the units of the model, and takes them back', () => {
    expect(sallow.role('proportionalGain')).toBeCloseTo(0.4, 12);
    expect(sallow.role('integralTime')).toBe(Infinity);
    expect(sallow.change('proportionalGain', 4)).toMatchObject([{ code: '20/2', value: 25 }]);
    expect(sallow.change('integralTime', 30)).toMatchObject([{ code: '20/3', value: 2 }]);
    expect(sallow.change('integralTime', Infinity)).toMatchObject([{ code: '20/3', value: 0 }]);
  });
  test('holds them on its steps and within its ends', () => {
    expect(sallow.heldOf('proportionalGain', 1 / 0.333)).toBeCloseTo(1 / 0.33, 9);
    expect(sallow.heldOf('proportionalGain', 1000)).toBeCloseTo(50, 9);
    expect(sallow.heldOf('integralTime', 7)).toBeCloseTo(60 / 8.6, 9);
    expect(new DriveSettings(bookById('withy'), 'W2.2', {}, 50).heldOf('integralTime', 7)).toBe(7);
  });
});

describe.each(allBooks().map((b) => [b.family, b] as const))('trip memory of %s', (_name, book) => {
  const size = present(book.ratings[2]).size;
  const settings = new DriveSettings(book, size, {}, 50);
  const { memory } = book.words;
  const record = (trip: number): RememberedTrip => ({
    ...{ trip, status: 0x37, hours: 1234, since: 90, outputFrequency: -31.5, reference: 40, motorCurrent: 7.4, busVoltage: 461, outputVoltage: 300 },
    ...{ torque: -45, driveTemperature: 52, motorHeat: 60, driveHeat: 30, analogueInput: -25, inputs: 0xc005 },
  });

  test('lies apart from every other register of the family', () => {
    const own = new Set(Array.from({ length: memory.stride * memory.count }, (_, i) => memory.first + i));
    own.add(memory.trips.register);
    for (let i = 0; memory.trace && i < 2000 * memory.trace.channels.length; i++) own.add(memory.trace.first + i);
    const others = [...settings.all.map((s) => s.register), ...Object.values(book.words.live).map((w) => w.register)];
    expect([...others, ...Object.values(book.words.command).map((w) => w.register)].filter((r) => own.has(r))).toEqual([]);
    for (const w of Object.values(memory.words)) expect(w.register).toBeLessThan(memory.stride);
    expect(new Set(Object.values(memory.words).map((w) => w.register)).size).toBe(Object.keys(memory.words).length);
  });

  test('what the drive puts into its registers is read back as it was, as far as the family keeps it', () => {
    const kept = [record(21), record(3)];
    const data = Array.from({ length: memory.stride * memory.count }, (_, i) => present(memoryWord(settings, kept, 7, memory.first + i)));
    const read = readMemory(settings, data);
    expect(read.map((r) => r.trip)).toEqual([21, 3]);
    for (const [name, word] of Object.entries(memory.words)) {
      const value = present(read[0]?.[name as keyof RememberedTrip]);
      const meant = present(kept[0]?.[name as keyof RememberedTrip]);
      expect([name, Math.abs(value - (name === 'analogueInput' || word.signed ? meant : Math.max(0, meant))) <= settings.countOf(word)]).toEqual([
        name,
        true,
      ]);
    }
    expect(read[0]?.busVoltage).toBeCloseTo(461, -1);
    expect(memoryWord(settings, kept, 7, memory.trips.register)).toBe(7);
    expect(memoryWord(settings, kept, 7, 1)).toBeNull();
    expect(readMemory(settings, [])).toEqual([]);
  });

  test('the last moments are read in the order they were kept, and end at the trip', () => {
    const at = (channel: string, i: number) => (channel === 'busVoltage' ? 500 + i : 10);
    const { trace } = memory;
    if (!trace) return expect(traceWord(settings, 100, at, 20_000)).toBeNull();
    const width = trace.channels.length;
    const data = Array.from({ length: 100 * width }, (_, i) => present(traceWord(settings, 100, at, trace.first + i)));
    const read = present(readTrace(settings, data));
    expect([read.time[0], read.time.at(-1)]).toEqual([-0.099, 0]);
    expect(read.channels.busVoltage?.slice(0, 3)).toEqual([500, 501, 502]);
    expect(traceWord(settings, 100, at, trace.first + 100 * width)).toBeNull();
    expect(traceWord(settings, 100, at, trace.length.register)).toBe(100);
  });
});
