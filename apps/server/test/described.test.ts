import Ajv from 'ajv';
import addFormats from 'ajv-formats';
import { startStack, type Stack } from './stack';

/** What the server says of itself, held against what it answers: no more and no less than is described leaves it. */
let stack: Stack;
beforeAll(async () => {
  stack = await startStack();
});
afterAll(() => stack.stop());

interface Described {
  responses?: Record<string, { content?: Record<string, { schema: object }> }>;
}
const author = 'Ines Calder';
const call = (method: 'GET' | 'POST' | 'PUT', path: string, payload?: object) =>
  stack.app.inject({ method, url: `/api/v1${path}`, ...(payload && { payload: { author, ...payload } }) });

/** A schema that lets nothing pass that it does not name. */
const strict = (schema: unknown): unknown => {
  if (Array.isArray(schema)) return schema.map(strict);
  if (typeof schema !== 'object' || schema === null) return schema;
  const inside = Object.fromEntries(Object.entries(schema).map(([k, v]) => [k, strict(v)]));
  return inside.type === 'object' && inside.properties && !inside.patternProperties && !('allOf' in inside)
    ? { additionalProperties: false, ...inside }
    : inside;
};

test('every page’s question is answered as it is described', async () => {
  // something of everything, so that no answer is empty for want of it
  const { plate } = (await call('GET', '/machines/P-11')).json();
  await call('POST', '/motors', { name: 'Pump', plate: plate.plate });
  await call('PUT', '/books/osier-g/short-lists', { name: 'Mine', codes: ['3a'] });
  await call('POST', '/machines/P-11/lock', { code: '4711' });
  await call('PUT', '/keeping', { wholeDays: 30, thinnedDays: null });
  await call('PUT', '/machines/P-11/note', { note: 'Look at the valve.' });
  await call('POST', '/machines/P-11/proofs', {
    stage: 'before-power',
    item: 'mounted',
    outcome: 'passed',
    facts: { kind: 'look' },
    settings: [],
    plate: true,
    survey: true,
  });
  const { entry } = (await call('POST', '/machines/P-11/trips', { code: 11, snapshot: {}, answers: {} })).json();
  const channels = [{ key: 'f', name: 'Output', unit: 'Hz', decimals: 2 }];
  const packed = {
    time: Buffer.from(Float64Array.from([0, 1]).buffer).toString('base64'),
    values: [Buffer.from(Float32Array.from([1, 2]).buffer).toString('base64')],
  };
  const { id } = (
    await call('POST', '/machines/P-11/recordings', { title: 'T', startedAt: null, channels, ...packed, marks: [{ time: 0, label: 'Here' }] })
  ).json();
  expect([typeof id, typeof entry?.id]).toEqual(['number', 'number']);

  const { paths } = (await call('GET', '/openapi.json')).json() as { paths: Record<string, Record<string, Described>> };
  const ajv = addFormats(new Ajv({ strict: false, allErrors: true }));
  let held = 0;
  for (const [path, { get }] of Object.entries(paths)) {
    const schema = get?.responses?.['200']?.content?.['application/json']?.schema;
    if (!schema) continue;
    const filled = path
      .replace('/api/v1', '')
      .replace('/trips/{id}', `/trips/${entry.id}`)
      .replace('{tag}', 'P-11')
      .replace('{kind}', 'draft')
      .replace('{revision}', '1')
      .replace('{bookId}', 'osier-g')
      .replace('{id}', String(id));
    const answer = await call('GET', filled);
    if (answer.statusCode === 404) continue;
    expect([filled, answer.statusCode]).toEqual([filled, 200]);
    const validate = ajv.compile(strict(schema) as object);
    validate(answer.json());
    expect({ path: filled, errors: validate.errors?.slice(0, 3) ?? null }).toEqual({ path: filled, errors: null });
    held += 1;
  }
  expect(held).toBeGreaterThan(20);
});
