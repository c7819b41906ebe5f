import { present } from '@yare/core';
import type { RecordingMeta } from '@yare/contract';
import { tidyRecordings } from '../src/recordings/keeping';
import { recordingData, storeRecording } from '../src/recordings/recordings';
import { machineByTag } from '../src/machines/machines';
import { startStack, type Stack } from './stack';

/** Recordings go by a rule the plant sets, or by hand with a reason; what rests on one keeps it. */
let stack: Stack;
beforeAll(async () => {
  stack = await startStack();
});
afterAll(() => stack.stop());

const author = 'Ines Calder';
const call = (method: 'GET' | 'POST' | 'PUT', path: string, payload?: object) =>
  stack.app.inject({ method, url: `/api/v1${path}`, ...(payload && { payload: { author, ...payload } }) });
const day = 86_400_000;
const now = Date.now();

/** Ten seconds at twenty samples a second, so many days old. */
async function made(age: number, kind: RecordingMeta['kind'] = 'run'): Promise<number> {
  const { id } = await machineByTag(stack.db, 'P-11');
  const time = Array.from({ length: 201 }, (_, i) => i / 20);
  return storeRecording(stack.db, id, {
    ...{ kind, title: `${age} days old`, author, startedAt: now - age * day, time },
    channels: [{ key: 'f', name: 'Output', unit: 'Hz', decimals: 2 }],
    values: [time.map((t) => 5 * t)],
    marks: [{ time: 5, label: 'Here' }],
  });
}
const there = async (id: number) => (await call('GET', `/recordings/${id}`)).statusCode === 200;

test('by hand: with a reason, which stays in the log with who and what it was', async () => {
  const id = await made(1);
  expect((await call('POST', `/recordings/${id}/remove`, { why: '' })).statusCode).toBe(400);
  expect(await there(id)).toBe(true);
  expect((await call('POST', `/recordings/${id}/remove`, { why: 'wrong machine' })).statusCode).toBe(200);
  expect(await there(id)).toBe(false);
  expect(await stack.db('recording_chunks').where({ recording_id: id })).toEqual([]);
  expect((await call('GET', '/audit?tag=P-11')).json().events[0]).toMatchObject({
    author,
    action: 'remove recording',
    detail: { recording: id, why: 'wrong machine', title: '1 days old', samples: 201 },
  });
  expect((await call('POST', `/recordings/${id}/remove`, { why: 'again' })).statusCode).toBe(404);
});

test('what a trip or a model rests on stays, and so does one that is being made', async () => {
  const { id: machine_id } = await machineByTag(stack.db, 'P-11');
  const [trend, fitted, open] = [await made(2), await made(2), await made(2)];
  await stack.db('trips').insert({ machine_id, source: 'link', name: 'Trip', snapshot: '{}', answers: '{}', trend_id: trend } as never);
  await stack.db('learned_revisions').insert({ machine_id, revision: 1, values: '{}', author, recording_id: fitted } as never);
  await stack.db('recordings').where({ id: open }).update({ complete: false });
  for (const [id, why] of [
    [trend, 'the case of a trip'],
    [fitted, 'the model of its machine'],
    [open, 'still being made'],
  ] as const) {
    const answer = await call('POST', `/recordings/${id}/remove`, { why: 'no longer needed' });
    expect([answer.statusCode, answer.json().detail]).toEqual([409, expect.stringContaining(why)]);
    expect(await there(id)).toBe(true);
  }
  // nor does the rule
  await call('PUT', '/keeping', { wholeDays: 7, thinnedDays: 0 });
  await tidyRecordings(stack.db, now + 100 * day);
  await tidyRecordings(stack.db, now + 100 * day);
  expect([await there(trend), await there(fitted), await there(open)]).toEqual([true, true, true]);
  expect((await recordingData(stack.db, trend)).time).toHaveLength(201);
});

test('by the rule: whole for so long, then a sample a second, then gone; before there is one, always', async () => {
  await stack.db('keeping').delete();
  const [old, young] = [await made(40), await made(5)];
  expect((await call('GET', '/keeping')).json()).toEqual({ wholeDays: null, thinnedDays: null });
  expect(await tidyRecordings(stack.db, now)).toEqual({ thinned: 0, removed: 0 });
  expect((await call('PUT', '/keeping', { wholeDays: 3, thinnedDays: null })).statusCode).toBe(400);
  expect((await call('PUT', '/keeping', { wholeDays: 30, thinnedDays: 60 })).json()).toEqual({ wholeDays: 30, thinnedDays: 60 });
  expect(await tidyRecordings(stack.db, now)).toEqual({ thinned: 1, removed: 0 });
  const { meta, time, data } = await recordingData(stack.db, old);
  expect(time).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10]);
  expect(data.f).toEqual(time.map((t) => 5 * t));
  expect(meta.marks.map((m) => m.label)).toEqual(['Thinned to one sample a second; there were 201', 'Here']);
  expect(meta.samples).toBe(11);
  expect((await recordingData(stack.db, young)).time).toHaveLength(201);
  // done once
  expect(await tidyRecordings(stack.db, now)).toEqual({ thinned: 0, removed: 0 });
  expect(await tidyRecordings(stack.db, now + 51 * day)).toMatchObject({ removed: 1 });
  expect([await there(old), await there(young)]).toEqual([false, true]);
  const log = (await call('GET', '/audit')).json().events.map((e: { action: string }) => e.action);
  expect(log).toEqual(expect.arrayContaining(['keep recordings', 'thin recording', 'remove recording']));
  expect(present((await stack.db('audit_events').where({ action: 'remove recording' }).orderBy('id', 'desc'))[0]).author).toBe('Server');
});
