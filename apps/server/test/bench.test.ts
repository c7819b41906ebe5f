import { problemCodes } from '@yare/contract/problemCodes';
import { demoPlant } from '@yare/demo-plant';
import { present } from '@yare/core';
import { bookById } from '@yare/books';
import type { BenchView, MachineDetail } from '@yare/contract';
import { buildApp } from '../src/app';
import { connect } from '../src/db/connect';
import { seedDemoPlant } from '../src/db/seed';
import { startStack, until, type Stack } from './stack';

let stack: Stack;
beforeAll(async () => {
  stack = await startStack();
});
afterAll(() => stack.stop());

const author = 'Ines Calder';
const view = async (tag: string): Promise<BenchView> => (await stack.app.inject({ url: `/api/v1/machines/${tag}/bench` })).json();
const act = (tag: string, body: object) => stack.app.inject({ method: 'POST', url: `/api/v1/machines/${tag}/bench`, payload: { author, ...body } });
const live = (tag: string) =>
  stack.app.inject({ url: `/api/v1/health` }).then(() => present(stack.bench.drives.get(present(demoPlant.find((m) => m.tag === tag)).unitId)));

test('the plant side is seen and worked through the server; the drive’s registers know nothing of it', async () => {
  const before = await view('P-11');
  expect(before).toMatchObject({ tag: 'P-11', kind: 'pump', powered: true, pace: 1 });
  expect(before.panel.map((d) => d.id)).toEqual(['mode', 'knob', 'reset', 'clean', 'stop', 'keyStart', 'keyStop']);
  const after = (await act('P-11', { handles: { demand: 30 }, panel: { mode: 0 } })).json<BenchView>();
  expect(present(after.handles.find((h) => h.id === 'demand')).value).toBeCloseTo(30, 9);
  await until(async () => (await live('P-11')).running);
  await act('P-11', { panel: { mode: 1 } });
});

test('a fault is armed, noted with its author, and put right', async () => {
  expect((await act('P-42', { fault: { id: 'external', trigger: 'now' } })).statusCode).toBe(200);
  await until(async () => (await live('P-42')).machine.trip?.cause === 'externalTrip');
  const audit = (await stack.app.inject({ url: '/api/v1/audit?tag=P-42' })).json<{
    events: Array<{ action: string; author: string; detail: object }>;
  }>();
  expect(audit.events[0]).toMatchObject({ action: 'bench', author, detail: { fault: { id: 'external', trigger: 'now' } } });
  await act('P-42', { fault: { id: 'external', trigger: null } });
  expect(present((await view('P-42')).faults.find((f) => f.id === 'external')).state).toBe('off');
});

test('what is not there is refused with a sentence, and bad input changes nothing', async () => {
  const refused = await act('P-11', { handles: { feed: 4 } });
  expect(refused.statusCode).toBe(422);
  expect(refused.json<{ detail: string }>().detail).toBe('P-11 has no handle "feed".');
  expect((await act('P-11', { pace: 7 })).statusCode).toBe(400);
  expect((await act('P-11', { fault: { id: 'dip', trigger: 'whenever' } })).statusCode).toBe(400);
  expect((await act('X-99', {})).statusCode).toBe(404);
  expect((await view('P-11')).pace).toBe(1);
});

test('a plant without a bench says so; a bench that is away is told from one that is not there', async () => {
  const without = await buildApp({ db: stack.db, drives: { host: '127.0.0.1', port: 1 } });
  const away = await buildApp({ db: stack.db, drives: { host: '127.0.0.1', port: 1 }, plant: { host: '127.0.0.1', port: 1 } });
  const none = await without.inject({ url: '/api/v1/machines/P-11/bench' });
  expect([none.statusCode, none.json().type]).toEqual([404, problemCodes.noBench]);
  const answer = await away.inject({ url: '/api/v1/machines/P-11/bench' });
  expect(answer.statusCode).toBe(424);
  expect(answer.json<{ detail: string }>().detail).toContain('does not answer');
  await without.close();
  await away.close();
});

describe('what was learned', () => {
  const put = (body: object) => stack.app.inject({ method: 'PUT', url: '/api/v1/machines/C-21/learned', payload: { author, ...body } });
  const detail = async () => (await stack.app.inject({ url: '/api/v1/machines/C-21' })).json<MachineDetail>();
  test('is kept as revisions with author and recording, and put aside again', async () => {
    expect((await detail()).learned).toBeNull();
    const values = { inertia: { times: 1.2, spread: 0.03 } };
    expect((await put({ recordingId: null, values })).json()).toMatchObject({ revision: 1, values, alsoRecordingId: null, author });
    expect((await detail()).learned).toMatchObject({ revision: 1, values });
    expect((await put({ recordingId: null, values: null })).json()).toMatchObject({ revision: 2, values: null });
    await expect(stack.db('learned_revisions').update({ author: 'somebody else' })).rejects.toThrow('history');
  });
  test('needs a recording of this machine, and figures that can be', async () => {
    expect((await put({ recordingId: 4711, values: null })).statusCode).toBe(404);
    expect((await put({ recordingId: null, alsoRecordingId: 4711, values: null })).statusCode).toBe(404);
    expect((await put({ recordingId: null, values: { inertia: { times: -1, spread: 0 } } })).statusCode).toBe(400);
  });
});

test('an older demo plant is brought to the families the bench has now; what people chose is kept where it still exists', async () => {
  const db = connect(stack.url);
  const machine = present(await db('machines').where({ tag: 'F-32' }).first());
  const old = present(await db('sheets').where({ machine_id: machine.id, kind: 'draft' }).first());
  await db('machines').where({ tag: 'F-32' }).update({ book_id: 'osier-g', size: 'G30' });
  const p11 = present(await db('machines').where({ tag: 'P-11' }).first());
  await db('sheets')
    .where({ machine_id: p11.id, kind: 'draft' })
    .update({ values: JSON.stringify({ '3a': { value: 8.8, source: 'chosen', author, at: 'x' } }) });
  await seedDemoPlant(db);
  const now = present(await db('machines').where({ tag: 'F-32' }).first());
  expect(now.book_id).toBe('sallow');
  const draft = present(await db('sheets').where({ machine_id: machine.id, kind: 'draft' }).first());
  expect(draft.revision).toBe(old.revision + 1);
  expect(Object.keys(draft.values)).toHaveLength(bookById('sallow').settings.length);
  const kept = present(await db('sheets').where({ machine_id: p11.id, kind: 'draft' }).first());
  expect(present(kept.values['3a']).value).toBe(8.8);
  expect(present(kept.values['10a']).value).toBe(42);
  await db.destroy();
});
