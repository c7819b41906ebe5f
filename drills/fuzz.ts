/**
 * npm run drill:fuzz -- --requests N --json: requests made from the server's own OpenAPI document, sound ones and mutated ones, with
 * messages on the socket beside them. Whatever comes in, the server answers, and never with a 5xx.
 */
import '@yare/books/all';
import { randomInt } from 'node:crypto';
import { present } from '@yare/core';
import { readFileSync } from 'node:fs';
import WebSocket from 'ws';
import { allBooks } from '@yare/books';
import { asked, DrillStack } from './stack';

const { count: requests, json } = asked('requests', 1000);
/** A request that is not answered within this hangs, ms. */
const longest = 60_000;
const atOnce = 6;

interface Schema {
  type?: string;
  const?: unknown;
  enum?: unknown[];
  pattern?: string;
  minLength?: number;
  maxLength?: number;
  minimum?: number;
  maximum?: number;
  exclusiveMinimum?: number;
  minItems?: number;
  maxItems?: number;
  items?: Schema;
  anyOf?: Schema[];
  properties?: Record<string, Schema>;
  required?: string[];
  patternProperties?: Record<string, Schema>;
}
interface Operation {
  parameters?: Array<{ name: string; in: string; required?: boolean; schema: Schema }>;
  requestBody?: { content: Record<string, { schema: Schema }> };
}

const seed = randomInt(2 ** 31);
/** A generator of its own, so that a run can be told by its seed (mulberry32). */
let state = seed;
function chance(): number {
  state = (state + 0x6d2b79f5) | 0;
  let t = Math.imul(state ^ (state >>> 15), 1 | state);
  t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
  return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
}
const upTo = (n: number) => Math.floor(chance() * n);
/** One of a list that is not empty; what it holds may be undefined. */
const one = <T>(list: readonly T[]): T => list[upTo(list.length)] as T;

const stack = await DrillStack.start();
const { paths } = (await stack.call<{ paths: Record<string, Record<string, Operation>> }>('GET', '/openapi.json')).body;
const operations = Object.entries(paths).flatMap(([path, methods]) =>
  Object.entries(methods).map(([method, o]) => ({ path, method: method.toUpperCase(), o })),
);
const tags = (await stack.call<Array<{ tag: string }>>('GET', '/machines')).body.map((m) => m.tag);
const books = allBooks();

/** Values that mean something here, by the name of their field. */
const known: Record<string, () => unknown> = {
  tag: () => (chance() < 0.9 ? one(tags) : `Z-${upTo(9999)}`),
  bookId: () => one(books).id,
  size: () => one(one(books).ratings).size,
  code: () => one(one(books).settings).code,
  codes: () => Array.from({ length: 1 + upTo(6) }, () => one(one(books).settings).code),
  revision: () => 1 + upTo(12),
  id: () => 1 + upTo(30),
  unitId: () => 1 + upTo(30),
  author: () => 'Drill',
  kind: () => one(['draft', 'in drive', 'as found', 'pump', 'fan']),
};

/** What schemas do not foresee. */
const nasty: unknown[] = [
  null,
  true,
  -1,
  0,
  1.5,
  1e308,
  -1e308,
  2 ** 31,
  2 ** 53,
  '',
  ' ',
  '\u0000',
  'a\u0000b',
  '\ud800',
  '\u202e',
  '=1+1',
  "'; drop table machines; --",
  '../../etc/passwd',
  '%00',
  'x'.repeat(5000),
  '𝕏😀',
  [],
  {},
  [[[[[[[[]]]]]]]],
  { __proto__: { a: 1 }, constructor: 1 },
  '__proto__',
];

function sound(s: Schema, name = ''): unknown {
  if (s.const !== undefined) return s.const;
  if (s.enum) return one(s.enum);
  const own = known[name];
  if (own && chance() < 0.85) return own();
  if (s.anyOf) return sound(one(s.anyOf), name);
  if (s.type === 'object' || s.properties || s.patternProperties) {
    const out: Record<string, unknown> = {};
    for (const [key, p] of Object.entries(s.properties ?? {})) if (s.required?.includes(key) || chance() < 0.7) out[key] = sound(p, key);
    for (const p of Object.values(s.patternProperties ?? {}))
      for (let i = upTo(3); i > 0; i--) out[one(['mode', 'run', 'valve', 'inertia', 'x'])] = sound(p);
    return out;
  }
  if (s.type === 'array') {
    const length = Math.min(s.maxItems ?? 6, (s.minItems ?? 0) + upTo(4));
    return Array.from({ length }, () => sound(s.items ?? {}, name === 'codes' ? 'code' : ''));
  }
  if (s.type === 'integer' || s.type === 'number') {
    const low = s.minimum ?? s.exclusiveMinimum ?? -100;
    const high = Math.min(s.maximum ?? 1000, low + 1e6);
    const value = chance() < 0.15 ? one([low, high]) : low + chance() * (high - low);
    return s.type === 'integer' ? Math.round(value) : value;
  }
  if (s.type === 'boolean') return chance() < 0.5;
  if (s.type === 'null') return null;
  return 'words'.slice(0, s.maxLength ?? 5).padEnd(s.minLength ?? 0, 'x');
}

/** The same with something wrong in it, anywhere. */
function mutated(value: unknown): unknown {
  if (typeof value === 'object' && value !== null && chance() < 0.8) {
    const keys = Object.keys(value);
    if (keys.length > 0) {
      const key = one(keys);
      const copy = (Array.isArray(value) ? [...(value as unknown[])] : { ...value }) as Record<string, unknown>;
      if (chance() < 0.15) delete copy[key];
      else if (chance() < 0.1) copy[one(['extra', '__proto__', 'a\u0000'])] = one(nasty);
      else copy[key] = mutated(copy[key]);
      return copy;
    }
  }
  return one(nasty);
}

const asPart = (value: unknown): string =>
  encodeURIComponent(typeof value === 'string' ? value.replace(/[\ud800-\udfff]/g, '') : (JSON.stringify(value) ?? ''));

const jpeg = Buffer.from('ffd8ffe000104a46494600010100000100010000ffdb004300', 'hex');
const status: Record<string, number> = {};
const faults: string[] = [];
let hangs = 0;

async function request(): Promise<void> {
  const { path, method, o } = one(operations);
  const bad = chance() < 0.45;
  let url = path;
  const query: string[] = [];
  for (const p of o.parameters ?? []) {
    const value = bad && chance() < 0.25 ? one(nasty) : sound(p.schema, p.name);
    if (p.in === 'path') url = url.replace(`{${p.name}}`, asPart(value) || 'x');
    else if (p.required || chance() < 0.5) query.push(`${p.name}=${asPart(value)}`);
  }
  if (query.length > 0) url += `?${query.join('&')}`;
  const schema = Object.values(o.requestBody?.content ?? {})[0]?.schema;
  const headers: Record<string, string> = {};
  let body: string | Buffer | undefined;
  if (path.endsWith('/photos') && method === 'POST') {
    headers['content-type'] = one(['image/jpeg', 'image/png', 'text/html']);
    body = Buffer.concat([jpeg, Buffer.alloc(upTo(4000), upTo(256))]);
  } else if (schema) {
    const made = sound(schema);
    headers['content-type'] = bad && chance() < 0.1 ? one(['text/plain', 'application/xml', '']) : 'application/json';
    body = JSON.stringify(bad && chance() < 0.8 ? mutated(made) : made) ?? '';
    if (bad && chance() < 0.08) body = one([body.slice(0, upTo(body.length + 1)), `${body}}`, '{"a":1e999}', '\u0000', '['.repeat(2000)]);
  } else if (method !== 'GET' && chance() < 0.3) {
    headers['content-type'] = 'application/json';
    body = '{}';
  }
  try {
    const response = await fetch(stack.url + url, {
      method,
      headers,
      ...(body !== undefined && { body: typeof body === 'string' ? body : new Uint8Array(body) }),
      signal: AbortSignal.timeout(longest),
    });
    const text = await response.text();
    status[response.status] = (status[response.status] ?? 0) + 1;
    if (response.status >= 500) faults.push(`${response.status} ${method} ${url} ${String(body).slice(0, 300)} → ${text.slice(0, 200)}`);
  } catch (error) {
    if ((error as Error).name === 'TimeoutError') {
      hangs += 1;
      faults.push(`no answer: ${method} ${url} ${String(body).slice(0, 200)}`);
    } else {
      status.refused = (status.refused ?? 0) + 1;
      if (stack.server.child.exitCode !== null) throw new Error(`the server ended: ${stack.server.tail()}`);
    }
  }
}

/** Nonsense and near-sense on a socket; it must go on answering a ping. */
async function socketRound(messages: number): Promise<void> {
  const socket = new WebSocket(`ws://127.0.0.1:${stack.port}/api/v1/live`);
  let ticket = '';
  let pong = false;
  socket.on('message', (raw) => {
    const m = JSON.parse(String(raw)) as { kind: string; ticket?: string };
    if (m.kind === 'ticket') ticket = present(m.ticket);
    if (m.kind === 'pong') pong = true;
  });
  socket.on('error', () => undefined);
  await new Promise<void>((done) => {
    socket.once('open', done);
    socket.once('close', done);
  });
  const sentNow = () => performance.now();
  for (let i = 0; i < messages && socket.readyState === WebSocket.OPEN; i++) {
    const sane: Array<Record<string, unknown>> = [
      { kind: 'watch', tags: Array.from({ length: upTo(9) }, () => one(tags)) },
      { kind: 'begin', tag: one(tags), author: 'Drill', frequency: -600 + upTo(1200), ticket, sent: sentNow() },
      { kind: 'repeat', ticket, sent: sentNow() },
      { kind: 'release', ticket },
      { kind: 'ping', sent: sentNow() },
    ];
    const message = chance() < 0.5 ? one(sane) : mutated(one(sane));
    const raw =
      chance() < 0.1 ? one(['{', '', '\u0000', 'null', '[]', Buffer.from([0xff, 0xfe]), 'x'.repeat(60_000)]) : (JSON.stringify(message) ?? '');
    socket.send(raw);
    if (i % 20 === 19) await new Promise((done) => setTimeout(done, 100));
  }
  if (socket.readyState === WebSocket.OPEN) {
    pong = false;
    socket.send(JSON.stringify({ kind: 'ping', sent: sentNow() }));
    for (let i = 0; i < 400 && !pong && socket.readyState === WebSocket.OPEN; i++) await new Promise((done) => setTimeout(done, 25));
    if (!pong && socket.readyState === WebSocket.OPEN) {
      hangs += 1;
      faults.push('a socket was not answered');
    }
  }
  socket.terminate();
}

const memory = (field: string): number => {
  const text = readFileSync(`/proc/${stack.server.child.pid}/status`, 'utf8');
  return Math.round(Number(new RegExp(`^${field}:\\s+(\\d+)`, 'm').exec(text)?.[1] ?? 0) / 1024);
};
const rssStartMb = memory('VmRSS');
let left = requests;
const worker = async () => {
  while (left-- > 0) await request();
};
const sockets = (async () => {
  for (let i = 0; i < Math.ceil(requests / 500) && left > 0; i++) await socketRound(100);
})();
await Promise.all([...Array.from({ length: atOnce }, worker), sockets]);
const alive = (await stack.call('GET', '/health')).status === 200;
const report = {
  requests,
  status,
  serverErrors: Object.entries(status).reduce((sum, [s, n]) => sum + (Number(s) >= 500 ? n : 0), 0),
  hangs,
  rssStartMb,
  rssPeakMb: memory('VmHWM'),
  alive,
  seed,
};
if (faults.length > 0) faults.push(...stack.unforeseen());
await stack.stop();
for (const f of faults.slice(0, 20)) console.error(f);
console.log(
  json
    ? JSON.stringify(report)
    : Object.entries(report)
        .map(([k, v]) => `${k} ${JSON.stringify(v)}`)
        .join('\n'),
);
process.exit(report.serverErrors === 0 && hangs === 0 && alive ? 0 : 1);
