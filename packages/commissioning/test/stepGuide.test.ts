import { leavesBand, SteadyWatch, StepGuide } from '@yare/commissioning';
import { gainsOver, sortedPoints, straighteningText } from '@yare/commissioning/steady';
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

describe('a guided step', () => {
  const walk = (feedback: (t: number) => number, reached: (t: number) => boolean = () => true) => {
    const guide = new StepGuide(5);
    const told: Array<[string, number]> = [];
    for (let t = 0; t < 60; t += 0.1) if (guide.look(t, reached(t), feedback(t))) told.push([guide.progress.state, guide.added]);
    return { guide, told };
  };
  test('waits until it stands, steps once, and says when it stands again', () => {
    const { told } = walk((t) => (t < 9 ? 30 : 35));
    expect(told).toEqual([
      ['stepped', 5],
      ['stands', 5],
    ]);
  });
  test('adds nothing while the speed is not reached, or the feedback moves', () => {
    expect(
      walk(
        () => 30,
        () => false,
      ).guide.added,
    ).toBe(0);
    expect(walk((t) => 20 + 0.4 * t).guide.progress.state).toBe('settling');
  });
  test('the ends of a range are out of bounds', () => {
    expect([1, 3, 50, 97, 99].map(leavesBand)).toEqual([true, false, false, false, true]);
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
