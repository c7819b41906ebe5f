import { act, screen } from '@testing-library/react';
import { present, type HeldAs } from '@yare/core';
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
  const { loopAhead, questionsFor } = jest.requireActual<typeof import('@yare/core/loop')>('@yare/core/loop');
  const useLoopAhead: typeof import('../src/data/loop').useLoopAhead = (spec, plan) => ({
    answers: useMemo(
      () =>
        spec && plan ? questionsFor(spec.load, plan.sensor).map((question) => ({ question, ahead: loopAhead(spec, { ...plan, question }) })) : null,
      [spec, plan],
    ),
    busy: false,
  });
  return { ...jest.requireActual<object>('../src/data/loop'), useRead, useLoopAhead };
});

/** A step of 10 % of output on one lag of 3 s: 1 bar of 10, so a gain of one. */
const csv = (change: (t: number) => number = (t) => (t < 11 ? 0 : 1 - Math.exp(-(t - 11) / 3))): string =>
  [
    'Time s,Output Hz,Pressure bar',
    ...Array.from({ length: 500 }, (_, i) => [i / 10, i < 100 ? 35 : 40, (3 + change(i / 10)).toFixed(4)].join(',')),
  ].join('\n');
const plain = { factor: 1, over: null };
const gainOf = (step: number): HeldAs => ({ ...plain, step, min: step, max: 50, decimals: 2 });
const timeOf = (step: number): HeldAs => ({ ...plain, step, min: step, max: 600, decimals: 1 });
const asked: TuningAsked = {
  ...{ text: csv(), choice: null, points: [], filter: 0, now: { gain: 1, integralTime: 10, derivativeTime: 0 }, ramp: 20, machine: null },
  of: { top: 50, sensor: { measures: 'pressure', low: 0, high: 10, unit: 'bar' }, signal: 0 },
  ...{ held: { gain: gainOf(0.01), integralTime: timeOf(0.1), derivativeTime: null }, straight: 1 },
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
    const coarse = tunedOf({ held: { gain: gainOf(1), integralTime: timeOf(5), derivativeTime: null } });
    for (const { gains } of coarse.proposals) expect([gains.gain % 1, gains.integralTime % 5]).toEqual([0, 0]);
    expect(coarse.proposals.some((p) => Math.abs(p.rounding) > 0.03)).toBe(true);
  });
  // a proportional band of 100 % is a gain of one, and twelve repeats a minute an integral time of five seconds (by definition)
  test('a family that states band and repeats gets values it can hold, told in the model’s units', () => {
    const band: HeldAs = { min: 2, max: 2000, step: 1, decimals: 0, factor: 0.01, over: 100 };
    const repeats: HeldAs = { min: 0, max: 600, step: 0.1, decimals: 1, factor: 1, over: 60 };
    const t = tunedOf({ held: { gain: band, integralTime: repeats, derivativeTime: null } });
    for (const { gains } of t.proposals) {
      expect(100 / gains.gain).toBeCloseTo(Math.round(100 / gains.gain), 6);
      expect(600 / gains.integralTime).toBeCloseTo(Math.round(600 / gains.integralTime), 6);
    }
    expect(bestOf(t).gains.gain / bestOf(tunedOf()).gains.gain).toBeCloseTo(1, 1);
  });
  test('a drive with a derivative is offered the rules that want one; a straightened feedback changes nothing but the figures', () => {
    const ids = (change: Partial<TuningAsked>) => tunedOf(change).proposals.map((p) => p.rule);
    const derivativeTime = timeOf(0.01);
    expect(ids({ held: { ...asked.held, derivativeTime } })).toContain('itae disturbance PID');
    expect(ids({})).not.toContain('itae disturbance PID');
    expect(bestOf(tunedOf({ straight: 2 })).gains.gain / bestOf(tunedOf()).gains.gain).toBeCloseTo(1, 1);
  });
  test('a recording of a loop that swings is no step test, and is told for what it is', () => {
    const lines = Array.from({ length: 500 }, (_, i) => {
      const a = (2 * Math.PI * i) / 40;
      return [i / 10, (40 - 4 * Math.sin(a)).toFixed(2), (4 + 0.5 * Math.sin(a + 1)).toFixed(3)].join(',');
    });
    const t = tunedOf({ text: ['Time s,Output Hz,Pressure bar', ...lines].join('\n') });
    expect(t.test.ok).toBe(false);
    expect(t.swinging).toMatchObject({ cause: 'too tight', period: expect.closeTo(4, 1), cure: { gain: 0.5, integralTime: 10 } });
  });
  test('speeds that stand in a recording are found', () => {
    const lines = Array.from({ length: 800 }, (_, i) => [i / 10, 25 + 5 * Math.floor(i / 200), (2 + Math.floor(i / 200)).toFixed(2)].join(','));
    const { steady } = readStep({ ...asked, text: ['Time s,Output Hz,Pressure bar', ...lines].join('\n') });
    expect(steady.map((p) => [Math.round(p.output), Math.round(p.feedback)])).toEqual([
      [50, 20],
      [60, 30],
      [70, 40],
      [80, 50],
    ]);
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
