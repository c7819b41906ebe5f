import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import http from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import WebSocket from 'ws';
import { present } from '@yare/core';
import { newPairingCode } from '../src/devices/devices';
import { startStack, until, type Stack } from './stack';

/** A stranger at every route of the router, in every spelling a router may read: he gets in at none. */
let stack: Stack;
const folder = mkdtempSync(join(tmpdir(), 'yare-page-'));
beforeAll(async () => {
  // the application is served too: its files must not answer in place of what is not there
  writeFileSync(join(folder, 'index.html'), '<p>The application</p>');
  stack = await startStack({ trustLoopback: false, names: ['pilot.example'], staticFolder: folder });
});
afterAll(async () => {
  await stack.stop();
  rmSync(folder, { recursive: true });
});

const agent = new http.Agent({ keepAlive: true, maxSockets: 16 });
afterAll(() => agent.destroy());

/** The status of a request whose address is sent as it is written. */
const status = (method: string, path: string): Promise<number> =>
  new Promise((done, fail) => {
    const headers = { host: 'pilot.example', ...(/POST|PUT|PATCH/.test(method) && { 'content-type': 'application/json' }) };
    const request = http.request({ host: '127.0.0.1', port: stack.port, method, path, headers, agent }, (response) => {
      response.resume().once('end', () => done(present(response.statusCode)));
    });
    request.once('error', fail);
    request.end(/POST|PUT|PATCH/.test(method) ? '{"author":"Stranger"}' : undefined);
  });

const hex = (sign: string) => `%${sign.charCodeAt(0).toString(16)}`;
const coded = (text: string, which: RegExp) => text.replace(which, hex);
const twice = (text: string) => text.replace(/%/g, '%25');

/** Thirty-odd ways to write an address. */
const spellings: Record<string, (path: string) => string> = {
  plain: (p) => p,
  'first letter': (p) => p.replace('a', '%61'),
  'second letter': (p) => p.replace('p', '%70'),
  'third letter': (p) => p.replace('i', '%69'),
  'all of api': (p) => p.replace('api', '%61%70%69'),
  version: (p) => p.replace('v1', '%76%31'),
  'every letter': (p) => coded(p, /[a-z]/gi),
  'every sign but slashes': (p) => coded(p, /[^/]/g),
  'coded slash': (p) => p.replace('/v1', '%2fv1'),
  'coded slash, upper case': (p) => p.replace('/v1', '%2Fv1'),
  'every slash but the first': (p) => `/${coded(p.slice(1), /\//g)}`,
  'first slash': (p) => p.replace('/', '/%2f'),
  'double percent': (p) => twice(p.replace('a', '%61')),
  'double percent, all': (p) => twice(coded(p, /[a-z]/gi)),
  'double percent, slash': (p) => twice(p.replace('/v1', '%2fv1')),
  'triple percent': (p) => twice(twice(p.replace('a', '%61'))),
  'percent without figures': (p) => p.replace('a', '%zz'),
  'overlong UTF-8': (p) => p.replace('a', '%c1%a1'),
  'full-width': (p) => p.replace('a', '%ef%bd%81'),
  'upper case': (p) => p.replace('api', 'API'),
  'mixed case': (p) => p.replace('api', 'aPi').replace('v1', 'V1'),
  'double slash': (p) => `/${p}`,
  'double slash inside': (p) => p.replace('/v1', '//v1'),
  'slash at the end': (p) => `${p}/`,
  'dot before': (p) => `/.${p}`,
  'dots before': (p) => `/..${p}`,
  'dots after a page': (p) => `/m/P-11/..${p}`,
  'dots inside': (p) => p.replace('/v1', '/v1/../v1'),
  'coded dots': (p) => `/devices/%2e%2e${p}`,
  'coded dots inside': (p) => p.replace('/v1', '/x/%2e%2e/v1'),
  semicolon: (p) => p.replace('/v1', ';a=b/v1'),
  'semicolon at the end': (p) => `${p};x=/devices/here`,
  'backslash as code': (p) => p.replace(/\//g, '%5c'),
  'absolute form': (p) => `http://pilot.example${p}`,
  'absolute form, coded': (p) => `http://pilot.example${p.replace('a', '%61')}`,
  'absolute form, HTTPS': (p) => `https://pilot.example:443${p}`,
  'absolute form of another host': (p) => `http://127.0.0.1${p}`,
  'open address as a query': (p) => `${p}?x=/api/v1/devices/here`,
  'open address as a fragment': (p) => `${p}#/api/v1/devices/here`,
  'null sign': (p) => p.replace('/v1', '/v1%00'),
};

/** Every address of the router with what it takes, as Fastify prints its tree. */
function routesOf(printed: string): Array<{ path: string; methods: string[] }> {
  const above: string[] = [];
  return printed.split('\n').flatMap((line) => {
    const [, indent, part = '', methods] = /^([│ ]*)[├└]── (\S+)(?: \(([^)]*)\))?/.exec(line) ?? [];
    if (indent === undefined) return [];
    above.splice(indent.length / 4, Infinity, part);
    return methods ? [{ path: above.join(''), methods: methods.split(', ') }] : [];
  });
}

const filled = (path: string): string => path.replace(':tag', 'P-11').replace(':kind', 'draft').replace(':bookId', 'anker').replace(/:\w+/g, '1');

const open = ['/api/v1/devices/here', '/api/v1/devices/pair'];
const methods = ['GET', 'HEAD', 'POST', 'PUT', 'PATCH', 'DELETE', 'OPTIONS'];

test('the routes are all read from the router', async () => {
  const routes = routesOf(stack.app.printRoutes({ commonPrefix: false }));
  expect(routes.length).toBeGreaterThan(55);
  for (const path of ['/api/v1/machines/:tag/recorder/end', '/api/v1/live', '/api/v1/machines/:tag/wiring-list.pdf', ...open])
    expect(routes.map((r) => r.path)).toContain(path);
  // beside them stand the files of the application, and nothing else
  expect(routes.filter((r) => !r.path.startsWith('/api/v1/')).map((r) => r.path)).toEqual(['/', '/index.html']);
});

test('no route answers a stranger in any spelling', async () => {
  const routes = routesOf(stack.app.printRoutes({ commonPrefix: false })).filter((r) => r.path.startsWith('/api/'));
  const asked = routes.flatMap(({ path, methods: taken }) =>
    Object.entries(spellings).flatMap(([spelling, spell]) =>
      // what the router takes in every spelling; what it does not, plainly
      (spelling === 'plain' ? methods : taken).map((method) => ({ method, path, spelling, address: spell(filled(path)) })),
    ),
  );
  const answers = await Promise.all(asked.map(async (a) => ({ ...a, status: await status(a.method, a.address) })));
  const taken = answers.filter((a) => ![401, 404].includes(a.status) && !open.includes(a.path));
  expect(taken).toEqual([]);
  expect(answers.length).toBeGreaterThan(3000);
  // the two that are open answer no less openly for it: the walk does reach the routes
  expect(answers.filter((a) => open.includes(a.path) && a.status === 200).length).toBeGreaterThan(5);
});

test('no socket opens to a stranger, and nothing turns', async () => {
  const outcome = (path: string) =>
    new Promise<string>((done) => {
      const socket = new WebSocket(`ws://127.0.0.1:${stack.port}/`, {
        headers: { host: 'pilot.example' },
        finishRequest: (r) => void ((r.path = path), r.end()),
      });
      socket.once('open', () => (done('open'), socket.terminate()));
      socket.once('error', (e) => done(e.message));
    });
  for (const [spelling, spell] of Object.entries(spellings)) {
    const told = await outcome(spell('/api/v1/live'));
    expect(`${spelling}: ${told}`).toMatch(/Unexpected server response: (401|404)$/);
  }
});

test('a stranger puts no device out, however he spells it', async () => {
  const { code } = await newPairingCode(stack.db);
  await stack.app.inject({ method: 'POST', url: '/api/v1/devices/pair', payload: { code, name: 'Phone' }, headers: { host: 'pilot.example' } });
  const [phone] = await stack.db('devices').where({ name: 'Phone' });
  for (const spell of Object.values(spellings)) await status('POST', spell(`/api/v1/devices/${present(phone).id}/put-out`));
  expect(present((await stack.db('devices').where({ name: 'Phone' }))[0]).put_out_at).toBeNull();
  await until(async () => (await stack.db('audit_events').where({ action: 'pair device' })).length === 1);
  expect(present((await stack.db('audit_events').where({ action: 'pair device' }))[0]).device).toBe('Phone');
});

test('the page is there for everybody, and says itself what is not found', async () => {
  const get = async (url: string, accept = 'text/html') => {
    const { statusCode, body } = await stack.app.inject({ url, headers: { host: 'pilot.example', accept } });
    return [statusCode, body.includes('The application')];
  };
  for (const page of ['/', '/new', '/trips', '/m/P-11', '/m/P-11/recordings/4']) expect([page, ...(await get(page))]).toEqual([page, 200, true]);
  for (const none of ['/no-such', '/API/v1/machines', '/m/P-11/../../x']) expect([none, ...(await get(none))]).toEqual([none, 404, true]);
  expect(await get('/no-such.js', '*/*')).toEqual([404, false]);
  // the pages are named as the application's routes are
  const own = readdirSync(join(__dirname, '../../pilot/app'))
    .map((f) => f.replace(/\.tsx$/, ''))
    .filter((f) => !/^[_+]|^index$|^m$/.test(f));
  for (const page of own) expect([page, ...(await get(`/${page}`))]).toEqual([page, 200, true]);
});
