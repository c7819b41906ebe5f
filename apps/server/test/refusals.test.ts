import { present } from '@yare/core';
import { connect as tcp } from 'node:net';
import { join } from 'node:path';
import { line, type Problem } from '@yare/contract';
import { pauseAfter } from '../src/lock/locks';
import { recordingCsv } from '../src/recordings/csv';
import { connect } from '../src/db/connect';
import { program, root } from './program';
import { latest, startStack, until, type Stack } from './stack';

/** What is refused, and that nothing was done then. */
let stack: Stack;
let free = Infinity;
const clock = Date.now();
let ticks = 0;
beforeAll(async () => {
  stack = await startStack({ freeSpace: async () => free, now: () => clock, steady: () => ticks });
});
afterAll(() => stack.stop());

const author = 'Ines Calder';
const call = (method: 'GET' | 'POST' | 'PUT' | 'DELETE', path: string, payload?: object) =>
  stack.app.inject({ method, url: `/api/v1${path}`, ...(payload && { payload }) });

interface Schema {
  type?: string;
  const?: unknown;
  enum?: unknown[];
  pattern?: string;
  maxLength?: number;
  minimum?: number;
  maximum?: number;
  exclusiveMinimum?: number;
  items?: Schema;
  anyOf?: Schema[];
  properties?: Record<string, Schema>;
  patternProperties?: Record<string, Schema>;
  additionalProperties?: boolean | Schema;
}

/** Everything a schema takes, with where it stands. */
function* parts(s: Schema, at: string): Generator<[string, Schema]> {
  yield [at, s];
  if (s.items) yield* parts(s.items, `${at}[]`);
  for (const a of s.anyOf ?? []) yield* parts(a, at);
  for (const [name, p] of Object.entries({ ...s.properties, ...s.patternProperties })) yield* parts(p, `${at}.${name}`);
}

test('no schema of what comes in takes a control character, half a character, an endless text, or an integer the database cannot hold', async () => {
  const { paths } = (await call('GET', '/openapi.json')).json<{
    paths: Record<
      string,
      Record<string, { parameters?: Array<{ name: string; schema: Schema }>; requestBody?: { content: Record<string, { schema: Schema }> } }>
    >;
  }>();
  const wrong: string[] = [];
  let looked = 0;
  for (const [path, methods] of Object.entries(paths))
    for (const [method, { parameters = [], requestBody }] of Object.entries(methods)) {
      const incoming: Array<[string, Schema]> = [
        ...parameters.map((p): [string, Schema] => [p.name, p.schema]),
        ...Object.values(requestBody?.content ?? {}).map((c): [string, Schema] => ['body', c.schema]),
      ];
      for (const [name, schema] of incoming)
        for (const [at, s] of parts(schema, `${method} ${path} ${name}`)) {
          looked += 1;
          const loose =
            s.type === 'string' &&
            s.const === undefined &&
            s.enum === undefined &&
            !(s.pattern && (s.maxLength !== undefined || !s.pattern.includes('\\p{')));
          if (loose) wrong.push(`${at}: any text`);
          if (s.type === 'integer' && (s.minimum === undefined || s.maximum === undefined || s.maximum > 2147483647))
            wrong.push(`${at}: any integer`);
          if (s.patternProperties && s.additionalProperties !== false) wrong.push(`${at}: any name`);
        }
    }
  expect(looked).toBeGreaterThan(150);
  expect(wrong).toEqual([]);
  const taken = new RegExp(line, 'u');
  expect(['a\u0000', 'a\u001b[31m', 'a\n', '\ud800', '\udc00x', '\u0085'].filter((x) => taken.test(x))).toEqual([]);
  expect(['Größe 45 µ', '日本', '😀', ''].every((x) => taken.test(x))).toBe(true);
});

describe('what acts outside the database', () => {
  const events = async (tag: string) =>
    (await call('GET', `/audit?tag=${tag}`)).json<{ events: Array<{ action: string; detail: { step?: string } }> }>().events;

  test('is not done for an author the log cannot hold', async () => {
    const belt = present(stack.bench.drives.get(6));
    belt.set('3a', 31);
    expect((await call('POST', '/machines/C-07/keep', { author: 'Ines\u0000' })).statusCode).toBe(400);
    expect(belt.isKept('3a')).toBe(false);
    expect((await call('POST', '/machines/C-07/bench', { author: '\ud800', pace: 20 })).statusCode).toBe(400);
    expect(belt.pace).toBe(1);
  });

  test('is written down as intended, then done, then as done; or as failed', async () => {
    await call('POST', '/machines/C-07/keep', { author });
    expect((await events('C-07')).slice(0, 2).map((e) => [e.action, e.detail.step])).toEqual([
      ['keep in drive', 'done'],
      ['keep in drive', 'intended'],
    ]);
    await call('POST', '/machines/P-43/bench', { author, pace: 5 });
    expect((await events('P-43')).slice(0, 2).map((e) => e.detail)).toEqual([
      { fault: null, pace: 5, step: 'done' },
      { fault: null, pace: 5, step: 'intended' },
    ]);
    await call('POST', '/machines/P-43/bench', { author, pace: 1 });
    present(stack.bench.drives.get(6)).plant.wiring.linkCut = true;
    expect((await call('POST', '/machines/C-07/keep', { author })).statusCode).toBe(424);
    present(stack.bench.drives.get(6)).plant.wiring.linkCut = false;
    expect(present((await events('C-07'))[0]).detail).toMatchObject({ step: 'failed' });
  });

  test('is not done when it cannot be written down', async () => {
    await stack.db.raw('alter table audit_events rename to audit_away');
    const belt = present(stack.bench.drives.get(6));
    belt.set('3a', 32);
    const answer = await call('POST', '/machines/C-07/keep', { author });
    await stack.db.raw('alter table audit_away rename to audit_events');
    expect(answer.statusCode).toBe(500);
    expect(answer.json<Problem>().detail).not.toContain('Nothing was changed');
    expect(belt.isKept('3a')).toBe(false);
  });
});

describe('the settings lock', () => {
  const unlock = (code: string) => call('POST', '/machines/P-42/unlock', { author: 'Tom Reed', code });

  test('two who lock at once: one does, the other is told', async () => {
    const answers = await Promise.all(['1111', '2222', '3333'].map((code) => call('POST', '/machines/P-42/lock', { author, code })));
    expect(answers.map((a) => a.statusCode).sort()).toEqual([200, 409, 409]);
    await stack.db('settings_locks').delete();
    expect((await call('POST', '/machines/P-42/lock', { author, code: '4711' })).statusCode).toBe(200);
  });

  test('holds against keeping and another address too; a name may change', async () => {
    expect((await call('POST', '/machines/P-42/keep', { author })).statusCode).toBe(423);
    expect((await call('PUT', '/machines/P-42/record', { author, unitId: 90 })).statusCode).toBe(423);
    expect((await call('PUT', '/machines/P-42/record', { author, name: 'Transfer pump 2' })).statusCode).toBe(200);
  });

  test('codes are tried one at a time, with growing pauses', async () => {
    const burst = await Promise.all(Array.from({ length: 14 }, (_, i) => unlock(`000${i}`)));
    expect(burst.filter((a) => a.statusCode === 403)).toHaveLength(1);
    expect(burst.filter((a) => a.statusCode === 429)).toHaveLength(13);
    // not even the right one during a pause
    expect((await unlock('4711')).statusCode).toBe(429);
    // the time of day put back and forward by an hour changes nothing of it
    for (const hours of [-1, 1]) {
      jest.spyOn(Date, 'now').mockReturnValue(Date.now() + 3_600_000 * hours);
      expect((await unlock('4711')).json<Problem>().detail).toContain('is taken in 1 s');
      jest.restoreAllMocks();
    }
    ticks += 1000;
    const wrong = await unlock('0000');
    expect([wrong.statusCode, wrong.json<Problem>().detail]).toEqual([403, expect.stringContaining('The next is taken in 2 s')]);
    expect([1, 2, 3, 8, 30].map(pauseAfter)).toEqual([1, 2, 4, 128, 300]);
    ticks += 1999;
    expect((await unlock('4711')).statusCode).toBe(429);
    ticks += 1;
    expect((await unlock('4711')).statusCode).toBe(200);
  });

  test('a pause that a server before this one began is never longer than it was, whatever its clock said', async () => {
    await call('POST', '/machines/P-42/lock', { author, code: '4711' });
    await stack.db('settings_locks').update({ wrong: 5, not_before: new Date(Date.now() + 3_600_000) });
    const early = await unlock('4711');
    expect([early.statusCode, early.json<Problem>().detail]).toEqual([429, expect.stringContaining('is taken in 16 s')]);
    ticks += 16_000;
    expect((await unlock('4711')).statusCode).toBe(200);
  });

  test('a code that is lost: the server’s own terminal opens it, and the log says so', async () => {
    await call('POST', '/machines/P-42/lock', { author, code: 'forgotten' });
    const said = await terminal(['unlock', 'P-42']);
    expect(said).toEqual({ opened: true });
    expect((await call('GET', '/machines/P-42/lock')).json()).toBeNull();
    expect((await call('GET', '/audit?tag=P-42')).json().events[0]).toMatchObject({
      author: 'At the server',
      action: 'unlock settings',
      detail: { without: 'code' },
    });
    expect(await terminal(['unlock', 'X-99'])).toHaveProperty('error');
  });
});

/** Runs the server's terminal commands as npm run does. */
async function terminal(args: string[]): Promise<unknown> {
  const { stdout } = await program(process.execPath, ['--import', 'tsx', join(root, 'apps/server/src/devices/terminal.ts'), ...args], {
    DATABASE_URL: stack.url,
  });
  return JSON.parse(present(stdout.trim().split('\n').pop()));
}

test('what was kept waiting until nobody waits for it is not done', async () => {
  const port = stack.port;
  const kept = () => stack.db('audit_events').where({ action: 'keep in drive', tag: 'P-43' });
  const admin = connect(stack.url);
  const block = await admin.transaction();
  await block.raw('lock table machines in access exclusive mode');
  const socket = tcp(port, '127.0.0.1');
  const body = JSON.stringify({ author });
  socket.write(
    `POST /api/v1/machines/P-43/keep HTTP/1.1\r\nhost: localhost\r\ncontent-type: application/json\r\ncontent-length: ${body.length}\r\n\r\n${body}`,
  );
  const waiting = async () =>
    Number((await admin.raw("select count(*) from pg_locks where not granted and relation = 'machines'::regclass")).rows[0].count);
  await until(async () => (await waiting()) > 0);
  const before = await connections();
  socket.destroy();
  await until(async () => (await connections()) < before);
  await block.commit();
  await until(async () => (await waiting()) === 0);
  // the next one is done, and is the only one there ever was
  expect((await call('POST', '/machines/P-43/keep', { author })).statusCode).toBe(200);
  expect((await kept()).map((e) => (e.detail as { step: string }).step)).toEqual(['intended', 'done']);
  await admin.destroy();
});

const connections = () => new Promise<number>((done, fail) => stack.app.server.getConnections((error, n) => (error ? fail(error) : done(n))));

test.each([
  ['a figure without end', { revision: 1, changes: [{ code: '3a', value: 'ENDLESS', source: 'chosen' }] }],
  ['a name that turns what stands beside it', { revision: 1, changes: [], author: 'Ines \u202Erodlac' }],
  ['a name with what is not seen', { revision: 1, changes: [], author: 'Ines\u200B Calder' }],
])('%s is not taken in', async (_what, body) => {
  const answer = await stack.app.inject({
    ...{ method: 'PUT', url: '/api/v1/machines/P-11/draft', headers: { 'content-type': 'application/json' } },
    // JSON has no Infinity; a figure that is too large becomes one
    payload: JSON.stringify({ author, ...body }).replace('"ENDLESS"', '1e999'),
  });
  expect([answer.statusCode, answer.json<Problem>().title]).toEqual([400, 'Bad input']);
});

test('a mark or an answer whose event cannot be stored is not stored either', async () => {
  const machine = present(await stack.db('machines').where({ tag: 'P-11' }).first());
  const [row] = await stack
    .db('recordings')
    .insert({ machine_id: machine.id, title: 't', author, started_at: new Date(), channels: '[]', complete: true, duration: 9 })
    .returning('id');
  const [trip] = await stack
    .db('trips')
    .insert({ machine_id: machine.id, source: 'words', name: 'Trip', snapshot: '{}', answers: '{}' } as never)
    .returning('id');
  await stack.db.raw(`create function no_events() returns trigger language plpgsql as $$ begin raise exception 'no room'; end $$`);
  await stack.db.raw('create trigger no_events before insert on audit_events for each row execute function no_events()');
  const tries = [
    await call('POST', `/recordings/${present(row).id}/marks`, { author, mark: { time: 1, label: 'Here' } }),
    await call('POST', `/trips/${present(trip).id}/answers`, { author, answers: { cold: 'yes' } }),
    await call('POST', `/trips/${present(trip).id}/close`, { author, cause: 'x', cure: 'y', proof: 'z' }),
  ];
  await stack.db.raw('drop trigger no_events on audit_events');
  expect(tries.map((t) => t.statusCode)).toEqual([500, 500, 500]);
  expect(await stack.db('recording_marks').where({ recording_id: present(row).id })).toEqual([]);
  expect(
    await stack
      .db('trips')
      .where({ id: present(trip).id })
      .first('answers', 'closed'),
  ).toEqual({ answers: {}, closed: null });
});

test('a nearly full disk takes nothing new, says so, and still stops, opens and clears up', async () => {
  free = 50e6;
  await until(async () => (await call('POST', '/motors', { author, name: 'x', plate: {} })).statusCode === 507);
  const { draft } = await latest(stack.app, 'P-11');
  const edit = await call('PUT', '/machines/P-11/draft', { author, revision: draft.revision, changes: [{ code: '3a', value: 8, source: 'chosen' }] });
  expect([edit.statusCode, edit.json<Problem>().detail]).toEqual([507, expect.stringContaining('50 MB are left')]);
  const ines = await stack.device(author);
  await until(() => ines.live('P-11')?.state === 'ready');
  const press = ines.hold('P-11', 10);
  await until(() => ines.ended(press) !== undefined);
  expect(present(ines.ended(press)).reason).toContain('nearly full');
  expect(present(stack.bench.drives.get(1)).machine.frequency).toBe(0);
  ines.letGo(press);
  expect((await call('POST', '/machines/P-11/write/stop', { author })).statusCode).toBe(200);
  // what needs no room is told by its route, whatever stands behind its address
  expect((await call('POST', '/motors?x=/unlock', { author, name: 'x', plate: {} })).statusCode).toBe(507);
  expect((await call('POST', '/machines/P-11/unlock?from=page', { author, code: '1234' })).statusCode).toBe(200);
  expect((await call('DELETE', '/photos/4711?author=Ines')).statusCode).toBe(404);
  free = Infinity;
  await until(async () => (await call('PUT', '/machines/P-11/record', { author, name: 'Pump' })).statusCode === 200);
});

test('a drive of another family at the address: a sentence, and never a server error', async () => {
  // the record says Withy, what stands there is an Osier G
  await stack.db('machines').where({ tag: 'C-21' }).update({ book_id: 'withy', size: 'W2.2', drive_revision: 2 });
  const again = await startAgain();
  const ask = (method: 'POST' | 'PUT', path: string, payload: object) => again.inject({ method, url: `/api/v1/machines/C-21${path}`, payload });
  await ask('PUT', '/drive', { author, bookId: 'withy', size: 'W1.5', region: 60 });
  for (const path of ['/read', '/keep']) {
    const answer = await ask('POST', path, { author });
    expect([path, answer.statusCode, answer.json<Problem>().detail]).toEqual([
      path,
      409,
      expect.stringContaining('says that it is Osier G G2.2; C-21 has Withy W1.5 on record'),
    ]);
  }
  const { draft } = (await again.inject({ url: '/api/v1/machines/C-21/sheets' })).json();
  const code = present(Object.keys(draft.values)[0]);
  const write = await ask('POST', '/write', { author, revision: draft.revision, codes: [code] });
  expect([write.statusCode, write.json().outcome, write.json().sentence]).toEqual([
    200,
    'refused',
    expect.stringContaining('says that it is Osier G G2.2; C-21 has Withy W1.5 on record'),
  ]);
  await again.close();
});

/** Another server on the same database and bench, for a record changed behind its back. */
async function startAgain() {
  const { buildApp } = await import('../src/app');
  return buildApp({ db: stack.db, drives: { host: '127.0.0.1', port: stack.bench.port } });
}

test('words that a spreadsheet would take for a formula are harmless in a CSV, and figures stay figures', () => {
  const meta = {
    channels: [{ key: 'torque', name: '@Torque', unit: '%', decimals: 1 }],
    marks: [
      { time: 0, label: '=HYPERLINK("http://evil.example")' },
      { time: 1, label: '\uFF1D1+1' },
    ],
  };
  const csv = [...recordingCsv({ meta, time: [0, 1], data: { torque: [-3.2, 4] } } as never)].join('');
  expect(csv.split('\r\n')).toEqual([
    `\uFEFFTime (s),'@Torque (%),Mark`,
    `0.000,-3.2,"'=HYPERLINK(""http://evil.example"")"`,
    `1.000,4.0,'\uFF1D1+1`,
  ]);
});
