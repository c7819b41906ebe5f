import { problemCodes } from '@yare/contract/problemCodes';
import { present } from '@yare/core';
import WebSocket from 'ws';
import type { DeviceView, Here } from '@yare/contract';
import { buildApp } from '../src/app';
import { Devices, newPairingCode } from '../src/devices/devices';
import { startStack, until, type Stack } from './stack';

/** Who gets in: by which name, from which page, on which device. */
let stack: Stack;
beforeAll(async () => {
  // as if it were called from elsewhere: nobody is trusted for his address alone
  stack = await startStack({ trustLoopback: false, names: ['pilot.example', '192.0.2.1'] });
});
afterAll(() => stack.stop());
// motors run in real time: a computer that stalls for seconds is given one more try
jest.retryTimes(1, { logErrorsBeforeRetry: true });

const outsider = '192.0.2.7';
const inject = (
  method: 'GET' | 'POST' | 'PUT',
  path: string,
  more: { payload?: object; headers?: Record<string, string>; remoteAddress?: string } = {},
) => stack.app.inject({ method, url: `/api/v1${path}`, remoteAddress: outsider, ...more, headers: { host: 'pilot.example', ...more.headers } });

/** Pairs a device; its cookie. */
async function paired(name: string): Promise<string> {
  const { code } = await newPairingCode(stack.db);
  const answer = await inject('POST', '/devices/pair', { payload: { code, name } });
  expect(answer.json<Here>()).toEqual({ allowed: true, local: false, device: name });
  return String(answer.headers['set-cookie']);
}
const asCookie = (set: string) => present(set.split(';')[0]);

describe('by which name', () => {
  test.each([
    ['evil.example', 421],
    ['127.0.0.1.evil.example', 421],
    ['localhost.evil.example:80', 421],
    ['pilot.example@evil.example', 421],
    ['evil.example/127.0.0.1', 421],
    ['[::1]:4460', 200],
    ['127.0.0.1:4460', 200],
    ['localhost', 200],
    ['PILOT.example:4460', 200],
    ['192.0.2.1', 200],
  ])('a request to %s gets %i', async (host, status) => {
    expect((await inject('GET', '/devices/here', { headers: { host } })).statusCode).toBe(status);
  });

  test('a socket to a foreign name is refused before it is one, and the connection does not stay', async () => {
    const { port } = stack;
    const socket = new WebSocket(`ws://127.0.0.1:${port}/api/v1/live`, { headers: { host: 'evil.example' } });
    expect(await new Promise((done) => socket.once('error', (e) => done(e.message)))).toContain('421');
    await until(async () => new Promise<boolean>((done) => stack.app.server.getConnections((_e, n) => done(n === 0))));
  });
});

describe('from which page', () => {
  test.each([
    ['http://evil.example', 403],
    ['http://pilot.example.evil.example', 403],
    ['https://pilot.example', 403],
    ['null', 403],
    ['not an origin', 403],
    ['http://pilot.example', 401],
  ])('a change from a page of %s gets %i', async (origin, status) => {
    const answer = await inject('PUT', '/machines/P-11/record', { payload: { author: 'X', name: 'Y' }, headers: { origin } });
    expect(answer.statusCode).toBe(status);
    expect(answer.headers['content-type']).toContain('application/problem+json');
  });

  test.each([
    ['cross-site', 403],
    ['same-site', 403],
    ['same-origin', 200],
    ['none', 200],
  ])('what a %s page loads as a picture or a download gets %i', async (site, status) => {
    const cookie = asCookie(await paired(`Phone, ${site}`));
    expect((await inject('GET', '/machines', { headers: { cookie, 'sec-fetch-site': site } })).statusCode).toBe(status);
    expect((await inject('GET', '/machines', { headers: { cookie, origin: 'http://evil.example' } })).statusCode).toBe(403);
  });

  test('the page may connect to nothing but its own server', async () => {
    const policy = String((await inject('GET', '/devices/here')).headers['content-security-policy']);
    expect(policy).toContain("connect-src 'self' ws://pilot.example;");
    expect(policy).not.toMatch(/ws:[; ]|wss:[; ]/);
  });
});

describe('on which device', () => {
  test('a stranger gets nothing but the way to be paired', async () => {
    for (const path of ['/health', '/machines', '/machines/P-11/sheets', '/openapi.json', '/audit', '/photos/1', '/devices', '/no-such-thing'])
      expect([path, (await inject('GET', path)).statusCode]).toEqual([path, 401]);
    expect((await inject('GET', '/machines')).json()).toMatchObject({ type: problemCodes.notPaired });
    expect((await inject('GET', '/devices/here')).json()).toEqual({ allowed: false, local: false, device: null });
    const device = stack.device('Stranger', { headers: { host: 'pilot.example' } });
    await expect(device).rejects.toThrow('closed');
  });

  test('a code is good once, and its cookie is for this server, its own pages and HTTPS only', async () => {
    const { code } = await newPairingCode(stack.db);
    expect(code).toMatch(/^[2-9A-HJ-NP-Z]{8}$/);
    const typed = `${code.slice(0, 4).toLowerCase()} ${code.slice(4)}`;
    const first = await inject('POST', '/devices/pair', { payload: { code: typed, name: 'Phone of Ines' } });
    expect(first.statusCode).toBe(200);
    const set = String(first.headers['set-cookie']);
    for (const part of ['__Host-', 'HttpOnly', 'Secure', 'SameSite=Strict', 'Path=/']) expect(set).toContain(part);
    expect((await inject('POST', '/devices/pair', { payload: { code, name: 'Second' } })).statusCode).toBe(403);
    expect((await inject('GET', '/machines', { headers: { cookie: asCookie(set) } })).statusCode).toBe(200);
    const [row] = await stack.db('devices').where({ name: 'Phone of Ines' });
    expect(set).not.toContain(present(row).token_hash);
  });

  test('five wrong tries void a code, ten minutes too, and a new one voids the one before', async () => {
    const { code } = await newPairingCode(stack.db);
    const wrong = [];
    for (let i = 0; i < 5; i += 1) wrong.push((await inject('POST', '/devices/pair', { payload: { code: 'AAAABBBB', name: 'X' } })).statusCode);
    expect(wrong).toEqual([403, 403, 403, 403, 403]);
    expect((await inject('POST', '/devices/pair', { payload: { code, name: 'X' } })).statusCode).toBe(403);

    const old = await newPairingCode(stack.db, Date.now() - 10 * 60_000 - 1000);
    expect((await inject('POST', '/devices/pair', { payload: { code: old.code, name: 'X' } })).statusCode).toBe(403);

    const before = await newPairingCode(stack.db);
    await newPairingCode(stack.db);
    expect((await inject('POST', '/devices/pair', { payload: { code: before.code, name: 'X' } })).statusCode).toBe(403);
  });

  test('tries in parallel are counted one by one', async () => {
    await newPairingCode(stack.db);
    const answers = await Promise.all(
      Array.from({ length: 12 }, () => inject('POST', '/devices/pair', { payload: { code: 'AAAABBBB', name: 'X' } })),
    );
    expect(answers.filter((a) => a.statusCode === 403)).toHaveLength(12);
    expect((await stack.db('pairing_codes').whereNull('used_at')).map((c) => c.tries)).toEqual([5]);
    // who guesses is not told how near he is, nor whether there is anything to guess
    expect(new Set(answers.map((a) => a.body)).size).toBe(1);
  });
});

describe('a device is known by name, and put out', () => {
  test('the log holds device and address', async () => {
    const cookie = asCookie(await paired('Phone of Tom'));
    await inject('PUT', '/machines/P-41/record', { payload: { author: 'Tom Reed', name: 'Transfer pump 1' }, headers: { cookie } });
    const { events } = (await inject('GET', '/audit?tag=P-41', { headers: { cookie } })).json();
    expect(events[0]).toMatchObject({ author: 'Tom Reed', action: 'record', device: 'Phone of Tom', address: outsider });
  });

  test('put out while it holds: the motor stops at once, and the device is a stranger again', async () => {
    const cookie = asCookie(await paired('Phone to lose'));
    const other = asCookie(await paired('Tablet'));
    const phone = await stack.device('Tom Reed', { headers: { host: 'pilot.example', cookie } });
    await until(() => phone.live('P-11')?.state === 'ready');
    phone.hold('P-11', 12);
    await until(() => present(stack.bench.drives.get(1)).machine.frequency > 3);
    const { events } = (await inject('GET', '/audit?tag=P-11', { headers: { cookie: other } })).json();
    expect(events[0]).toMatchObject({ action: 'hold to run', device: 'Phone to lose', address: '127.0.0.1' });
    const list = (await inject('GET', '/devices', { headers: { cookie: other } })).json<DeviceView[]>();
    const lost = present(list.find((d) => d.name === 'Phone to lose'));
    expect(lost).toMatchObject({ online: true, self: false });
    expect(present(list.find((d) => d.self)).name).toBe('Tablet');
    const closed = new Promise<number>((done) => phone.socket.once('close', done));
    expect((await inject('POST', `/devices/${lost.id}/put-out`, { payload: { author: 'Ines Calder' }, headers: { cookie: other } })).statusCode).toBe(
      200,
    );
    expect(await closed).toBe(4401);
    await until(() => !present(stack.bench.drives.get(1)).running);
    await until(async () => (await stack.db('recording_marks').where('label', 'like', 'Stop: the device that held it was removed%')).length === 1);
    expect((await inject('GET', '/machines', { headers: { cookie } })).statusCode).toBe(401);
    expect((await inject('POST', `/devices/${lost.id}/put-out`, { payload: { author: 'Ines Calder' }, headers: { cookie: other } })).statusCode).toBe(
      404,
    );
  });

  test('a device nobody used for a year is a stranger again, and one that is used stays', async () => {
    const day = 24 * 3600_000;
    let now = Date.now();
    const [lost, used] = [asCookie(await paired('In a drawer')), asCookie(await paired('In a pocket'))];
    const devices = new Devices(stack.db, () => now);
    const token = (cookie: string) => decodeURIComponent(cookie.slice(cookie.indexOf('=') + 1));
    for (let month = 0; month < 13; month++) {
      expect((await devices.byToken(token(used), outsider))?.name).toBe('In a pocket');
      now += 30 * day;
    }
    expect(await devices.byToken(token(lost), outsider)).toBeNull();
    expect((await devices.list()).map((d) => d.name)).not.toContain('In a drawer');
    // every start of the page carries the cookie on
    expect(String((await inject('GET', '/devices/here', { headers: { cookie: used } })).headers['set-cookie'])).toContain('Max-Age=31536000');
  });

  test('a device put out stays so through a restart of the server', async () => {
    const cookie = asCookie(await paired('Gone'));
    const stays = asCookie(await paired('Stays'));
    const [gone] = await stack.db('devices').where({ name: 'Gone' }).select('id');
    const { id } = present(gone);
    await inject('POST', `/devices/${id}/put-out`, { payload: { author: 'Ines Calder' }, headers: { cookie: stays } });
    const again = await buildApp({ db: stack.db, drives: { host: '127.0.0.1', port: 1 }, trustLoopback: false });
    const ask = (c: string) => again.inject({ url: '/api/v1/devices', headers: { cookie: c }, remoteAddress: outsider });
    expect([(await ask(cookie)).statusCode, (await ask(stays)).statusCode]).toEqual([401, 200]);
    await again.close();
  });
});
