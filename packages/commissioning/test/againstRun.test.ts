import '@yare/books/all';
import { againstRun, insideBand, laidOver, momentsOf } from '../src';
import { lookAheadRun, nth } from '@yare/core';
import { planFor } from '../src/lookAhead/plan';
import { demoModel } from './model';

const { draftSpec } = demoModel('P-11', { '3b': 14 }, {});
if (!draftSpec.ok) throw new Error(draftSpec.sentence);
const { spec } = draftSpec;
const ahead = lookAheadRun(spec, planFor(spec, spec.drive.maximumFrequency));
const list = (a: ArrayLike<number>, times = 1) => Array.from(a, (x) => x * times);
/** A recording that is the look-ahead itself, begun 2 s late, with the current some times as large. */
const recorded = (currentTimes = 1) => ({
  time: list(ahead.series.time).map((t) => t + 2),
  outputFrequency: list(ahead.series.frequency),
  motorCurrent: list(ahead.series.current, currentTimes),
  busVoltage: list(ahead.series.busVoltage),
});
const band = () => 0.1;

test('the moments of a run are read off its output', () => {
  const time = [0, 1, 2, 3, 4, 5, 6];
  expect(momentsOf({ time, outputFrequency: [0, 0, 25, 50, 49.8, 20, 0] })).toEqual({ began: 1, top: 50, letGo: 4, stood: 6 });
  // backwards, and cut off before it stood
  expect(momentsOf({ time, outputFrequency: [0, 0, -25, -50, -49.8, -20, -5] })).toEqual({ began: 1, top: 50, letGo: 4, stood: null });
  expect(momentsOf({ time, outputFrequency: [0, 0, 0, 0, 0, 0, 0] })).toBeNull();
});

test('a run that is as it was foreseen lies inside its bands, one with a third more current does not', () => {
  const same = againstRun(ahead, recorded(), band);
  expect(same.map((r) => r.quantity)).toEqual(['peak bus', 'peak current', 'stop time']);
  expect(same.map(insideBand)).toEqual([true, true, true]);
  const more = againstRun(ahead, recorded(1.33), band);
  expect(more.map(insideBand)).toEqual([true, false, true]);
  // without a band nothing is said of inside or outside
  expect(againstRun(ahead, recorded(), () => null).map((r) => [r.band, insideBand(r)])).toEqual([
    [null, null],
    [null, null],
    [null, null],
  ]);
});

test('laid over a recording, the start falls on its start and the stop on the moment the hand let go', () => {
  const over = laidOver(ahead, { began: 3, top: 50, letGo: 60, stood: null });
  expect(over[0]).toBeCloseTo(3 + nth(ahead.series.time, 0), 6);
  const stop = ahead.series.time.findIndex((t) => t >= ahead.summary.stopAt);
  expect(over[stop]).toBeCloseTo(60 + nth(ahead.series.time, stop) - ahead.summary.stopAt, 6);
});
