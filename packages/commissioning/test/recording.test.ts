import type { RecorderTrigger } from '@yare/contract';
import { present, nth } from '@yare/core';
import {
  alignedBy,
  drawnOf,
  eventsOf,
  extentOf,
  fires,
  pyramidOf,
  recordingFrom,
  statisticsOf,
  triggerText,
  type TriggerSample,
} from '../src/recording';
import { run } from './recordedRun';

describe('between two cursors', () => {
  test('a sine over whole periods has no mean and its amplitude over the square root of two', () => {
    const time = Array.from({ length: 2001 }, (_, i) => i / 1000);
    const s = present(
      statisticsOf(
        time,
        time.map((t) => 10 * Math.sin(2 * Math.PI * 5 * t)),
        0,
        2,
      ),
    );
    expect(s.mean).toBeCloseTo(0, 6);
    expect(s.rms).toBeCloseTo(10 / Math.SQRT2, 2);
    expect(s.largest).toBeCloseTo(10, 6);
  });

  test('a straight line from 0 to 6 in 3 s: mean 3, mean square 12, by the integral', () => {
    const s = present(statisticsOf([0, 0.1, 3], [0, 0.2, 6], 3, 0));
    expect(s).toMatchObject({ samples: 3, smallest: 0, largest: 6, slope: 2 });
    expect(s.mean).toBeCloseTo(3, 12);
    expect(s.rms ** 2).toBeCloseTo(12, 12);
    expect(s.deviation ** 2).toBeCloseTo(3, 12);
  });

  test('one sample tells nothing, gaps are left out', () => {
    expect(statisticsOf([0, 1, 2], [1, 2, 3], 0.5, 1.5)).toBeNull();
    expect(statisticsOf([0, 1, 2], [1, NaN, 3], 0, 2)).toMatchObject({ samples: 2, mean: 2 });
  });
});

describe('laying one on the other', () => {
  test('events are found, and the same mark is laid on the same mark', () => {
    const events = eventsOf(run());
    expect(events.map((e) => e.code)).toEqual(['begin', 'current peak', 'mark', 'starts', 'at speed', 'mark', 'slows', 'bus peak', 'at rest', 'end']);
    const later = eventsOf({ ...run(), time: Array.from(run().time, (t) => t + 3), marks: [{ time: 4.2, label: 'Let go' }] });
    const [a, b] = present(alignedBy(events, later));
    expect([a.label, a.time, b.time]).toEqual(['Let go', 1.2, 4.2]);
  });

  test('without marks in common it is the start, and of what stands still the beginning', () => {
    const bare = { ...run(), marks: [] };
    expect(present(alignedBy(eventsOf(run()), eventsOf(bare)))[0].code).toBe('starts');
    const still = { ...bare, values: bare.values.map((v) => Array.from(v, () => 0)) };
    expect(present(alignedBy(eventsOf(bare), eventsOf(still)))[0].code).toBe('begin');
  });
});

describe('hours of samples', () => {
  const n = 180_000;
  const time = Float64Array.from({ length: n }, (_, i) => i / 50);
  const values = Float64Array.from({ length: n }, (_, i) => Math.sin(i / 900) + (i === 123_457 ? 9 : 0));
  const p = pyramidOf(time, values);

  test.each([
    [0, 3600],
    [2000, 2600],
    [2469, 2469.3],
  ])('extent and line from %d to %d s are those of every sample', (from, to) => {
    let [low, high] = [Infinity, -Infinity];
    for (let i = 0; i < n; i++)
      if (nth(time, i) >= from - 0.021 && nth(time, i) <= to + 0.021) [low, high] = [Math.min(low, nth(values, i)), Math.max(high, nth(values, i))];
    const [a, b] = present(extentOf(p, from, to));
    expect(a).toBeCloseTo(low, 9);
    expect(b).toBeCloseTo(high, 9);
    const line = drawnOf(p, from, to, 1000);
    expect(line.time.length).toBeLessThan(4200);
    expect(Math.max(...line.value)).toBeGreaterThanOrEqual(high - 1e-9);
    expect(line.time.every((t, i) => i === 0 || t >= nth(line.time, i - 1))).toBe(true);
  });

  test('packed samples come back to the decimals of their channels', () => {
    const packed = new ArrayBuffer(3 * 12);
    new Float64Array(packed, 0, 3).set([0, 0.02, 0.040001]);
    new Float32Array(packed, 24, 3).set([49.99, NaN, 50.004]);
    const meta = { channels: [{ key: 'f', name: 'Output', unit: 'Hz', decimals: 2 }] } as never;
    expect(recordingFrom(meta, packed)).toMatchObject({ time: [0, 0.02, 0.040001], data: { f: [49.99, NaN, 50] } });
  });
});

describe('what an armed recorder waits for', () => {
  const s = (of: Partial<TriggerSample>): TriggerSample => ({ state: 'running', busVoltage: 565, outputFrequency: 50, ...of }) as TriggerSample;
  const level: RecorderTrigger = { kind: 'level', channel: 'busVoltage', side: 'above', value: 700 };
  const edge: RecorderTrigger = { kind: 'edge', channel: 'outputFrequency', way: 'falling', value: 20 };
  test.each<[RecorderTrigger, Partial<TriggerSample> | null, Partial<TriggerSample>, boolean]>([
    [{ kind: 'now' }, null, {}, true],
    [level, null, { busVoltage: 700 }, true],
    [level, {}, { busVoltage: 699.9 }, false],
    [{ ...level, side: 'below', value: 480 }, {}, { busVoltage: 470 }, true],
    [edge, null, { outputFrequency: 10 }, false],
    [edge, { outputFrequency: 20.1 }, { outputFrequency: 20 }, true],
    [edge, { outputFrequency: 10 }, { outputFrequency: 30 }, false],
    [{ ...edge, way: 'either' }, { outputFrequency: 10 }, { outputFrequency: 30 }, true],
    [{ kind: 'trip' }, { state: 'tripped' }, { state: 'tripped' }, false],
    [{ kind: 'trip' }, {}, { state: 'tripped' }, true],
    [{ kind: 'state', state: 'stopping' }, {}, { state: 'stopping' }, true],
    [{ kind: 'state', state: 'running' }, {}, {}, false],
    // the noughts of a link that is gone are no values
    [{ ...level, side: 'below', value: 480 }, {}, { state: 'no link', busVoltage: 0 }, false],
    [edge, {}, { state: 'no link', outputFrequency: 0 }, false],
    [{ ...edge, way: 'rising' }, { state: 'no link', outputFrequency: 0 }, {}, false],
    [{ kind: 'trip' }, { state: 'no link' }, { state: 'tripped' }, true],
  ])('%j from %j to %j: %s', (trigger, before, now, expected) => {
    expect(fires(trigger, before && s(before), s(now))).toBe(expected);
  });

  test('it is said in words', () => {
    expect(triggerText(level)).toBe('DC bus is 700\u00a0V or more');
    expect(triggerText(edge)).toBe('Output falls through 20\u00a0Hz');
  });
});
