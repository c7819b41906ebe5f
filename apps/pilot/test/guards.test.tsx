import { act, cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { proofText } from '@yare/words';
import { bookById } from '@yare/books';
import type { LiveSample } from '@yare/contract';
import { present } from '@yare/core';
import { queryClient } from '../src/data/client';
import { noteFound } from '../src/data/days';
import { live } from '../src/data/live';
import { EmergencyScreen } from '../src/features/emergency/EmergencyScreen';
import { GuardsScreen } from '../src/features/guards/GuardsScreen';
import { SleepScreen } from '../src/features/sleep/SleepScreen';
import { StationScreen } from '../src/features/station/StationScreen';
import { freshServer, open, row, settled, standsAs, touchRow, touchText, type, type FakeServer } from './fakeServer';
import { byProcess, FakeSocket, liveSample, socketNow } from './fakeSocket';

const mockRoute = { tag: 'P-11' };
jest.mock('expo-router', () => ({ router: { navigate: jest.fn() }, useLocalSearchParams: () => mockRoute, usePathname: () => '/' }));
// days and years are the worker's, and another test's matter
jest.mock('../src/data/days', () => ({
  ...jest.requireActual<object>('../src/data/days'),
  useSleepAhead: () => ({ ahead: null, busy: true }),
  useStationAhead: () => ({ ahead: null, busy: true }),
}));

let server: FakeServer;
beforeAll(() => {
  Object.assign(globalThis, { WebSocket: FakeSocket });
  live.subscribe(() => undefined);
  socketNow().onopen?.();
});
beforeEach(() => {
  mockRoute.tag = 'P-11';
  server = freshServer();
  for (const tag of ['P-11', 'P-41', 'F-32']) standsAs(server, tag, {});
  act(() => noteFound('P-11', { shut: undefined, draw: undefined, profile: undefined, own: undefined }));
});
afterEach(() => live.samples.clear());

const { trips } = bookById('osier-g');
let at = Date.now();
const says = async (change: Partial<LiveSample>, ms = 1000): Promise<void> => {
  at += ms;
  const sample = liveSample(mockRoute.tag, at, { state: 'running', words: byProcess, outputFrequency: 42.5, feedback: 42, setpoint: 42, ...change });
  await act(async () => socketNow().hear({ kind: 'live', samples: [sample] }));
};
const draft = (code: string) => server.of(mockRoute.tag).sheets.draft.values[code]?.value;
const tripName = (code: number) => trips.find((t) => t.code === code)?.name;
const proofs = () => server.of(mockRoute.tag).proofs.map((p) => [p.stage, p.item, proofText(p, tripName)]);

describe('Sleep and wake', () => {
  test('a draw that holds still for a while can be noted, and becomes the sleep speed with what it touched on top', async () => {
    await open(<SleepScreen />);
    expect(row('note-draw').getAttribute('aria-disabled')).toBe('true');
    // running up tells nothing, however long it takes
    for (let f = 10; f <= 40; f += 2) await says({ outputFrequency: f, feedback: f });
    expect(row('note-draw').getAttribute('aria-disabled')).toBe('true');
    for (let i = 0; i < 24; i++) await says({ outputFrequency: 42.5 + (i % 2 ? 0.34 : -0.3), feedback: 42 + (i % 2) * 0.4 });
    expect(row('note-draw').textContent).toContain('42.5 Hz, up to 42.8, hold 4.22 bar');
    await type('draw-flow', '2');
    await touchRow('note-draw');
    await touchText('Take it into the draft');
    await settled();
    expect(draft('10e')).toBe(42.9);
    for (let i = 0; i < 6; i++) await says({ state: 'asleep', outputFrequency: 0, feedback: 42 - 0.2 * i });
    await touchRow('note-fall');
    expect(row('draw-falls').textContent).toContain('1.20');
  });

  test('one sleep from beginning to end counts as its proof; a rest after a guard is none', async () => {
    await open(<SleepScreen />);
    await says({});
    await says({ state: 'asleep', outputFrequency: 0, doing: 'resting' });
    await says({});
    expect(screen.queryByTestId('keep-sleeps')).toBeNull();
    await says({ state: 'stopping', outputFrequency: 10 });
    await says({ state: 'asleep', outputFrequency: 0 });
    expect(screen.getByText('It sleeps. Open a tap until it wakes.')).toBeTruthy();
    await says({}, 60_000);
    await touchRow('keep-sleeps');
    await settled();
    expect(proofs()).toEqual([['sleep', 'sleeps', 'fell asleep, woke by itself 60 s later']]);
  });

  test('what the server saw with no page open is offered by the page that is opened, and by that of another phone no more once it counts', async () => {
    const tells = (ms: number, more: Partial<LiveSample>) =>
      server.watching.look(liveSample('P-11', ms, { state: 'running', words: byProcess, outputFrequency: 42, feedback: 40, ...more }));
    tells(0, {});
    tells(1000, { state: 'asleep', outputFrequency: 0 });
    tells(91_000, {});
    await open(<SleepScreen />);
    expect(screen.getByText(/Seen: it fell asleep, woke by itself 90 s later/)).toBeTruthy();
    await act(async () => socketNow().hear({ kind: 'seen', tag: 'P-11', seen: { at: 1e15, until: null, seen: [] } }));
    await settled();
    expect(screen.queryByTestId('keep-sleeps')).toBeNull();
    // an answer that was long on its way brings back nothing that was told of since
    await act(async () => void (await queryClient.invalidateQueries()));
    await settled();
    expect(screen.queryByTestId('keep-sleeps')).toBeNull();
  });

  test('until when it is watched is said, and that it is not where the server does not', async () => {
    await open(<SleepScreen />);
    expect(screen.getByText(/It is watched until \d\d:\d\d, even with this page closed\./)).toBeTruthy();
    cleanup();
    queryClient.clear();
    FakeSocket.watching = null;
    server.special.unshift(({ path }) => (path.endsWith('/watch') ? { status: 507, body: { title: 'x', status: 507, detail: 'full' } } : undefined));
    await open(<SleepScreen />);
    await waitFor(() => expect(screen.getByText(/It is not watched now/)).toBeTruthy(), { timeout: 10_000 });
    expect(screen.queryByText(/even with this page closed/)).toBeNull();
  });

  test('an own day is typed; rubbish is told and loses nothing', async () => {
    await open(<SleepScreen />);
    await act(async () => screen.getByTestId('profile-own').click());
    expect(row('profile-drawing')).toBeTruthy();
    await touchRow('paste-demand');
    const field = () => row('demand-text') as HTMLInputElement;
    await act(async () => fireEvent.change(field(), { target: { value: '3 three' } }));
    await touchRow('take-demand');
    expect(screen.getByText(/“three” is no flow/)).toBeTruthy();
    expect(field().value).toBe('3 three');
    await act(async () => fireEvent.change(field(), { target: { value: '3 9,5 0' } }));
    await touchRow('take-demand');
    expect(screen.queryByTestId('demand-text')).toBeNull();
    expect(screen.getByText('3 times a day')).toBeTruthy();
  });

  test('a sleep speed that never comes is told with the one that does, which one touch takes', async () => {
    await open(<SleepScreen />);
    expect(screen.getByText(/It comes down to 41\.0/)).toBeTruthy();
    await touchText('Sleep below 42.0 Hz');
    await settled();
    expect(draft('10e')).toBe(42);
    expect(screen.queryByText(/never falls asleep/)).toBeNull();
  });
});

describe('Guards', () => {
  test('a guard that acts while the page is open is seen and counted; with another draft it does not count', async () => {
    standsAs(server, 'P-11', { '11d': 50, '11c': 40, '11e': 5 });
    await open(<GuardsScreen />);
    await says({ torque: -33 });
    expect(row('load-now').textContent).toContain('33');
    const dry = present(trips.find((t) => t.cause === 'dryRun'));
    await says({ state: 'tripped', trip: { code: dry.code, name: dry.name, sentence: dry.sentence } });
    await touchText('Count it: seen to act');
    await settled();
    expect(proofs()).toEqual([['guards', 'dryRun', 'tripped: Ran dry']]);
    await type('setting-11e', '8');
    await settled();
    expect(screen.queryByText('Count it: seen to act')).toBeNull();
  });

  test('one that goes by a load nobody has measured says so, and before the run against the shut valve it has to be confirmed', async () => {
    standsAs(server, 'P-11', { '11d': 50 });
    await open(<GuardsScreen />);
    expect(screen.getByText(/that was never measured: the guard never acts/)).toBeTruthy();
    expect(screen.queryByTestId('hold')).toBeNull();
    await says({ state: 'ready', outputFrequency: 0 });
    await touchRow('shut-run');
    expect(row('hold').textContent).toContain('First confirm that it may turn');
    expect(row('clear').textContent).toMatch(/will turn while you hold, from 3\d\.\d Hz up to 4\d\.\d Hz/);
  });

  test('what a run against the shut valve showed is taken into the draft by one touch', async () => {
    // torque ∝ n²: 36 % at 42.43 Hz is 50 % at 50 Hz
    act(() => noteFound('P-11', { shut: [30, 42.4264].map((f) => ({ frequency: f, feedback: 30, torque: 50 * (f / 50) ** 2 })) }));
    await open(<GuardsScreen />);
    await touchText('Take it into the draft');
    await settled();
    expect(draft('11c')).toBe(50);
  });
});

test('a pump that comes, one that goes, and one that is replaced are seen and counted', async () => {
  mockRoute.tag = 'P-41';
  await open(<StationScreen />);
  await says({ pumps: [1] });
  await says({ pumps: [1, 2] });
  await says({ pumps: [2] });
  await says({ pumps: [3] });
  await touchText('Count it: another comes and goes');
  await touchText('Count it: a lost one is replaced');
  await settled();
  expect(proofs()).toEqual([
    ['station', 'staging', 'pump 1 and 2 ran together, then pump 2'],
    ['station', 'replaced', 'pump 2 was replaced by pump 3'],
  ]);
});

test('emergency ventilation says what it costs before it is set, and its test is dated with the next one', async () => {
  mockRoute.tag = 'F-32';
  standsAs(server, 'F-32', { '24/1': 45, '24/4': 2 });
  await open(<EmergencyScreen />);
  expect(screen.getByRole('alert').textContent).toContain('makers refuse the warranty');
  await says({});
  await says({ doing: 'emergency', outputFrequency: 45 });
  expect(screen.getAllByRole('alert').map((a) => a.textContent)[0]).toContain('It runs in emergency now');
  await says({ doing: 'emergency', outputFrequency: 45 }, 30_000);
  await says({ state: 'ready', outputFrequency: 0 });
  // the drive's log is read again with its settings
  await act(async () => {
    standsAs(server, 'F-32', { '24/1': 45, '24/4': 2, '24/8': 2 });
    await queryClient.invalidateQueries();
  });
  await settled();
  await touchText('Count it: tested today');
  await settled();
  expect(proofs()).toEqual([
    ['emergency', 'emergency', 'ran in emergency for 31 s at up to 45.0 Hz and ended with its contact; ran on through 2 trips'],
  ]);
});

test('machines and families that have none of it say so', async () => {
  mockRoute.tag = 'M-55';
  await open(<GuardsScreen />);
  expect(screen.getByText(/watches its motor and itself/)).toBeTruthy();
});

test('what a drive does by itself stands in the strip of every page, before who has command', async () => {
  await open(<GuardsScreen />);
  const strip = () => row('state-strip').textContent;
  for (const [doing, text] of [
    ['resting', 'Guard: starts again by itself'],
    ['cleaning', 'Cleans itself'],
    ['emergency', 'Emergency: no stop counts'],
    ['standby', 'Others run; it may start'],
  ] as const) {
    await says({ doing });
    expect(strip()).toContain(text);
  }
  await says({});
  expect(strip()).toContain('Command: Terminals');
});
