import { allBooks, bookById, DriveSettings, factoryValues, settingsOf } from '@yare/books';
import { HealthyContact, LiveZeroAction, present, StopKey, SwitchOver } from '@yare/core';
import { settingsByTask } from '../src';
import { templateChanges, templateKinds } from '../src/templates';
import { demoMachine, demoPlant } from '@yare/demo-plant';

const factory = (id: string, size: string, change: Record<string, number> = {}): DriveSettings =>
  new DriveSettings(bookById(id), size, { ...factoryValues(bookById(id), size, 50), ...change }, 50);

describe('templates', () => {
  test.each(demoPlant.map((m) => [m.tag, m] as const))('every kind fits every demo machine: %s', (_tag, m) => {
    const book = bookById(m.bookId);
    const draft = new DriveSettings(book, m.size, factoryValues(book, m.size, m.region), m.region);
    for (const kind of templateKinds) {
      const changes = templateChanges(draft, kind, m.plate);
      expect(new Set(changes.map((c) => c.code)).size).toBe(changes.length);
      for (const c of changes) {
        const s = present(draft.at(c.code));
        expect(c.value).toBeGreaterThanOrEqual(s.min);
        expect(c.value).toBeLessThanOrEqual(s.max);
        expect(c.why.length).toBeGreaterThan(5);
      }
      const done = draft.with({ ...draft.values, ...Object.fromEntries(changes.map((c) => [c.code, c.value])) });
      expect(templateChanges(done, kind, m.plate)).toEqual([]);
    }
  });

  test('a fan may not turn backwards, catches its wheel, and has the plate’s current as overload', () => {
    const m = demoMachine('F-32');
    const changes = templateChanges(factory('sallow', m.size), 'fan', m.plate);
    const value = (code: string) => changes.find((c) => c.code === code)?.value;
    expect(value('17/1')).toBe(54.4);
    expect(value('17/12')).toBeUndefined();
    expect(value('13/1')).toBe(60);
    expect(changes.find((c) => c.code === '11/4')).toMatchObject({ value: 54.4, source: 'plate' });
  });

  test('who may stop it and what a broken wire does: the same in every family that knows it', () => {
    const m = demoMachine('P-11');
    for (const book of allBooks()) {
      const draft = factory(book.id, present(book.ratings[0]).size);
      const changes = templateChanges(draft, 'general', m.plate);
      const done = draft.with({ ...draft.values, ...Object.fromEntries(changes.map((c) => [c.code, c.value])) });
      const told = {
        stopKey: StopKey.always,
        switchOver: SwitchOver.stops,
        externalTripSense: HealthyContact.closed,
        liveZeroLoss: LiveZeroAction.trip,
      };
      for (const [role, value] of Object.entries(told)) {
        const s = done.find(role as keyof typeof told);
        if (s && done.valueFor(s, value) !== null) expect([book.id, role, done.inRole(s)]).toEqual([book.id, role, value]);
      }
    }
  });

  test('a plate no motor could have gives no motor figures', () => {
    const changes = templateChanges(factory('osier-g', 'G2.2'), 'pump', { ...demoMachine('P-11').plate, speed: 9000 });
    expect(changes.some((c) => c.why === 'from the plate')).toBe(false);
  });
});

describe('by task', () => {
  test.each(allBooks().map((b) => [b.family, b] as const))('%s: every setting stands once', (_family, book) => {
    const size = present(book.ratings[0]).size;
    const codes = settingsByTask(book, size).flatMap((g) => g.settings.map((s) => s.code));
    expect([...codes].sort()).toEqual(
      settingsOf(book, size)
        .map((s) => s.code)
        .sort(),
    );
  });

  test('the same task finds each family’s own codes', () => {
    const stop = (id: string, size: string) => present(settingsByTask(bookById(id), size).find((g) => g.id === 'stop')).settings.map((s) => s.code);
    expect(stop('osier-g', 'G2.2')).toContain('3b');
    expect(stop('sallow', 'S4')).toContain('13/2');
    expect(stop('withy', 'W0.2')).toContain('w11');
  });
});
