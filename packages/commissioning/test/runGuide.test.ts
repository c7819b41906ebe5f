import { GuidedRun, leavesBand, SteadyWatch } from '../src';
import { gainsOver, outputFor, slopeAt, sortedPoints, straighteningText } from '../src/process/steady';
import type { RunGuide } from '@yare/contract';
import { random } from '@yare/core';
import { straighten } from '@yare/core/loop';

/** A feedback that goes to a level with a lag, sampled ten times a second. */
const going = (from: number, to: number, lag: number, noise: number, seed = 3) => {
  const r = random(seed);
  return (t: number) => to + (from - to) * Math.exp(-t / lag) + noise * r.normal();
};

/** s after which a watch says that it stands; null when it does not within a minute. */
function standsAfter(feedback: (t: number) => number): number | null {
  const watch = new SteadyWatch();
  for (let t = 0; t < 60; t += 0.1) if (watch.add(t, feedback(t))) return t;
  return null;
}

describe('when a feedback stands', () => {
  test('not before two stretches of it could be compared, however still it is', () => {
    expect(standsAfter(() => 42)).toBeCloseTo(8, 0);
  });
  test.each([1, 3, 6])('later, the slower it settles (lag %d s), and then within a percent of where it goes', (lag) => {
    for (const noise of [0, 0.2]) {
      const at = standsAfter(going(20, 60, lag, noise)) ?? NaN;
      expect(at).toBeGreaterThan(lag);
      expect(40 * Math.exp(-at / lag)).toBeLessThan(1);
    }
  });
  test('never while it climbs', () => {
    expect(standsAfter((t) => 20 + 0.5 * t)).toBeNull();
  });
});

describe('a led run', () => {
  const walk = (guide: RunGuide, feedback: (t: number, run: GuidedRun) => number, reached: (t: number) => boolean = () => true, begins = 30) => {
    const run = new GuidedRun(begins, guide);
    const told: Array<[string, number]> = [];
    for (let t = 0; t < 120; t += 0.1) if (run.look(t, reached(t), feedback(t, run)) === 'on') told.push([run.progress.state, run.frequency]);
    return { run, told };
  };
  const step: RunGuide = { kind: 'step', by: 5 };

  test('waits until it stands, steps once, and says when it stands again', () => {
    const { told } = walk(step, (t) => (t < 9 ? 30 : 35));
    expect(told).toEqual([
      ['stepped', 35],
      ['stands', 35],
    ]);
  });
  test('steps by nothing while the speed is not reached, or the feedback moves', () => {
    expect(
      walk(
        step,
        () => 30,
        () => false,
      ).run.frequency,
    ).toBe(30);
    expect(walk(step, (t) => 20 + 0.4 * t).run.progress.state).toBe('settling');
  });
  test('takes a level there and back past its balance, whether or not it stands, and no further than it needs', () => {
    let level = 50;
    const most: number[] = [];
    const { told } = walk({ kind: 'there and back', by: 6 }, (_t, run) => {
      // it sinks by itself a little as well
      level -= 0.1 * (0.1 * (run.frequency - 30) + 0.05);
      most.push(level);
      return level;
    });
    expect(told).toEqual([
      ['stepped', 36],
      ['back', 24],
      ['stands', 24],
    ]);
    expect(Math.min(...most)).toBeGreaterThan(39);
    expect(level).toBeGreaterThan(44);
  });
  test('goes from speed to speed, and notes where the feedback stands at each', () => {
    const { run, told } = walk({ kind: 'speeds', speeds: [25, 35, 45] }, (_t, r) => r.frequency + 1, undefined, 25);
    expect(told.map(([, hertz]) => hertz)).toEqual([35, 45, 45]);
    expect(run.progress.points).toEqual([25, 35, 45].map((frequency) => ({ frequency, feedback: expect.closeTo(frequency + 1, 6) })));
    expect(run.progress.state).toBe('stands');
  });
  test('a speed that is only passed counts for nothing: a drive that looks for a turning shaft passes all of them', () => {
    const run = new GuidedRun(30, step);
    for (let t = 0; t < 0.4; t += 0.1) expect(run.look(t, true, 0)).toBe('as before');
    expect(run.look(0.5, false, 0)).toBe('as before');
    for (let t = 3; t < 3.9; t += 0.1) expect(run.look(t, true, 0)).toBe('as before');
    expect(run.look(4.1, true, 0)).toBe('out of band');
  });
  test('the ends of a range are out of bounds; a run through the speeds may begin at nothing', () => {
    expect([1, 3, 50, 97, 99].map((f) => leavesBand(f))).toEqual([true, false, false, false, true]);
    expect([1, 99].map((f) => leavesBand(f, 'speeds'))).toEqual([false, true]);
  });
});

describe('steady points', () => {
  const parabola = [30, 50, 70, 90].map((output) => ({ output, feedback: (output * output) / 100 }));
  test('tell how much steeper it is elsewhere than where it was tested', () => {
    const gains = gainsOver(parabola, 60);
    expect(Math.max(...gains)).toBeCloseTo(1.6 / 1.2, 6);
    expect(Math.min(...gains)).toBeCloseTo(0.8 / 1.2, 6);
    expect(gainsOver(parabola.slice(0, 2), 60)).toEqual([]);
    expect(
      gainsOver(
        parabola.map((p) => ({ ...p, feedback: 40 })),
        60,
      ),
    ).toEqual([]);
  });
  // of a parabola over 100 the slope between 50 and 70 % is 1.2, by hand
  test('tell how steep it is at an output, beyond their ends by the last line, and nothing with too few', () => {
    expect(slopeAt(parabola, 60)).toBeCloseTo(1.2, 9);
    expect(slopeAt(parabola, 99)).toBeCloseTo(1.6, 9);
    expect(slopeAt(parabola.slice(0, 2), 60)).toBeNull();
  });
  // 37 % lies half-way, by hand on the line from 25 % at 50 % to 49 % at 70 %
  test('tell the output that a feedback wants, as far as they reach', () => {
    expect(outputFor(parabola, 37)).toBeCloseTo(60, 9);
    expect(outputFor(parabola, 95)).toBeNull();
    expect(outputFor([], 40)).toBeNull();
  });
  test('noted anew at nearly the same speed take the place of the one before', () => {
    expect(sortedPoints([...parabola, { output: 50.4, feedback: 26 }]).map((p) => p.feedback)).toEqual([9, 26, 49, 81]);
  });
  test('are told in words, and what no controller holds is an error', () => {
    expect(straighteningText(straighten(parabola))).toMatchObject({ severity: 'good', sentence: expect.stringContaining('2.0 times as steep') });
    expect(straighteningText(straighten(parabola.map((p) => ({ ...p, feedback: p.output / 2 }))))).toMatchObject({
      severity: 'good',
      sentence: expect.stringContaining('nearly the same'),
    });
    const back = [30, 50, 70, 90].map((output, i) => ({ output, feedback: [30, 50, 65, 55][i] ?? 0 }));
    expect(straighteningText(straighten(back))).toMatchObject({ severity: 'error', sentence: expect.stringContaining('turns back') });
    expect(straighteningText(straighten(parabola.slice(0, 2))).severity).toBe('warning');
  });
});
