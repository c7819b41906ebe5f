import type { ClientMessage, LiveSample } from '@yare/contract';
import { live } from '../src/data/live';
import { FakeSocket, liveSample, socketNow } from './fakeSocket';

const now = socketNow;
const of = (kind: ClientMessage['kind']) => now().sent.filter((m) => m.kind === kind);
const run = () => live.runs.get('P-11');
const sample = (at: number, outputFrequency: number): LiveSample => liveSample('P-11', at, { state: 'running', outputFrequency });

beforeAll(() => {
  jest.useFakeTimers();
  globalThis.WebSocket = FakeSocket as unknown as typeof WebSocket;
  live.subscribe(() => undefined);
  now().onopen?.();
});
afterEach(() => live.letGo());

test('a hold is repeated until let go, then released once', () => {
  expect(live.hold('P-11', 10)).toBe(true);
  jest.advanceTimersByTime(600);
  const holds = of('hold');
  expect(holds.length).toBe(5);
  expect(new Set(holds.map((m) => (m as { press: string }).press)).size).toBe(1);
  live.letGo();
  jest.advanceTimersByTime(600);
  expect(of('hold').length).toBe(5);
  expect(of('release').length).toBe(1);
});

test('only one hold at a time', () => {
  live.hold('P-11', 10);
  expect(live.hold('C-07', 10)).toBe(false);
});

test('a refusal ends the repeating and gives the sentence', () => {
  live.hold('P-11', 10);
  now().hear({ kind: 'refused', tag: 'P-11', press: run()!.press, sentence: 'Tom Reed has command.' });
  const before = of('hold').length;
  jest.advanceTimersByTime(500);
  expect(of('hold').length).toBe(before);
  expect(run()).toMatchObject({ phase: 'refused', sentence: 'Tom Reed has command.' });
});

test('when the server says the run is stopping, holding on does not ask again', () => {
  live.hold('P-11', 10);
  now().hear({ kind: 'run', tag: 'P-11', press: run()!.press, phase: 'stopping', recordingId: 3, reason: 'the drive tripped' });
  const before = of('hold').length;
  jest.advanceTimersByTime(500);
  expect(of('hold').length).toBe(before);
  expect(run()).toMatchObject({ phase: 'stopping', sentence: 'the drive tripped', recordingId: 3, mine: true });
});

test('the reason this page knows is not overwritten by a plain release', () => {
  live.hold('P-11', 10);
  const { press } = run()!;
  live.letGo('the screen was hidden');
  now().hear({ kind: 'run', tag: 'P-11', press, phase: 'ended', recordingId: 4, reason: 'let go' });
  expect(run()).toMatchObject({ sentence: 'the screen was hidden', phase: 'ended' });
});

test('somebody else’s run is not mine', () => {
  now().hear({ kind: 'run', tag: 'P-11', press: 'theirs', phase: 'running', recordingId: 9, reason: null });
  expect(run()).toMatchObject({ mine: false });
});

test('a hidden page lets go', () => {
  live.hold('P-11', 10);
  Object.defineProperty(document, 'hidden', { configurable: true, value: true });
  document.dispatchEvent(new Event('visibilitychange'));
  Object.defineProperty(document, 'hidden', { configurable: true, value: false });
  expect(live.isHolding).toBe(false);
  expect(run()!.sentence).toBe('the screen was hidden');
});

test('samples make a trend in order of time, and a lost link clears what is on screen', () => {
  now().hear({ kind: 'live', samples: [sample(1000, 1)] });
  now().hear({ kind: 'live', samples: [sample(1100, 2)] });
  now().hear({ kind: 'live', samples: [sample(1100, 3)] });
  expect(live.trends.get('P-11')!.outputFrequency).toEqual([1, 2]);
  expect(live.samples.get('P-11')!.outputFrequency).toBe(3);
  live.hold('P-11', 10);
  now().close();
  expect(live.connected).toBe(false);
  expect(live.isHolding).toBe(false);
  expect(live.samples.size).toBe(0);
  expect(live.hold('P-11', 10)).toBe(false);
});

test('it opens again after a loss and watches what it watched, holding nothing', () => {
  const stop = live.watch(['P-11']);
  const before = FakeSocket.all.length;
  jest.advanceTimersByTime(1100);
  expect(FakeSocket.all.length).toBeGreaterThan(before - 1);
  now().onopen?.();
  expect(of('watch').at(-1)).toEqual({ kind: 'watch', tags: ['P-11'] });
  jest.advanceTimersByTime(1000);
  expect(of('hold')).toEqual([]);
  stop();
});

test('a server that says nothing for two and a half seconds counts as lost', () => {
  expect(live.connected).toBe(true);
  live.hold('P-11', 10);
  jest.advanceTimersByTime(4000);
  expect(live.isHolding).toBe(false);
});
