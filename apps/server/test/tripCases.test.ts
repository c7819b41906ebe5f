import { present, tripMachine, nth } from '@yare/core';
import type { TripDetail, TripEntry } from '@yare/contract';
import { recorded, startStack, until, type Stack } from './stack';

let stack: Stack;
beforeAll(async () => {
  stack = await startStack();
});
afterAll(() => stack.stop());

const author = 'Ines Calder';
const get = async <T>(path: string): Promise<T> => (await stack.app.inject({ method: 'GET', url: `/api/v1${path}` })).json();
const send = async <T>(method: 'POST' | 'PUT', path: string, payload: object): Promise<T> =>
  (await stack.app.inject({ method, url: `/api/v1${path}`, payload: { author, ...payload } })).json();
const trips = async (tag: string): Promise<TripEntry[]> => (await get<{ trips: TripEntry[] }>(`/trips?tag=${tag}`)).trips;
const pump = () => present(stack.bench.drives.get(1));

test('a trip is kept with the drive’s own record, its last moments and what the link told before and after', async () => {
  const watcher = await stack.ready(author, 'P-11');
  pump().panel.state.mode = 0;
  await until(() => watcher.live('P-11')?.state === 'running' && pump().machine.frequency > 8);
  tripMachine(pump().machine, 'overcurrent');
  await until(async () => (await trips('P-11')).length === 1);
  const [entry] = await trips('P-11');
  expect(entry).toMatchObject({ tag: 'P-11', source: 'link', cause: 'overcurrent', seen: true, closed: null });
  await until(async () => (await get<TripDetail>(`/trips/${present(entry).id}`)).afterwards !== null);
  const detail = await get<TripDetail>(`/trips/${present(entry).id}`);
  const at = nth(pump().tripMemory.keptState().records, 0);
  expect(detail.snapshot.outputFrequency).toBeCloseTo(present(at.outputFrequency), 1);
  expect(detail.snapshot.busVoltage).toBeCloseTo(present(at.busVoltage), -1);
  expect(detail.snapshot.since).toBeGreaterThan(0);
  expect(Object.keys(present(detail.inDrive)).length).toBeGreaterThan(100);
  const trace = await recorded(stack.app, present(detail.traceId));
  expect(trace.meta.kind).toBe('trip');
  // two seconds, or as long as the bench has been there
  expect(trace.time.length).toBeGreaterThan(500);
  expect(trace.time.length).toBeLessThanOrEqual(2000);
  expect(trace.data.motorCurrent?.at(-1)).toBeCloseTo(pump().machine.trip?.current ?? 0, 0);
  const trend = await recorded(stack.app, present(detail.trendId));
  expect(trend.data.outputFrequency?.at(-1)).toBeGreaterThan(5);
  expect((await get<{ caseId: number }>('/machines/P-11/trip')).caseId).toBe(entry?.id);
});

test('a trip nobody saw is found out by the drive’s own count when the link is there again', async () => {
  pump().panel.state.mode = 1;
  pump().plant.wiring.linkCut = true;
  const watcher = await stack.device(author);
  await until(() => watcher.live('P-11')?.link === 'down');
  pump().machine.trip = null;
  await until(() => pump().machine.trip === null);
  tripMachine(pump().machine, 'undervoltage');
  await until(() => pump().tripMemory.trips === 2);
  pump().plant.wiring.linkCut = false;
  await until(async () => (await trips('P-11')).length === 2);
  expect((await trips('P-11'))[0]).toMatchObject({ cause: 'undervoltage', seen: false });
});

test('answers are given and taken back, a case is closed once and opened again, a note stays with the machine', async () => {
  const told = await send<TripDetail>('POST', '/machines/M-55/trips', { code: 1, snapshot: { busVoltage: 805 }, answers: { moment: 'stopping' } });
  expect(told).toMatchObject({ entry: { source: 'display', cause: 'overvoltage' }, answers: { moment: 'stopping' } });
  expect(told.snapshot).toMatchObject({ busVoltage: 805, torque: null });
  const id = told.entry.id;
  const answered = await send<TripDetail>('POST', `/trips/${id}/answers`, { answers: { lineVoltage: 'right', moment: null } });
  expect(answered.answers).toEqual({ lineVoltage: 'right' });
  const closing = { cause: 'stop too short', cure: 'Deceleration 12 s', proof: 'stopped three times' };
  expect(await send('POST', `/trips/${id}/close`, closing)).toMatchObject({ entry: { closed: { ...closing, author } } });
  expect(await send('POST', `/trips/${id}/close`, closing)).toMatchObject({ status: 409 });
  expect(await send('POST', `/trips/${id}/reopen`, {})).toMatchObject({ entry: { closed: null } });
  await send('PUT', '/machines/M-55/note', { note: 'Key of the panel hangs in the office.' });
  expect((await get<TripDetail>(`/trips/${id}`)).note).toBe('Key of the panel hangs in the office.');
  expect(await get('/trips/9999')).toMatchObject({ status: 404 });
  expect(await send('POST', '/machines/M-55/trips', { code: null, snapshot: {}, answers: {} })).toMatchObject({
    entry: { source: 'words', cause: null },
  });
});

test('the plant side is measured by name, and a drill hides what it is until it is over', async () => {
  expect(await get('/machines/P-11/bench/readings/turnByHand')).toEqual({ outcome: 'turns freely' });
  expect(await get('/machines/P-11/bench/readings/moon')).toMatchObject({ status: 404 });
  const begun = await send<{ drill: object; faults: Array<{ state: string }> }>('POST', '/machines/C-07/bench', { drill: 'begin' });
  expect(begun.drill).toEqual({ on: true, was: null });
  expect(begun.faults.every((f) => f.state === 'off')).toBe(true);
  expect(await send('POST', '/machines/C-07/bench', { drill: 'begin' })).toMatchObject({ status: 422 });
  const ended = await send<{ drill: { on: boolean; was: string } }>('POST', '/machines/C-07/bench', { drill: 'end' });
  expect(ended.drill).toMatchObject({ on: false, was: expect.any(String) });
});
