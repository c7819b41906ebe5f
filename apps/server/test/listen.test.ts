import http from 'node:http';
import { present } from '@yare/core';
import https from 'node:https';
import { mkdtempSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { TLSSocket } from 'node:tls';
import WebSocket from 'ws';
import type { Here } from '@yare/contract';
import { buildApp } from '../src/app';
import { ownCertificate, selfMadeCertificate } from '../src/door/certificate';
import { connect, migrate } from '../src/db/connect';
import { twoDoors, type TwoDoors } from '../src/door/listen';
import { freshDatabase } from './stack';

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

async function serve(plainHere: boolean): Promise<{ port: number; doors: TwoDoors; fingerprint: string }> {
  const { db, url, drop } = await freshDatabase();
  await migrate(db);
  await db.destroy();
  const own = connect(url);
  const certificate = await selfMadeCertificate(folder, ['127.0.0.1', 'localhost']);
  const doors = twoDoors(certificate, plainHere, ['192.0.2.1']);
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
}, 30_000);

test('elsewhere plain HTTP is only told the other door, and no foreign name', async () => {
  const { port } = await serve(false);
  expect(await ask(`http://127.0.0.1:${port}/m/P-11?x=1`)).toMatchObject({ status: 308, location: `https://127.0.0.1:${port}/m/P-11?x=1` });
  expect(await ask(`http://127.0.0.1:${port}/`, { host: '192.0.2.1' })).toMatchObject({ status: 308, location: 'https://192.0.2.1/' });
  expect(await ask(`http://127.0.0.1:${port}/`, { host: 'evil.example' })).toMatchObject({ status: 421, location: undefined });
  const here = await ask(`https://127.0.0.1:${port}/api/v1/devices/here`);
  expect(JSON.parse(here.body)).toEqual({ allowed: false, local: false, device: null });
}, 30_000);

test('the certificate is kept, made anew for other names, and its key is for its owner alone', async () => {
  const first = await selfMadeCertificate(folder, ['127.0.0.1']);
  expect((await selfMadeCertificate(folder, ['127.0.0.1'])).fingerprint).toBe(first.fingerprint);
  const other = await selfMadeCertificate(folder, ['127.0.0.1', 'pilot.example']);
  expect(other.fingerprint).not.toBe(first.fingerprint);
  expect(statSync(join(folder, 'certificate-key.pem')).mode & 0o077).toBe(0);
  expect(ownCertificate(join(folder, 'certificate.pem'), join(folder, 'certificate-key.pem')).fingerprint).toBe(other.fingerprint);
  expect(() => ownCertificate(join(folder, 'none.pem'), join(folder, 'none.pem'))).toThrow('cannot be read');
});
