import {
  atHand,
  bookById,
  compareSettings,
  demoPlant,
  driveFit,
  factoryValue,
  groundOf,
  judgeInsulation,
  judgeVoltages,
  powerChecks,
  settingsByTask,
  settingsOf,
  settingValue,
  settingFor,
  smallestFit,
  surveyGround,
  templateChanges,
  templateKinds,
  transfer,
  allBooks,
  type DriveSettings,
} from '../src';

const osier = bookById('osier-g');
const sallow = bookById('sallow');
const withy = bookById('withy');
const factory = (id: string, size: string, change: Record<string, number> = {}): DriveSettings => {
  const book = bookById(id);
  return { book, size, values: { ...Object.fromEntries(settingsOf(book, size).map((s) => [s.code, factoryValue(s, 50)])), ...change } };
};
const plateOf = (tag: string) => demoPlant.find((d) => d.tag === tag)!.plate;

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
    expect(fit.rows[1]!.left).toBeCloseTo(17 * 0.75 * 0.9, 9);
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
    expect(fit.rows[0]!.given).toContain('not given');
  });

  test('the smallest size that carries it there, on this supply; none when none does', () => {
    expect(smallestFit(osier, usual, 4, 13.6, 400)!.rating.size).toBe('G7.5');
    expect(smallestFit(osier, { ...usual, phases: 1 }, 4, 13.6, 400)!.rating.size).toBe('G18');
    expect(smallestFit(osier, usual, 4, 500, 400)).toBeNull();
    expect(smallestFit(withy, usual, 4, 1, 120)!.rating.size).toBe('W0.4D');
  });
});

describe('before power', () => {
  test('the order is safe: dead first, earths before phases, motor before supply, voltages last', () => {
    const order = powerChecks.map((c) => c.id);
    const before = (a: string, b: string) => expect(order.indexOf(a)).toBeLessThan(order.indexOf(b));
    expect(order[0]).toBe('isolated');
    before('motorEarth', 'motorPhases');
    before('insulation', 'motorPhases');
    before('motorPhases', 'supplyPhases');
    before('supplyEarth', 'supplyPhases');
    before('supplyPhases', 'controlRows');
    expect(order.at(-1)).toBe('lineVoltages');
  });

  // IEEE 43 (from memory): halved for each 10 K above 40 °C, at least 5 MΩ for low-voltage random-wound machines
  test.each([
    [20, 20, true, '5.0 MΩ at 40 °C'],
    [19, 20, false, '4.8 MΩ at 40 °C'],
    [5, 40, true, '5.0 MΩ at 40 °C'],
    [3, 50, true, '6.0 MΩ at 40 °C'],
    [1.2, 60, false, '4.8 MΩ at 40 °C'],
  ])('%d MΩ at %d °C passes: %s', (reading, temperature, passed, measured) => {
    const j = judgeInsulation({ reading, temperature })!;
    expect(j.passed).toBe(passed);
    expect(j.measured).toContain(measured);
  });

  // NEMA MG 1 (from memory): worked example of 460, 467, 450 V: mean 459, largest deviation 9, unbalance 1.96 %
  test('unbalance of the NEMA example, and its derating', () => {
    const j = judgeVoltages([460, 467, 450], 460)!;
    expect(j.unbalance!).toBeCloseTo(1.96, 2);
    expect(j.derating).toBeCloseTo(0.952, 3);
    expect(j.passed).toBe(true);
  });

  test.each([
    [[400, 360, 400], false, 'above 5 % no motor may run'],
    [[400, 385, 402], false, '2.7 % unbalance'],
    [[330, 331, 329], false, 'below the 400 V surveyed'],
    [[480, 481, 479], false, 'above the 400 V surveyed'],
    [[401, 398, 402], true, 'nothing to derate'],
  ] as const)('%p V passes: %s', (lines, passed, words) => {
    const j = judgeVoltages(lines, 400)!;
    expect(j.passed).toBe(passed);
    expect(j.sentence).toContain(words);
  });

  test('readings that were not all taken are not judged', () => {
    expect(judgeVoltages(null, 400)).toBeNull();
    expect(judgeVoltages([400, null, 401], 400)).toBeNull();
    expect(judgeInsulation(null)).toBeNull();
    expect(judgeInsulation({ reading: null, temperature: 20 })).toBeNull();
  });

  test('nothing read is not the same as nothing there', () => {
    expect(judgeInsulation({ reading: 0, temperature: 20 })).toMatchObject({ passed: false, measured: '0.0 MΩ at 20 °C, 0.0 MΩ at 40 °C' });
    expect(judgeVoltages([400, 0, 401], 400)).toMatchObject({ passed: false, derating: null, sentence: expect.stringContaining('a blown fuse') });
    expect(judgeVoltages([0, 0, 0], 400)).toMatchObject({ passed: false, sentence: expect.stringContaining('every fuse is out') });
  });

  const survey = {
    why: '',
    voltage: 400,
    frequency: 50,
    phases: 3 as const,
    ambient: 30,
    altitude: 0,
    cableLength: 80,
    screened: false,
    lineVoltages: null,
    insulation: null,
  };
  test('what must lie at hand follows the machine, the cable and the supply', () => {
    const what = (s: typeof survey, kind: string, brake = false) => atHand(s, kind, brake).map((x) => x.what);
    expect(what(survey, 'pump')).toEqual(expect.arrayContaining(['Water in the pump', 'Output choke or filter', 'Screened motor cable']));
    expect(what({ ...survey, cableLength: 20, screened: true as never }, 'fan')).toEqual(
      expect.not.arrayContaining(['Output choke or filter', 'Screened motor cable']),
    );
    expect(what(survey, 'conveyor', true)).toContain('A way to hold the load');
  });

  test('a reading taken later does not change the ground a proof stands on; supply and place do', () => {
    const read = { ...survey, lineVoltages: [1, 2, 3] };
    expect(surveyGround(read)).toBe(surveyGround(survey));
    expect(surveyGround({ ...survey, ambient: 31 })).not.toBe(surveyGround(survey));
    expect(surveyGround(groundOf({ voltage: 400, frequency: 50 }))).toBe('400 V 50 Hz 3 ph, ? °C, ? m, cable ? m');
    expect(surveyGround({ ...survey, voltage: 415 })).not.toBe(surveyGround(survey));
  });
});

describe('from another machine', () => {
  test('of the same family by code; what belongs to the other motor, resistor, wiring or address stays', () => {
    const { taken, left } = transfer(
      factory('osier-g', 'G7.5', { '3a': 7, '1d': 12, '7a': 12, '9h': 5, '2h': 1, '8c': 99, '1j': 0.8 }),
      factory('osier-g', 'G2.2'),
    );
    expect(taken).toEqual([{ code: '3a', name: 'Acceleration time', value: 7, from: '3a 7.0 s' }]);
    expect(Object.fromEntries(left.map((l) => [l.code, l.reason]))).toMatchObject({
      '1d': expect.stringContaining('plate'),
      '7a': expect.stringContaining('full-load current'),
      '9h': expect.stringContaining('only once on a link'),
      '2h': expect.stringContaining('wired'),
      '8c': expect.stringContaining('resistor'),
      '1j': expect.stringContaining('measured on the other motor'),
    });
  });

  test('of another family by what a setting does, in its own unit and numbering', () => {
    const { taken, left } = transfer(factory('sallow', 'S4', { '13/1': 12.5, '13/8': 1, '12/2': 45, '13/6': 35 }), factory('withy', 'W2.2'));
    const value = (code: string) => taken.find((t) => t.code === code)?.value;
    expect(value('w10')).toBe(13);
    // 45 Hz on four poles is 1350 rpm
    expect(value('w08')).toBe(1350);
    expect(taken.find((t) => t.code === 'w10')!.from).toBe('13/1 12.5 s');
    expect(left.find((l) => l.code === 'w35')!.reason).toContain('nothing that does the same');
  });

  test('a choice the family has not, and a figure outside its range, stay with their reason', () => {
    const { left } = transfer(factory('osier-g', 'G2.2', { '4a': 2, '3b': 3000 }), factory('withy', 'W2.2'));
    expect(left.find((l) => l.code === 'w19')!.reason).toBe('Withy has no such choice');
    expect(left.find((l) => l.code === 'w11')!.reason).toContain('takes 1 to 600 s');
  });

  test('taking what is offered twice offers nothing the second time', () => {
    const from = factory('osier-g', 'G7.5', { '3a': 7, '3b': 9, '4a': 1 });
    const to = factory('osier-g', 'G2.2');
    const { taken } = transfer(from, to);
    const values = { ...to.values, ...Object.fromEntries(taken.map((t) => [t.code, t.value])) };
    expect(transfer(from, { ...to, values }).taken).toEqual([]);
  });
});

describe('compared', () => {
  test('a sheet agrees with itself in everything, and differs in what was changed', () => {
    const a = factory('sallow', 'S30');
    expect(compareSettings(a, a)).toMatchObject({ differing: [], onlyInOne: 0 });
    const { differing } = compareSettings(a, factory('sallow', 'S30', { '13/1': 44.5, '13/8': 0 }));
    expect(differing.map((d) => [d.code, d.a, d.b])).toEqual([
      ['13/1', '30.0', '44.5'],
      ['13/8', 'Ramp', 'Coasting'],
    ]);
  });

  test('across families in the codes and units of the first; each side turned round tells as much', () => {
    const ab = compareSettings(factory('osier-g', 'G2.2', { '3a': 6 }), factory('withy', 'W2.2', { w10: 6, w11: 9 }));
    expect(ab.differing.find((d) => d.code === '3a')).toBeUndefined();
    expect(ab.differing.find((d) => d.code === '3b')).toMatchObject({ a: '10.0', b: '9.0', unit: 's' });
    expect(ab.onlyInOne).toBeGreaterThan(20);
    const ba = compareSettings(factory('withy', 'W2.2', { w10: 6, w11: 9 }), factory('osier-g', 'G2.2', { '3a': 6 }));
    expect(ba.differing.find((d) => d.code === 'w11')).toMatchObject({ a: '9', b: '10' });
  });
});

describe('templates', () => {
  test.each(demoPlant.map((m) => [m.tag, m] as const))('every kind fits every demo machine: %s', (_tag, m) => {
    const book = bookById(m.bookId);
    const settings = settingsOf(book, m.size);
    const draft = Object.fromEntries(settings.map((s) => [s.code, factoryValue(s, m.region)]));
    for (const kind of templateKinds) {
      const changes = templateChanges(book, m.size, kind, m.plate, draft);
      expect(new Set(changes.map((c) => c.code)).size).toBe(changes.length);
      for (const c of changes) {
        const s = settings.find((x) => x.code === c.code)!;
        expect(c.value).toBeGreaterThanOrEqual(s.min);
        expect(c.value).toBeLessThanOrEqual(s.max);
        expect(c.why.length).toBeGreaterThan(5);
      }
      const done = { ...draft, ...Object.fromEntries(changes.map((c) => [c.code, c.value])) };
      expect(templateChanges(book, m.size, kind, m.plate, done)).toEqual([]);
    }
  });

  test('a fan may not turn backwards, catches its wheel, and has the plate’s current as overload', () => {
    const m = demoPlant.find((d) => d.tag === 'F-32')!;
    const changes = templateChanges(sallow, m.size, 'fan', m.plate, factory('sallow', m.size).values);
    const value = (code: string) => changes.find((c) => c.code === code)?.value;
    expect(value('17/1')).toBe(54.4);
    expect(value('17/12')).toBeUndefined();
    expect(value('13/1')).toBe(60);
    expect(changes.find((c) => c.code === '11/4')).toMatchObject({ value: 54.4, source: 'plate' });
  });

  test('a plate no motor could have gives no motor figures', () => {
    const changes = templateChanges(osier, 'G2.2', 'pump', { ...plateOf('P-11'), speed: 9000 }, factory('osier-g', 'G2.2').values);
    expect(changes.some((c) => c.why === 'from the plate')).toBe(false);
  });
});

describe('by task', () => {
  test.each(allBooks().map((b) => [b.family, b] as const))('%s: every setting stands once', (_family, book) => {
    const size = book.ratings[0]!.size;
    const codes = settingsByTask(book, size).flatMap((g) => g.settings.map((s) => s.code));
    expect([...codes].sort()).toEqual(
      settingsOf(book, size)
        .map((s) => s.code)
        .sort(),
    );
  });

  test('the same task finds each family’s own codes', () => {
    const stop = (id: string, size: string) =>
      settingsByTask(bookById(id), size)
        .find((g) => g.id === 'stop')!
        .settings.map((s) => s.code);
    expect(stop('osier-g', 'G2.2')).toContain('3b');
    expect(stop('sallow', 'S4')).toContain('13/2');
    expect(stop('withy', 'W0.2')).toContain('w11');
  });
});

test('a role’s figure comes back from the setting it was put into, in every family', () => {
  for (const [book, size] of [
    [osier, 'G7.5'],
    [sallow, 'S30'],
    [withy, 'W1.1'],
  ] as const) {
    const values = Object.fromEntries(settingsOf(book, size).map((s) => [s.code, s.factory50]));
    const s = settingFor(book, size, 'maximumFrequency');
    expect(settingValue(book, size, s, 40, values)).toBeCloseTo(s.unit === 'rpm' ? 1200 : 40, 6);
    const stop = settingFor(book, size, 'stopMode');
    const coast = settingValue(book, size, stop, 1, values);
    expect(stop.options!.find((o) => o.value === coast)!.label).toMatch(/Coast/);
  }
});
