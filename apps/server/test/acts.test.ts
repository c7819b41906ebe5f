import Ajv from 'ajv';
import addFormats from 'ajv-formats';
import { ActStep, acts, actCodes, type AuditPage } from '@yare/contract';
import { actSamples } from '../../../packages/contract/test/actSamples';
import { audit, audited } from '../src/audit/audit';
import { actingFor, type Actor } from '../src/door/actor';
import { startStack, type Stack } from './stack';

const ajv = addFormats(new Ajv());
let stack: Stack;
beforeAll(async () => {
  stack = await startStack();
});
afterAll(() => stack.stop());

const newest = async (limit = 1) => (await stack.app.inject({ url: '/api/v1/audit?tag=C-21' })).json<AuditPage>().events.slice(0, limit);

test.each(actCodes)('%s goes into the log and comes out of it as it was', async (code) => {
  await audit(stack.db, 'Ines Calder', code, 'C-21', actSamples[code]);
  expect(await newest()).toMatchObject([{ action: code, author: 'Ines Calder', tag: 'C-21', detail: actSamples[code] }]);
});

test('what a server logs of its own work is what is described', async () => {
  const all = (await stack.app.inject({ url: '/api/v1/audit' })).json<AuditPage>().events;
  const made = (await stack.db('audit_events').orderBy('id')).filter((e) => e.author !== 'Ines Calder');
  expect(all.length).toBeGreaterThan(0);
  expect(made.map((e) => e.action)).toContain('seed');
  for (const { action, detail } of made) expect([action, ajv.validate(acts[action as keyof typeof acts].detail, detail)]).toEqual([action, true]);
});

test('what a person does has their device beside it; what the server notices meanwhile has none', async () => {
  const actor: Actor = { device: { id: 1, name: 'Phone' }, address: '192.0.2.7' };
  await actingFor(actor, () => audit(stack.db, 'Ines Calder', 'note', 'C-21', { note: 'x' }));
  await actingFor(actor, () => audit(stack.db, 'Drive', 'tripped', 'C-21', { code: 4, name: 'Overvoltage' }));
  expect((await newest(2)).map((e) => [e.action, e.device, e.address])).toEqual([
    ['tripped', null, null],
    ['note', 'Phone', '192.0.2.7'],
  ]);
});

test('what acts outside the database is noted before and after, with what came of it or why it failed', async () => {
  await audited(
    stack.db,
    'Ines Calder',
    'keep in drive',
    'C-21',
    {},
    async () => ({ kept: true }),
    (r) => r,
  );
  const [done, intended] = await newest(2);
  expect([intended?.detail, done?.detail]).toEqual([{ step: 'intended' }, { step: 'done', kept: true }]);
  const fails = () => Promise.reject(new Error('no answer'));
  await expect(audited(stack.db, 'Ines Calder', 'reset trip', 'C-21', {}, fails)).rejects.toThrow('no answer');
  expect((await newest())[0]?.detail).toEqual({ step: 'failed', why: 'no answer' });
  expect(ajv.validate(ActStep, done?.detail)).toBe(true);
});
