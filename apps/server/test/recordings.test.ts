import { readComtrade, toBase64 } from '@yare/commissioning/recording';
import type { Arming, MachineDetail, RecorderStatus, RecordingMeta, RecordingPage, TripDetail } from '@yare/contract';
import { present, tripMachine } from '@yare/core';
import { ArmedRecorders } from '../src/recordings/armed';
import { isPlain } from '../src/recordings/imported';
import { recorded, startStack, until, type Stack } from './stack';

let stack: Stack;
beforeAll(async () => {
  stack = await startStack();
});
afterAll(() => stack.stop());

const author = 'Ines Calder';
const ask = async (method: 'GET' | 'POST' | 'PUT', path: string, payload?: object) =>
  stack.app.inject({ method, url: `/api/v1${path}`, ...(payload && { payload: { author, ...payload } }) });
const get = async <T>(path: string): Promise<T> => (await ask('GET', path)).json();
const recorder = (tag: string) => get<RecorderStatus>(`/machines/${tag}/recorder`);
const arming = (more: Partial<Arming>): Arming => ({
  ...{ trigger: { kind: 'now' }, channels: ['busVoltage', 'outputFrequency', 'reference'], before: 0, after: 2, every: 20, again: false },
  ...more,
});

describe('an armed recorder', () => {
  test('samples the link fifty times a second, with the channels that were asked for, and is done', async () => {
    await ask('POST', '/machines/P-11/recorder', { arming: arming({}) });
    expect((await recorder('P-11')).armed).toMatchObject({ author, arming: { every: 20 } });
    await until(async () => (await recorder('P-11')).armed === null);
    const { meta, time, data } = await recorded(stack.app, present((await recorder('P-11')).lastId));
    expect(meta.channels.map((c) => c.key)).toEqual(['busVoltage', 'outputFrequency', 'reference']);
    expect(meta).toMatchObject({ complete: true, author, kind: 'recorder' });
    expect(time.at(-1)).toBeGreaterThanOrEqual(1.9);
    expect(time.at(-1)).toBeLessThan(4);
    // every sample is one of the link, and asked for at 20 ms; a busy machine may be slower, and then says so in its times
    expect(time.length).toBeGreaterThan(25);
    expect(time.length).toBeLessThan(130);
    expect(present(data.busVoltage).every((v) => v > 500 && v < 650)).toBe(true);
  });

  test('keeps what came before its trigger, and marks trigger and trip', async () => {
    await ask('POST', '/machines/F-32/recorder', { arming: arming({ trigger: { kind: 'trip' }, before: 2, after: 1 }) });
    await until(async () => ((await recorder('F-32')).armed?.held ?? 0) > 1.5);
    const fan = [...stack.bench.drives.values()].find((d) => d.demo.tag === 'F-32');
    tripMachine(present(fan).machine, 'overcurrent');
    await until(async () => (await recorder('F-32')).armed === null);
    const { meta, time } = await recorded(stack.app, present((await recorder('F-32')).lastId));
    const trigger = present(meta.marks.find((m) => m.label === 'Trigger'));
    expect(meta.title).toBe('Recorded when the drive trips');
    expect(trigger.time).toBeGreaterThan(1);
    expect(present(time.at(-1)) - trigger.time).toBeGreaterThan(0.8);
  });

  test('outlives the server, and is ended by anybody with what it has', async () => {
    await ask('POST', '/machines/C-07/recorder', { arming: arming({ trigger: { kind: 'state', state: 'running' } }) });
    const row = await stack.db('machines').where({ tag: 'C-07' }).first('armed');
    expect(row?.armed).toMatchObject({ author, arming: { trigger: { kind: 'state' } } });
    const paced: Array<[string, number | null]> = [];
    const fleet = { onSample: () => () => undefined, station: () => ({}), pace: (tag: string, every: number | null) => paced.push([tag, every]) };
    const again = new ArmedRecorders(stack.db, fleet as never, { full: async () => null } as never, () => undefined);
    await again.restore();
    expect(again.status('C-07').armed?.arming.trigger).toEqual({ kind: 'state', state: 'running' });
    expect(paced).toEqual([['C-07', 20]]);
    expect((await ask('POST', '/machines/C-07/recorder/end', {})).json<RecorderStatus>().armed).toBeNull();
    expect((await stack.db('machines').where({ tag: 'C-07' }).first('armed'))?.armed).toBeNull();
  });

  test('a channel the link does not tell is refused, and nothing is armed', async () => {
    const answer = await ask('POST', '/machines/P-41/recorder', { arming: arming({ channels: ['vibration'] }) });
    expect(answer.statusCode).toBe(422);
    expect(answer.json()).toMatchObject({ detail: 'The link tells no vibration. Nothing was armed.' });
    expect((await recorder('P-41')).armed).toBeNull();
  });
});

describe('a recording of another instrument', () => {
  const time = Float64Array.from({ length: 50 }, (_, i) => i / 10);
  const file = (more: object = {}) => ({
    ...{ title: 'Scope', startedAt: '2026-03-14T07:00:00.000Z', marks: [{ time: 4.5, label: 'it went' }] },
    channels: [
      { key: 'busVoltage', name: 'DC bus', unit: 'V', decimals: 0 },
      { key: 'vibration', name: 'Vibration', unit: 'mm/s', decimals: 1 },
    ],
    time: toBase64(time),
    values: [toBase64(Float32Array.from(time, (t) => 560 + t)), toBase64(Float32Array.from(time, (t) => (t === 1 ? NaN : t)))],
    ...more,
  });

  test('is kept with its gaps, and given out as CSV and COMTRADE that say the same', async () => {
    const meta = (await ask('POST', '/machines/P-42/recordings', file())).json<RecordingMeta>();
    expect(meta).toMatchObject({ tag: 'P-42', kind: 'file', title: 'Scope', startedAt: '2026-03-14T07:00:00.000Z', samples: 50, complete: true });
    const { data } = await recorded(stack.app, meta.id);
    expect(data.vibration?.[10]).toBeNaN();
    expect(data.busVoltage?.[40]).toBe(564);
    const csv = (await ask('GET', `/recordings/${meta.id}/csv`)).body;
    expect(csv).toContain('\r\n1.000,561,,\r\n');
    for (const form of ['ASCII', 'BINARY']) {
      const answer = await ask('GET', `/recordings/${meta.id}/comtrade?form=${form}`);
      const read = readComtrade([{ name: 'x.cff', bytes: answer.rawPayload }]);
      if (!read.ok) throw new Error(read.sentence);
      expect(read.recorded.channels).toEqual(meta.channels);
      expect(read.recorded.marks).toEqual(meta.marks);
      expect(read.recorded.values[0]?.[40]).toBeCloseTo(564, 6);
    }
    expect((await get<RecordingPage>('/machines/P-42/recordings')).recordings[0]?.id).toBe(meta.id);
  });

  test('an hour of eight channels at fifty a second is taken in', async () => {
    const long = Float64Array.from({ length: 180_000 }, (_, i) => i / 50);
    const row = toBase64(Float32Array.from(long, (t) => Math.sin(t)));
    const channels = Array.from({ length: 8 }, (_, k) => ({ key: `c${k}`, name: `C ${k}`, unit: 'V', decimals: 3 }));
    const answer = await ask('POST', '/machines/P-43/recordings', file({ channels, time: toBase64(long), values: channels.map(() => row) }));
    expect(answer.statusCode).toBe(200);
    expect(answer.json<RecordingMeta>()).toMatchObject({ samples: 180_000 });
  });

  test.each([
    [{ time: toBase64(time.map((t) => t + 1)) }, /begin at 0/],
    [{ time: toBase64(time.map((t) => (t > 3 ? 3 : t))) }, /begin at 0 and grow/],
    [{ values: [toBase64(Float32Array.from([1, 2]))] }, /2 channels are named and 1 have samples/],
    [{ values: [toBase64(Float32Array.from([1, 2])), toBase64(Float32Array.from(time))] }, /more or fewer samples/],
    [{ marks: [{ time: 99, label: 'late' }] }, /A mark lies after its end at 4\.9 s/],
    [{ time: 'AAAA' }, /cut off/],
  ])('what is no recording is refused (%#)', async (wrong, sentence) => {
    const answer = await ask('POST', '/machines/P-41/recordings', file(wrong));
    expect(answer.statusCode).toBe(422);
    expect(answer.json<{ detail: string }>().detail).toMatch(sentence);
    expect((await get<RecordingPage>('/machines/P-41/recordings')).recordings).toEqual([]);
  });

  test.each([
    ['text/plain', '{"author":"Ines Calder"}', 415],
    [undefined, undefined, 400],
  ])('what comes as %s is none, and is told', async (type, payload, status) => {
    const answer = await stack.app.inject({
      ...{ method: 'POST', url: '/api/v1/machines/P-11/recordings', ...(payload && { payload }) },
      ...(type && { headers: { 'content-type': type } }),
    });
    expect([answer.statusCode, answer.headers['content-type']]).toEqual([status, expect.stringContaining('problem+json')]);
  });

  test('a trip seen in it begins a case of what came before that second', async () => {
    const meta = (await ask('POST', '/machines/P-42/recordings', file())).json<RecordingMeta>();
    const told = { code: null, snapshot: { busVoltage: 564 }, answers: {}, seenIn: { recordingId: meta.id, at: 4.2 } };
    const made = (await ask('POST', '/machines/P-42/trips', told)).json<TripDetail>();
    expect(made).toMatchObject({ entry: { source: 'recording', at: '2026-03-14T07:00:04.200Z' }, trendId: meta.id, trendTrippedAt: 4.2 });
    const elsewhere = await ask('POST', '/machines/P-41/trips', told);
    expect(elsewhere.statusCode).toBe(422);
  });

  test('a model fitted to two of them is kept with both, and with none of another machine', async () => {
    const taken = async () => (await ask('POST', '/machines/P-42/recordings', file())).json<RecordingMeta>();
    const a = await taken();
    const b = await taken();
    const kept = { recordingId: b.id, alsoRecordingId: a.id, values: { inertia: { times: 1.1, spread: 0.03 } } };
    expect((await ask('PUT', '/machines/P-42/learned', kept)).json()).toMatchObject({ recordingId: b.id, alsoRecordingId: a.id });
    expect(await get<MachineDetail>('/machines/P-42')).toMatchObject({ learned: { recordingId: b.id, alsoRecordingId: a.id } });
    expect((await ask('PUT', '/machines/P-41/learned', kept)).statusCode).toBe(404);
  });
});

test('what has more parts or levels than any recording is refused before any of it is made', async () => {
  const plain = (text: string) => isPlain(Buffer.from(text));
  expect(plain('{"a":[1,2,{"b":"[[[[[[[[[[[[ \\" {{{{{{{{{{"}]}')).toBe(true);
  expect(plain('['.repeat(9))).toBe(false);
  expect(plain(`[${'[],'.repeat(20_001)}0]`)).toBe(false);
  const deep = `${'['.repeat(500_000)}${']'.repeat(500_000)}`;
  const answer = await stack.app.inject({
    ...{ method: 'POST', url: '/api/v1/machines/P-42/recordings', headers: { 'content-type': 'application/json' }, payload: deep },
  });
  expect([answer.statusCode, answer.json().detail]).toEqual([400, 'The request holds more parts than any recording has. Nothing was taken in.']);
});
