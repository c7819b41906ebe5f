import { act, screen } from '@testing-library/react';
import { present } from '@yare/core';
import { ProcessScreen } from '../src/features/process/ProcessScreen';
import { takeRecording } from '../src/data/loop';
import { readStep, type TuningAsked } from '../src/workers/readStep';
import { freshServer, open, row, settled, touchRow, touchText, type FakeServer } from './fakeServer';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() }, useLocalSearchParams: () => ({ tag: 'P-11' }), usePathname: () => '/' }));
// no workers here: what the worker does is done at once
jest.mock('../src/data/loop', () => {
  const { readStep: work } = jest.requireActual<typeof import('../src/workers/readStep')>('../src/workers/readStep');
  const { useMemo } = jest.requireActual<typeof import('react')>('react');
  const useRead = (_: string, what: TuningAsked | null) => ({ read: useMemo(() => what && work(what), [what]), busy: false, failed: false });
  return { ...jest.requireActual<object>('../src/data/loop'), useRead };
});

/** A step of 10 % of output on one lag of 3 s: 1 bar of 10, so a gain of one. */
const csv = (change: (t: number) => number = (t) => (t < 11 ? 0 : 1 - Math.exp(-(t - 11) / 3))): string =>
  [
    'Time s,Output Hz,Pressure bar',
    ...Array.from({ length: 500 }, (_, i) => [i / 10, i < 100 ? 35 : 40, (3 + change(i / 10)).toFixed(4)].join(',')),
  ].join('\n');
const asked: TuningAsked = {
  ...{ text: csv(), choice: null, points: [], filter: 0, now: { gain: 1, integralTime: 10, derivativeTime: 0 } },
  of: { top: 50, sensor: { measures: 'pressure', low: 0, high: 10, unit: 'bar' }, signal: 0 },
  gain: { step: 0.01, min: 0.01, max: 50 },
  integralTime: { step: 0.1, min: 0.1, max: 600 },
};
const tunedOf = (change: Partial<TuningAsked> = {}) => present(readStep({ ...asked, ...change }).tuned);
const bestOf = (t: ReturnType<typeof tunedOf>) => present(t.proposals.find((p) => p.rule === t.recommended));

describe('what the worker makes of a recording', () => {
  test('values the drive can store, none with a derivative, one recommended, and a fit that lies on the record', () => {
    const t = tunedOf();
    for (const { gains } of t.proposals) {
      expect(gains.derivativeTime).toBe(0);
      expect(gains.gain * 100).toBeCloseTo(Math.round(gains.gain * 100), 6);
      expect(gains.integralTime * 10).toBeCloseTo(Math.round(gains.integralTime * 10), 6);
    }
    expect(bestOf(t).worst.sensitivity).toBeLessThanOrEqual(1.8);
    const fit = present(t.fit);
    expect(fit.values.at(-1)).toBeCloseTo(40, 1);
    expect(fit.values[0]).toBeCloseTo(30, 1);
  });
  test('coarse steps of the drive are kept to, and what that costs is told', () => {
    const coarse = tunedOf({ gain: { step: 1, min: 1, max: 50 }, integralTime: { step: 5, min: 5, max: 600 } });
    for (const { gains } of coarse.proposals) expect([gains.gain % 1, gains.integralTime % 5]).toEqual([0, 0]);
    expect(coarse.proposals.some((p) => Math.abs(p.rounding) > 0.03)).toBe(true);
  });
  test('steady points that are steeper elsewhere make it gentler', () => {
    const steep = [40, 60, 80, 100].map((output) => ({ output, feedback: (output * output) / 160 }));
    expect(bestOf(tunedOf({ points: steep })).gains.gain).toBeLessThan(bestOf(tunedOf()).gains.gain);
  });
  test('a filter that stays in makes it gentler too', () => {
    expect(bestOf(tunedOf({ filter: 2 })).gains.gain).toBeLessThan(bestOf(tunedOf()).gains.gain);
  });
  test('a test that says nothing proposes nothing', () => {
    const t = tunedOf({ text: csv(() => 0) });
    expect(t.test).toMatchObject({ ok: false, why: 'too small' });
    expect([t.proposals, t.recommended, t.fit, t.now]).toEqual([[], null, null, null]);
  });
});

describe('on the page', () => {
  let server: FakeServer;
  beforeEach(() => {
    server = freshServer();
    act(() => takeRecording('P-11', { name: 'pump.csv', taken: 1, text: csv(), choice: null }));
  });
  afterEach(() => act(() => takeRecording('P-11', null)));
  const draft = (code: string) => server.of('P-11').sheets.draft.values[code]?.value;

  test('the recording is read, and the recommended values go into the draft in one touch', async () => {
    await open(<ProcessScreen />);
    await settled();
    expect(row('process-gain').textContent).toContain('1.00');
    expect(row('process-lag').textContent).toMatch(/Lag.*by hand 2\.\d\d s|Lag.*by hand 3\.\d\d s/);
    const before = [draft('10b'), draft('10c')];
    await touchText('Put them into the draft');
    await settled();
    expect([draft('10b'), draft('10c')]).not.toEqual(before);
    expect(screen.queryByRole('button', { name: 'Put them into the draft' })).toBeNull();
  });

  test('a rule that would come too near to swinging is told so and cannot be put in', async () => {
    await open(<ProcessScreen />);
    await settled();
    expect(row('rule-cohen-coon-PI').textContent).toMatch(/(too near|swings)$/);
    expect(row('rule-simc-smooth').textContent).toMatch(/s$/);
    await touchRow('rule-cohen-coon-PI');
    expect(screen.getByText(/^Cohen–Coon, PI: .*too near to swinging/)).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Put them into the draft' })).toBeNull();
  });

  test('a wrong column is chosen anew, and what that means is said', async () => {
    await open(<ProcessScreen />);
    await settled();
    await touchRow('step-file');
    await touchRow('column-feedback');
    await act(async () => screen.getByRole('radio', { name: 'Output Hz' }).click());
    await settled();
    expect(screen.getByText(/each want a column of their own/)).toBeTruthy();
    expect(screen.queryByTestId('process-gain')).toBeNull();
    await touchRow('drop-recording');
    expect(screen.getByText(/^Or record it with another instrument/)).toBeTruthy();
  });
});
