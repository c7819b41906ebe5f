import { act, fireEvent, screen } from '@testing-library/react';
import type { LiveSample, WriteReport } from '@yare/contract';
import { present } from '@yare/core';
import { notePoints } from '../src/data/loop';
import { sendAll } from '../src/data/edits';
import { live } from '../src/data/live';
import { noteGauges } from '../src/data/liveTuning';
import { ProcessScreen } from '../src/features/process/ProcessScreen';
import { freshServer, holdRow, open, row, settled, standsAs, touchRow, touchText, type, type FakeServer } from './fakeServer';
import { byProcess, FakeSocket, liveSample, socketNow } from './fakeSocket';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() }, useLocalSearchParams: () => ({ tag: 'P-11' }), usePathname: () => '/' }));
// what the model would do is another test's matter
jest.mock('../src/data/loop', () => ({
  ...jest.requireActual<object>('../src/data/loop'),
  useLoopAhead: () => ({ answers: null, busy: true }),
}));

const tag = 'P-11';
let server: FakeServer;
beforeAll(() => {
  Object.assign(globalThis, { WebSocket: FakeSocket });
  live.subscribe(() => undefined);
  socketNow().onopen?.();
});
beforeEach(() => {
  server = freshServer();
  standsAs(server, tag, {});
  live.trends.clear();
  act(() => {
    notePoints(tag, []);
    noteGauges(tag, []);
  });
});
afterEach(() => live.samples.clear());

let at = Date.now();
/** What the drive says while its loop runs. */
const says = async (change: Partial<LiveSample>, ms = 200): Promise<void> => {
  at += ms;
  const sample = liveSample(tag, at, { state: 'running', words: byProcess, outputFrequency: 40, feedback: 42, setpoint: 42, ...change });
  await act(async () => socketNow().hear({ kind: 'live', samples: [sample] }));
};
const draft = (code: string) => server.of(tag).sheets.draft.values[code]?.value;

/** A write that goes through: the drive holds the draft afterwards. */
function writes(): void {
  server.special.push(({ method, path }) => {
    if (method !== 'POST' || path !== `/machines/${tag}/write`) return undefined;
    const record = server.of(tag);
    const inDrive = { ...present(record.sheets.inDrive), values: record.sheets.draft.values };
    record.sheets = { ...record.sheets, inDrive };
    const report: WriteReport = { outcome: 'kept', sentence: '', lines: [], at: '2026-01-01T00:00:00Z', author: 'Ines Calder', inDrive };
    return { status: 200, body: report };
  });
}
const written = () => server.bodies('POST', `/machines/${tag}/write`).map((b) => b.codes);

describe('tuned while it runs', () => {
  test('a change is written by holding, and taken back by one touch, draft and drive alike', async () => {
    writes();
    await open(<ProcessScreen />);
    await says({});
    await touchRow('tune-live');
    expect(row('last-good').textContent).toContain('proportional gain 1.20, integral time 3.0 s');
    expect(row('back-to-good').getAttribute('aria-disabled')).toBe('true');
    await touchRow('firmer');
    expect(draft('10b')).toBe(1.5);
    expect(row('write-now').textContent).toContain('Hold to write proportional gain 1.50');
    await holdRow('write-now');
    await settled();
    expect(written()).toEqual([['10b']]);
    await touchRow('back-to-good');
    await settled();
    expect(draft('10b')).toBe(1.2);
    expect(written()).toEqual([['10b'], ['10b']]);
  });

  test('a write that the drive does not take is told, and marks nothing', async () => {
    server.special.push(({ method, path }) =>
      method === 'POST' && path === `/machines/${tag}/write`
        ? {
            status: 200,
            body: {
              outcome: 'refused',
              sentence: 'The drive refused Proportional gain 10b.',
              lines: [],
              at: '2026-01-01T00:00:00Z',
              author: 'Ines Calder',
              inDrive: null,
            },
          }
        : undefined,
    );
    await open(<ProcessScreen />);
    await says({});
    await touchRow('tune-live');
    await touchRow('firmer');
    await holdRow('write-now');
    await settled();
    expect(screen.getByText('The drive refused Proportional gain 10b.')).toBeTruthy();
    expect(row('back-to-good').getAttribute('aria-disabled')).not.toBe('true');
  });

  test('a draft that does not get through ends the write: nothing is written later by itself', async () => {
    writes();
    await open(<ProcessScreen />);
    await says({});
    await touchRow('tune-live');
    server.down = true;
    await touchRow('firmer');
    await holdRow('write-now');
    await settled();
    expect(screen.getByText(/did not get through to the server: nothing was written/)).toBeTruthy();
    server.down = false;
    await act(async () => sendAll());
    await settled();
    expect(draft('10b')).toBe(1.5);
    expect(written()).toEqual([]);
    expect(row('write-now').textContent).toContain('Hold to write proportional gain 1.50');
  });

  test('what runs well is remembered, and is what one comes back to', async () => {
    standsAs(server, tag, { '10b': 2 });
    await open(<ProcessScreen />);
    await says({});
    await touchRow('tune-live');
    await touchRow('softer');
    expect(row('remember-good').getAttribute('aria-disabled')).toBe('true');
    await touchRow('firmer');
    await touchRow('remember-good');
    expect(row('last-good').textContent).toContain('proportional gain 2.00');
  });

  test('a loop that swings is told with its period and what calms it, which goes into the draft', async () => {
    for (let t = 0; t < 24; t += 0.2)
      await says({ feedback: 42 + 4 * Math.sin((2 * Math.PI * t) / 4), outputFrequency: 40 - 3 * Math.sin((2 * Math.PI * t) / 4) });
    await open(<ProcessScreen />);
    expect(screen.getByText(/It swings by ±0\.4\sbar every 4\.0\ss\. The controller is too firm/)).toBeTruthy();
    await touchText('Put that into the draft');
    await settled();
    expect([draft('10b'), draft('10c')]).toEqual([0.6, 4]);
  });
});

describe('the sensor against a gauge', () => {
  test('two readings, each beside what the drive saw; a sensor of another range is told and set right', async () => {
    await open(<ProcessScreen />);
    await says({ feedback: 0, state: 'ready' });
    await type('gauge-entry', '0');
    await says({ feedback: 25 });
    await type('gauge-entry', '4');
    expect(row('gauge-1').textContent).toContain('the drive saw 2.50 bar');
    await touchText('Set the range to 0 to 16 bar');
    await settled();
    expect(row('sensor-high').textContent).toContain('16');
  });
  test('one that agrees is counted', async () => {
    await open(<ProcessScreen />);
    await says({ feedback: 0.3, state: 'ready' });
    await type('gauge-entry', '0');
    await says({ feedback: 42 });
    await type('gauge-entry', '4.25');
    await touchText('Count it: the sensor agrees');
    await settled();
    expect(server.of(tag).proofs).toMatchObject([
      {
        ...{ stage: 'process', item: 'sensor', outcome: 'passed' },
        facts: { kind: 'gauges', unit: 'bar', points: expect.arrayContaining([expect.objectContaining({ gauge: 4.25 })]) },
      },
    ]);
  });
});

describe('a bent feedback', () => {
  const table = '25 1.08\n30 1.71\n35 2.44\n40 3.29\n45 4.24\n50 5.28';
  test('a table is pasted, straightened in the draft, and taken out again; what it holds stays', async () => {
    await open(<ProcessScreen />);
    await touchRow('paste-points');
    const field = row('points-text') as HTMLTextAreaElement;

    fireEvent.change(field, { target: { value: 'thirty two' } });
    await touchRow('take-points');
    expect(screen.getByText(/is not a speed and a feedback/)).toBeTruthy();
    fireEvent.change(field, { target: { value: table } });
    await touchRow('take-points');
    expect(row('point-50').textContent).toContain('1.08');
    await touchText('Straighten it in the draft');
    await settled();
    expect([draft('10m'), draft('10j')]).toEqual([1, expect.closeTo(1.18, 6)]);
    expect(row('setpoint').textContent).toMatch(/It holds.*42\.\d\s% of the range.*straightened.*4\.2/);
    await touchText('Take it as it comes again');
    await settled();
    expect(draft('10m')).toBe(0);
    expect(draft('10a')).toBeCloseTo(42, 0);
  });
  test('while the loop runs by a straightened feedback, both are said, and what it holds in the sensor’s unit', async () => {
    standsAs(server, tag, { '10m': 1, '10j': 1.2, '10k': 30 });
    await open(<ProcessScreen />);
    await says({ feedback: 42, setpoint: 1.2 * (45 + 30) });
    await settled();
    expect(row('feedback-now').textContent).toContain('straightened 86.4 %');
    expect(row('setpoint-now').textContent).toContain('4.5');
  });
});

test('a second set point has its place once asked for, in the sensor’s unit', async () => {
  await open(<ProcessScreen />);
  expect(screen.queryByTestId('secondSetpoint')).toBeNull();
  await touchRow('more-setpoint');
  await type('secondSetpoint', '3');
  await settled();
  expect(draft('10n')).toBe(30);
  expect(screen.getByText(/No input has the job of its contact yet/)).toBeTruthy();
});

test('a step test is proposed larger where the feedback is noisy, and as usual where it is not', async () => {
  const noise = [0.9, -1.1, 0.4, -0.6, 1.2, -0.8, 0.1];
  for (let i = 0; i < 80; i++) await says({ feedback: 42 + (noise[i % noise.length] ?? 0) });
  await says({ state: 'ready', outputFrequency: 0 });
  await open(<ProcessScreen />);
  await touchRow('test-here');
  expect(row('step-by').textContent).toMatch(/larger than usual: the feedback is noisy.*[78]\.0/);
  await touchRow('test-here');
  live.trends.clear();
  await touchRow('test-here');
  expect(row('step-by').textContent).toMatch(/minus is slower.*5\.0/);
});
