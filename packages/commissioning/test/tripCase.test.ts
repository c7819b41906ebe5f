import type { RecordingData, TripDetail } from '@yare/contract';
import { present } from '@yare/core';
import { causes, diagnose, noSnapshot, type ObservationId } from '@yare/core/trips';
import { beforeOf, caseOf, causeWords, drillCauses, factText } from '../src/trips';
import { demoModel } from './model';

const meta = {
  id: 1,
  tag: 'P-11',
  kind: 'trip' as const,
  title: 'x',
  author: 'Drive',
  startedAt: '2026-01-01T00:00:00Z',
  duration: 2,
  samples: 3,
  complete: true,
  channels: [],
  marks: [],
};
const recording = (time: number[], data: Record<string, number[]>): RecordingData => ({ meta, time, data });
const detail = (change: Partial<TripDetail> = {}): TripDetail => ({
  entry: {
    ...{ id: 1, tag: 'P-11', source: 'link', code: 11, cause: 'overvoltage', name: 'Bus overvoltage', at: '2026-01-01T00:00:00Z' },
    seen: true,
    closed: null,
  },
  snapshot: { ...noSnapshot(), status: 0x37, outputFrequency: 39, reference: 0, torque: -60, busVoltage: 812, motorCurrent: 16, since: 40 },
  ...{
    afterwards: null,
    inDrive: null,
    trendId: null,
    traceId: null,
    trendTrippedAt: null,
    answers: {},
    lately: [],
    others: [],
    repeats: 0,
    note: '',
  },
  ...change,
});

describe('a case from what is on record', () => {
  test('a recording ends at the trip; channels that tell nothing of it are left out', () => {
    const b = present(beforeOf(recording([0, 1, 2], { busVoltage: [540, 600, 810], power: [1, 2, 3] })));
    expect(b.time).toEqual([-2, -1, 0]);
    expect(b.channels).toEqual({ busVoltage: [540, 600, 810] });
    expect(beforeOf(recording([], {}))).toBeNull();
    expect(beforeOf(null)).toBeNull();
  });

  test('settings are those the drive had then, not those it has now', () => {
    const model = demoModel('P-11', { '3b': 12 }, { '3b': 12 });
    expect(caseOf(model, detail({ inDrive: { '3b': 0.3 } }), null, null).machine.drive.decelerationTime).toBe(0.3);
    expect(caseOf(model, detail(), null, null).machine.drive.decelerationTime).toBe(12);
    // a drive that was never read is taken to have its draft
    expect(caseOf(demoModel('P-11', { '3b': 7 }, null), detail(), null, null).machine.drive.decelerationTime).toBe(7);
  });

  test('a class nobody knows is none, and a stop that was too short then is found though it is long enough now', () => {
    const model = demoModel('P-11', { '3b': 12 }, { '3b': 12 });
    const unknown = detail();
    expect(caseOf(model, { ...unknown, entry: { ...unknown.entry, cause: 'meteor' } }, null, null).cause).toBeNull();
    const then = diagnose(caseOf(model, detail({ inDrive: { '3b': 0.2, '3h': 0 } }), null, null));
    expect(then.ranked[0]?.id).toBe('stop too short');
    expect(then.seen.stop?.outcome).toBe('too short');
    expect(diagnose(caseOf(model, detail(), null, null)).seen.stop?.outcome).toBe('long enough');
  });
});

describe('facts with their figures', () => {
  test.each<[ObservationId, string, Record<string, number>, string]>([
    ['moment', 'stopping', { frequency: 39.2, reference: 0 }, 'On the way down at 39.2 Hz'],
    ['moment', 'starting', { frequency: 6.5, reference: 45 }, 'On the way up: 6.5 Hz of 45.0 Hz'],
    ['torque', 'braking', { torque: -64 }, 'Torque −64 %: braking'],
    ['busRise', 'climbs', { seconds: 0.011, power: 8.2, rated: 7.5 }, 'The bus rose in 11 ms, with 8.2 kW; the motor is stamped 7.5 kW'],
    ['stop', 'too short', { time: 0.3, from: 45, peak: 808, level: 800 }, 'A stop in 0.3 s from 45 Hz peaks at 808 V (estimated); it trips at 800 V'],
    ['chopper', 'never acts', { level: 830, trip: 820 }, 'Chopper at 830 V, trip at 820 V'],
    ['chopper', 'none', {}, 'No brake chopper in use'],
    ['currentRise', 'within moments', { early: 3.9, last: 9.8, seconds: 0.01 }, 'From 3.9 A to 9.8 A in 10 ms'],
    ['rotor', 'left behind', { current: 68.5, torque: 25 }, '68.5 A gave 25 % torque: the rotor stands or slips'],
    ['overload', 'low', { set: 7, stamped: 13.6 }, 'Overload set to 7.0 A; 13.6 A stamped'],
    ['load', 'more', { torque: 150, usual: 80 }, '150 % torque; 80 % usual at that speed (estimated)'],
    ['load', 'less', { current: 4, usualCurrent: 10 }, '4.0 A; 10.0 A usual at that speed (estimated)'],
    ['signal', 'none', { milliamperes: 0 }, '0.0 mA by the drive'],
    ['since', 'minutes', { since: 900 }, '15 min after its start'],
    ['since', 'at once', { since: 0.2 }, 'Within a second of its start'],
    ['flow', 'dry', { torque: 6, usual: 90 }, '6 % torque; 90 % usual: as without water'],
    ['flow', 'shut', { torque: 40, usual: 90, shut: 42 }, '40 % torque; 90 % usual, 42 % against a shut valve: as against a shut valve'],
    ['guardLevel', 'inside ordinary', { level: 43, setpoint: 40 }, 'Guard at 43 %; set point 40 %'],
    ['repeat', 'again', { repeats: 3 }, 'The same trip 3 times in the last month'],
    ['afterwards', 'was gone', { silent: 4 }, 'Silent for 4 s around the trip'],
  ])('%s %s', (id, outcome, figures, text) => expect(factText(id, { outcome, figures }).replace(/\s/g, ' ')).toBe(text));
});

test('what a cause means and what to do about it are sentences', () => {
  for (const [id, { name, means, cure }] of Object.entries(causeWords)) {
    expect([id, /[.!?]$/.test(name)]).toEqual([id, false]);
    for (const sentence of [means, cure]) expect([id, /^[A-Z].*\.$/.test(sentence)]).toEqual([id, true]);
  }
});

test('every fault a drill hides stands for a cause of the library', () => {
  const known = new Set(causes.map((c) => c.id));
  expect(
    Object.values(drillCauses)
      .flat()
      .every((id) => known.has(id)),
  ).toBe(true);
  expect(Object.keys(drillCauses)).toHaveLength(8);
});
