import type { ClientMessage, LiveSample, ServerMessage } from '@yare/contract';
import { present } from '@yare/core';
import { live } from '../src/data/live';
import { FakeSocket, liveSample, socketNow } from './fakeSocket';

const now = socketNow;
const of = (kind: ClientMessage['kind']) => now().sent.filter((m) => m.kind === kind);
const run = () => live.runs.get('P-11');
/** What the server says of a run, its own number by default. */
const told = (change: Partial<Extract<ServerMessage, { kind: 'run' }>>) =>
  now().hear({ kind: 'run', tag: 'P-11', run: runs, mine: true, phase: 'running', recordingId: null, cause: null, reason: null, ...change });
let runs = 0;
let tickets = 0;
/** A press with the ticket the server gave for it. */
const press = () => {
  runs += 1;
  now().hear({ kind: 'ticket', ticket: `t${++tickets}` });
  return live.hold('P-11', 10);
};
const sample = (at: number, outputFrequency: number): LiveSample => liveSample('P-11', at, { state: 'running', outputFrequency });

beforeAll(() => {
  jest.useFakeTimers();
  Object.assign(globalThis, { WebSocket: FakeSocket });
  live.subscribe(() => undefined);
  now().onopen?.();
});
afterEach(() => live.letGo());

test('a hold is repeated until let go, then released once', () => {
  expect(press()).toBe(true);
  jest.advanceTimersByTime(600);
  expect(of('begin')).toEqual([expect.objectContaining({ tag: 'P-11', frequency: 10, ticket: `t${tickets}` })]);
  expect(of('repeat').length).toBe(4);
  expect(new Set(of('repeat').map((m) => (m as { ticket: string }).ticket))).toEqual(new Set([`t${tickets}`]));
  live.letGo();
  jest.advanceTimersByTime(600);
  expect(of('repeat').length).toBe(4);
  expect(of('release')).toEqual([{ kind: 'release', ticket: `t${tickets}` }]);
});

test('a ticket serves for one press: without another nothing is asked for', () => {
  press();
  live.letGo();
  const before = now().sent.length;
  expect(live.hold('P-11', 10)).toBe(false);
  expect(now().sent.length).toBe(before);
  // a press that did nothing says so
  expect(run()).toMatchObject({ phase: 'refused', mine: true, sentence: expect.stringContaining('press again') });
});

test('only one hold at a time', () => {
  press();
  expect(live.hold('C-07', 10)).toBe(false);
});

test('a refusal ends the repeating and gives the sentence', () => {
  press();
  now().hear({ kind: 'refused', tag: 'P-11', code: 'claimed', sentence: 'Tom Reed has command.' });
  const before = of('repeat').length;
  jest.advanceTimersByTime(500);
  expect(of('repeat').length).toBe(before);
  expect(run()).toMatchObject({ phase: 'refused', sentence: 'Tom Reed has command.' });
});

test('when the server says the run is stopping, holding on does not ask again', () => {
  press();
  told({ phase: 'stopping', recordingId: 3, cause: 'tripped', reason: 'the drive tripped' });
  const before = of('repeat').length;
  jest.advanceTimersByTime(500);
  expect(of('repeat').length).toBe(before);
  expect(run()).toMatchObject({ phase: 'stopping', sentence: 'the drive tripped', recordingId: 3, mine: true });
});

test('the reason this page knows is not overwritten by a plain release', () => {
  press();
  live.letGo('the screen was hidden');
  told({ phase: 'ended', recordingId: 4, cause: 'let go', reason: 'let go' });
  expect(run()).toMatchObject({ sentence: 'the screen was hidden', phase: 'ended' });
});

test('what is still told of the run before does not touch the press in hand', () => {
  press();
  told({ phase: 'ended', recordingId: 5, cause: 'let go', reason: 'let go' });
  const before = runs;
  press();
  // its recording is closed only now
  told({ run: before, phase: 'ended', recordingId: 5, cause: 'let go', reason: 'let go' });
  expect(run()).toMatchObject({ phase: 'asking', recordingId: null });
  expect(live.isHolding).toBe(true);
});

test('somebody else’s run is not mine', () => {
  told({ run: 900, mine: false, recordingId: 9 });
  expect(run()).toMatchObject({ mine: false });
});

test('a hidden page lets go', () => {
  press();
  Object.defineProperty(document, 'hidden', { configurable: true, value: true });
  document.dispatchEvent(new Event('visibilitychange'));
  Object.defineProperty(document, 'hidden', { configurable: true, value: false });
  expect(live.isHolding).toBe(false);
  expect(present(run()).sentence).toBe('the screen was hidden');
});

test('samples make a trend in order of time, and a lost link clears what is on screen', () => {
  now().hear({ kind: 'live', samples: [sample(1000, 1)] });
  now().hear({ kind: 'live', samples: [sample(1100, 2)] });
  now().hear({ kind: 'live', samples: [sample(1100, 3)] });
  expect(present(live.trends.get('P-11')).outputFrequency).toEqual([1, 2]);
  expect(present(live.samples.get('P-11')).outputFrequency).toBe(3);
  press();
  now().close();
  expect(live.connected).toBe(false);
  expect(live.isHolding).toBe(false);
  expect(live.samples.size).toBe(0);
  expect(live.hold('P-11', 10)).toBe(false);
});

test('it opens again after a loss and watches what it watched, holding nothing', async () => {
  const stop = live.watch(['P-11']);
  const before = FakeSocket.all.length;
  jest.advanceTimersByTime(1100);
  expect(FakeSocket.all.length).toBeGreaterThan(before - 1);
  now().onopen?.();
  await Promise.resolve();
  expect(of('watch').at(-1)).toEqual({ kind: 'watch', tags: ['P-11'] });
  jest.advanceTimersByTime(1000);
  expect(of('repeat')).toEqual([]);
  stop();
});

test('a run that ended while the link to the server was away is over once its drive answers to its terminals', () => {
  press();
  told({ phase: 'running' });
  now().close();
  expect(run()).toMatchObject({ phase: 'stopping', sentence: 'the link to the server was lost' });
  jest.advanceTimersByTime(1000);
  now().onopen?.();
  const says = (change: Partial<LiveSample>) => now().hear({ kind: 'live', samples: [liveSample('P-11', Date.now(), change)] });
  says({ holder: 'here' });
  expect(run()).toMatchObject({ phase: 'stopping' });
  says({ holder: 'terminals' });
  expect(run()).toMatchObject({ phase: 'ended', mine: true, sentence: 'the link to the server was lost' });
  // the server may still tell it with its recording
  told({ phase: 'ended', recordingId: 7 });
  expect(run()).toMatchObject({ phase: 'ended', recordingId: 7 });
});

test('a machine the server no longer speaks of is told as old within two seconds, and the others stay', () => {
  const stop = live.watch(['P-11', 'C-07']);
  now().hear({ kind: 'live', samples: [sample(5000, 20), liveSample('C-07', 5000, { state: 'running', outputFrequency: 30 })] });
  FakeSocket.mute.add('P-11');
  jest.advanceTimersByTime(1600);
  expect(live.samples.get('P-11')).toMatchObject({ link: 'up', outputFrequency: 20 });
  jest.advanceTimersByTime(400);
  expect(live.samples.get('P-11')).toMatchObject({ link: 'down', state: 'no link', outputFrequency: 0 });
  expect(live.samples.get('C-07')).toMatchObject({ link: 'up', outputFrequency: 30 });
  FakeSocket.mute.clear();
  jest.advanceTimersByTime(1000);
  expect(live.samples.get('P-11')).toMatchObject({ link: 'up', outputFrequency: 20 });
  stop();
});

test('a server that says nothing for two seconds counts as lost', () => {
  expect(live.connected).toBe(true);
  press();
  jest.advanceTimersByTime(4000);
  // one that answers pings is there however long nothing else is said
  expect(live.isHolding).toBe(true);
  FakeSocket.silent = true;
  jest.advanceTimersByTime(2000);
  expect(live.isHolding).toBe(false);
  FakeSocket.silent = false;
});
