import http from 'node:http';
import { present } from '@yare/core';
import https from 'node:https';
import { mkdtempSync, rmSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { connect as tcp, type Socket } from 'node:net';
import { networkInterfaces, tmpdir } from 'node:os';
import { connect as secureTo, type TLSSocket } from 'node:tls';
import WebSocket from 'ws';
import type { Here } from '@yare/contract';
import { buildApp } from '../src/app';
import { ownCertificate, selfMadeCertificate } from '../src/door/certificate';
import { connect, migrate } from '../src/db/connect';
import { twoDoors, usualPatience, type TwoDoors } from '../src/door/listen';
import { freshDatabase, until } from './stack';

/** One port, two doors: HTTPS for everybody, plain HTTP for the server's own computer. */
const folder = mkdtempSync(join(tmpdir(), 'yare-certificate-'));
const ends: Array<() => Promise<unknown> | void> = [() => rmSync(folder, { recursive: true })];
afterAll(async () => {
  for (const end of ends.reverse()) await end();
});

interface Answer {
  status: number;
  body: string;
  location: string | undefined;
  fingerprint?: string;
}
const ask = (url: string, headers: Record<string, string> = {}): Promise<Answer> =>
  new Promise((done, fail) => {
    const client = url.startsWith('https') ? https : http;
    const request = client.get(url, { headers, agent: false, ...(client === https && { rejectUnauthorized: false }) }, (response) => {
      let body = '';
      const fingerprint = (response.socket as TLSSocket).getPeerCertificate?.().fingerprint256;
      response.on('data', (x) => (body += x));
      response.on('end', () =>
        done({ status: present(response.statusCode), body, location: response.headers.location, ...(fingerprint && { fingerprint }) }),
      );
    });
    request.on('error', fail);
  });

async function serve(plainHere: boolean, patience = usualPatience): Promise<{ port: number; doors: TwoDoors; fingerprint: string }> {
  const { db, url, drop } = await freshDatabase();
  await migrate(db);
  await db.destroy();
  const own = connect(url);
  const certificate = await selfMadeCertificate(folder, ['127.0.0.1', 'localhost']);
  const doors = twoDoors(certificate, plainHere, ['192.0.2.1'], patience);
  const app = await buildApp({ db: own, drives: { host: '127.0.0.1', port: 1 }, trustLoopback: plainHere, serverFactory: doors.factory });
  await app.ready();
  const port = await doors.listen('127.0.0.1', 0);
  ends.push(async () => {
    await app.close();
    await doors.close();
    await own.destroy();
    await drop();
  });
  return { port, doors, fingerprint: certificate.fingerprint };
}

test('at the server itself both doors are open, and the socket goes through either', async () => {
  const { port, fingerprint } = await serve(true);
  const here = { allowed: true, local: true, device: null } satisfies Here;
  const plain = await ask(`http://127.0.0.1:${port}/api/v1/devices/here`);
  expect([plain.status, JSON.parse(plain.body)]).toEqual([200, here]);
  const secure = await ask(`https://127.0.0.1:${port}/api/v1/devices/here`);
  expect([secure.status, JSON.parse(secure.body), secure.fingerprint]).toEqual([200, here, fingerprint]);
  for (const [scheme, origin] of [
    ['ws', 'http'],
    ['wss', 'https'],
  ] as const) {
    const socket = new WebSocket(`${scheme}://127.0.0.1:${port}/api/v1/live`, { rejectUnauthorized: false, origin: `${origin}://127.0.0.1:${port}` });
    const first = await new Promise<string>((done, fail) => {
      socket.once('message', (raw) => done(String(raw)));
      socket.once('error', fail);
    });
    expect(JSON.parse(first)).toMatchObject({ kind: 'ticket' });
    socket.terminate();
    // a page of the plain door is another page than one of the other
    const crossed = new WebSocket(`${scheme}://127.0.0.1:${port}/api/v1/live`, {
      rejectUnauthorized: false,
      origin: `${origin === 'http' ? 'https' : 'http'}://127.0.0.1:${port}`,
    });
    expect(await new Promise((done) => crossed.once('error', (e) => done(e.message)))).toContain('403');
  }
  // nonsense before it is either
  const nonsense = await ask(`http://127.0.0.1:${port}/`, { host: 'evil.example' });
  expect(nonsense.status).toBe(421);
});

test('elsewhere plain HTTP is only told the other door, and no foreign name', async () => {
  const { port } = await serve(false);
  expect(await ask(`http://127.0.0.1:${port}/m/P-11?x=1`)).toMatchObject({ status: 308, location: `https://127.0.0.1:${port}/m/P-11?x=1` });
  expect(await ask(`http://127.0.0.1:${port}/`, { host: '192.0.2.1' })).toMatchObject({ status: 308, location: 'https://192.0.2.1/' });
  expect(await ask(`http://127.0.0.1:${port}/`, { host: 'evil.example' })).toMatchObject({ status: 421, location: undefined });
  const here = await ask(`https://127.0.0.1:${port}/api/v1/devices/here`);
  expect(JSON.parse(here.body)).toEqual({ allowed: false, local: false, device: null });
});

test('the certificate is kept, made anew for other names, and its key is for its owner alone', async () => {
  const first = await selfMadeCertificate(folder, ['127.0.0.1']);
  expect((await selfMadeCertificate(folder, ['127.0.0.1'])).fingerprint).toBe(first.fingerprint);
  const other = await selfMadeCertificate(folder, ['127.0.0.1', 'pilot.example']);
  expect(other.fingerprint).not.toBe(first.fingerprint);
  expect(statSync(join(folder, 'certificate-key.pem')).mode & 0o077).toBe(0);
  expect(ownCertificate(join(folder, 'certificate.pem'), join(folder, 'certificate-key.pem')).fingerprint).toBe(other.fingerprint);
  expect(() => ownCertificate(join(folder, 'none.pem'), join(folder, 'none.pem'))).toThrow('cannot be read');
});

describe('half a sentence keeps no connection', () => {
  const ended = (socket: Socket): Promise<void> => new Promise((done) => socket.once('close', () => done()));
  let port: number;
  beforeAll(async () => {
    ({ port } = await serve(true, { head: 400, request: 1200, look: 100, perAddress: 2 }));
  });
  const plainly = (text: string) => {
    const socket = tcp(port, '127.0.0.1');
    socket.on('error', () => undefined);
    socket.resume().write(text);
    return socket;
  };

  test.each([
    ['nothing at all', ''],
    ['a letter', 'G'],
    ['half a head', 'GET /api/v1/devices/here HTTP/1.1\r\nHost: 127.0.0.1\r\nX-Half: '],
    ['half a body', 'POST /api/v1/devices/pair HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Type: application/json\r\nContent-Length: 900\r\n\r\n{"code":'],
    ['a head sent letter by letter', 'GET /'],
    ['half a greeting of TLS', '\x16\x03\x01\x02\x00\x01\x00'],
  ])('%s', async (what, text) => {
    const socket = plainly(text);
    const gone = ended(socket);
    const letters = what.includes('by letter') ? setInterval(() => socket.write('a'), 50) : undefined;
    await gone;
    clearInterval(letters);
  });

  test('TLS that is shaken and then says half a head', async () => {
    const socket = secureTo({ port, host: '127.0.0.1', rejectUnauthorized: false });
    socket.on('error', () => undefined);
    await new Promise((done) => socket.once('secureConnect', done));
    socket.resume().write('GET / HT');
    await ended(socket);
  });

  test('a socket that is open stays so: no time-out of a request is one of it', async () => {
    const socket = new WebSocket(`ws://127.0.0.1:${port}/api/v1/live`);
    await new Promise((done) => socket.once('open', done));
    // as long as a request may take, and longer
    for (let pongs = 0; pongs < 20; pongs++) {
      const answered = new Promise((done) => socket.once('message', done));
      await new Promise((done) => setTimeout(done, 100));
      socket.send('{"kind":"ping","sent":1}');
      await answered;
    }
    expect(socket.readyState).toBe(WebSocket.OPEN);
    socket.terminate();
  });

  test('one address has so many connections and no more, and the next when one of them has gone', async () => {
    // an address of this computer that is not loopback; on one that has none there is nobody to count
    const own = Object.values(networkInterfaces())
      .flat()
      .find((a) => a && !a.internal && a.family === 'IPv4')?.address;
    if (!own) return;
    const certificate = await selfMadeCertificate(folder, ['127.0.0.1', 'localhost']);
    const doors = twoDoors(certificate, true, [own], { head: 30_000, request: 30_000, look: 1000, perAddress: 2 });
    doors.factory((_request, response) => response.end());
    const there = await doors.listen('0.0.0.0', 0);
    const open = async () => {
      const socket = tcp(there, own);
      socket.on('error', () => undefined);
      let closed = false;
      socket.once('close', () => (closed = true));
      // answered by the door that tells where the other is, or cut
      const answered = new Promise((done) => (socket.once('data', done), socket.once('close', done)));
      socket.write(`GET / HTTP/1.1\r\nHost: ${own}\r\n\r\n`);
      await answered;
      return { socket, closed: () => closed };
    };
    const first = await open();
    const second = await open();
    const third = await open();
    expect([first.closed(), second.closed(), third.closed()]).toEqual([false, false, true]);
    first.socket.destroy();
    await until(async () => {
      const next = await open();
      next.socket.destroy();
      return !next.closed();
    });
    second.socket.destroy();
    await doors.close();
  });
});
