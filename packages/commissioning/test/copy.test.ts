import '@yare/books/all';
import { bookById, DriveSettings, factoryValues } from '@yare/books';
import { OutputJob, present } from '@yare/core';
import { compareSettings, transfer, type Kinds } from '../src/copy';

const factory = (id: string, size: string, change: Record<string, number> = {}): DriveSettings =>
  new DriveSettings(bookById(id), size, { ...factoryValues(bookById(id), size, 50), ...change }, 50);

describe('from another machine', () => {
  test('of the same family by code; what belongs to the other motor, resistor, wiring or address stays', () => {
    const { taken, left } = transfer(
      factory('osier-g', 'G7.5', { '3a': 17, '3b': 7, '1d': 12, '7a': 12, '9h': 5, '2h': 1, '8c': 99, '1j': 0.8 }),
      factory('osier-g', 'G2.2'),
    );
    expect(taken).toEqual([{ code: '3a', name: 'Acceleration time', value: 17, from: '3a 17.0 s' }]);
    expect(Object.fromEntries(left.map((l) => [l.code, l.reason]))).toMatchObject({
      '1d': expect.stringContaining('plate'),
      '3b': expect.stringContaining('shorter than here'),
      '7a': expect.stringContaining('full-load current'),
      '9h': expect.stringContaining('only once on a link'),
      '2h': expect.stringContaining('wired'),
      '8c': expect.stringContaining('resistor'),
      '1j': expect.stringContaining('measured on the other motor'),
    });
  });

  test('a conveyor copied onto a pump leaves what belongs to a conveyor: turning backwards, guards, brake, loop', () => {
    const from = factory('osier-g', 'G2.2', { '3a': 17, '2c': 1 - present(factory('osier-g', 'G7.5').values['2c']) });
    const to = factory('osier-g', 'G7.5');
    const { taken, left } = transfer(from, to, undefined, { from: 'conveyor', to: 'pump' });
    expect(taken.map((t) => t.code)).toEqual(['3a']);
    for (const role of ['reversePermit', 'noFlowDelay', 'speedSource', 'setpoint', 'sleepFrequency'] as const)
      expect([role, left.find((l) => l.code === to.find(role)?.code)?.reason]).toEqual([role, 'is set for a conveyor, and this is a pump']);
    expect(transfer(from, to, undefined, { from: 'pump', to: 'pump' }).taken.map((t) => t.code)).toContain('2c');
  });

  test('a sister machine takes its ramps, shorter or not', () => {
    const { taken } = transfer(factory('osier-g', 'G2.2', { '3b': 7 }), factory('osier-g', 'G2.2'), undefined, { from: 'pump', to: 'pump' });
    expect(taken.map((t) => t.code)).toEqual(['3b']);
  });

  test('a drive in the place of another turns the same machine: its ramps come along, shorter than from the factory or not', () => {
    const before = factory('sallow', 'S4', { '13/1': 4 });
    const after = factory('osier-g', 'G4');
    const ramp = (kinds?: Kinds) => transfer(before, after, undefined, kinds).taken.find((t) => t.code === '3a')?.value;
    expect([ramp('one machine'), ramp()]).toEqual([4, undefined]);
  });

  test('a brake belongs to the machine it is fitted to, and so does the relay that works it', () => {
    const relay = present(factory('osier-g', 'G2.2').outputs[0]);
    const brake = factory('osier-g', 'G2.2').valueFor(relay, OutputJob.holdingBrake);
    if (brake === null) throw new Error('the family works a brake');
    const from = factory('osier-g', 'G2.2', { [relay.code]: brake });
    const kinds = { from: 'conveyor', to: 'conveyor' } as const;
    const { taken, left } = transfer(from, factory('osier-g', 'G2.2'), undefined, kinds);
    expect(taken.map((t) => t.code)).not.toContain(relay.code);
    expect(left.find((l) => l.code === relay.code)?.reason).toContain('brake');
  });

  test('of another family by what a setting does, in its own unit and numbering', () => {
    const { taken, left } = transfer(factory('sallow', 'S4', { '13/1': 12.5, '13/8': 1, '12/2': 45, '13/6': 35 }), factory('withy', 'W2.2'));
    const value = (code: string) => taken.find((t) => t.code === code)?.value;
    expect(value('w10')).toBe(13);
    // 45 Hz on four poles is 1350 rpm
    expect(value('w08')).toBe(1350);
    expect(present(taken.find((t) => t.code === 'w10')).from).toBe('13/1 12.5 s');
    expect(present(left.find((l) => l.code === 'w35')).reason).toContain('nothing that does the same');
  });

  test('a choice the family has not, and a figure outside its range, stay with their reason', () => {
    const { left } = transfer(factory('osier-g', 'G2.2', { '4a': 2, '3b': 3000 }), factory('withy', 'W2.2'));
    expect(present(left.find((l) => l.code === 'w19')).reason).toBe('Withy has no such choice');
    expect(present(left.find((l) => l.code === 'w11')).reason).toContain('takes 1 to 600 s');
  });

  // 42 % of 0 to 10 bar are 4.2 bar, which are 420 kPa of a sensor of 0 to 1600 kPa: 26.25 % (by hand)
  test('a set point is the same pressure by another sensor, gains go by what they are called there, a straightened feedback stays', () => {
    const bar = { measures: 'pressure', low: 0, high: 10, unit: 'bar' } as const;
    const from = factory('osier-g', 'G7.5', { '10a': 42, '10b': 2, '10c': 3, '10j': 1.2, '10m': 0 });
    const to = factory('sallow', 'S4');
    const { taken, left } = transfer(from, to, { from: bar, to: { ...bar, high: 1600, unit: 'kPa' } });
    const value = (code: string) => taken.find((t) => t.code === code)?.value;
    expect(value('20/1')).toBeCloseTo(26.3, 6);
    expect([value('20/2'), value('20/3')]).toEqual([50, 20]);
    const reason = (of: typeof left, code: string) => of.find((l) => l.code === code)?.reason;
    expect(reason(left, '20/10')).toContain('straightens the other machine');
    expect(reason(transfer(from, to).left, '20/1')).toContain('a sensor is not recorded');
    const level = { measures: 'level', low: 0, high: 4, unit: 'm' } as const;
    expect(reason(transfer(from, to, { from: bar, to: level }).left, '20/1')).toContain('another kind of sensor');
    expect(reason(transfer(from, to, { from: bar, to: { ...bar, high: 4 } }).left, '20/1')).toContain('outside the range');
  });

  test('taking what is offered twice offers nothing the second time', () => {
    const from = factory('osier-g', 'G7.5', { '3a': 7, '3b': 9, '4a': 1 });
    const to = factory('osier-g', 'G2.2');
    const { taken } = transfer(from, to);
    const values = { ...to.values, ...Object.fromEntries(taken.map((t) => [t.code, t.value])) };
    expect(transfer(from, to.with(values)).taken).toEqual([]);
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
