/**
 * npm run drill:stall -- --requests N --json: every kind of request of the product, one and then ten at once, while hands hold two machines:
 * how long the thread that serves them stood still, measured in that thread, and what the hands noticed. Then a hundred clients that watch
 * everything while a recorder samples at 20 ms: how many of its samples are missing.
 */
import '@yare/books/all';
import { fork } from 'node:child_process';
import { setTimeout as pause } from 'node:timers/promises';
import { parseArgs } from 'node:util';
import { join } from 'node:path';
import sharp from 'sharp';
import type { RecorderStatus, RecordingMeta, Sheets } from '@yare/contract';
import { present } from '@yare/core';
import { Quiet } from '../scripts/lib/quiet.mjs';
import { DrillStack } from './stack';
import { Starvation } from './starvation';

const { values } = parseArgs({
  options: {
    json: { type: 'boolean', default: false },
    /** less of everything, for the test command */
    short: { type: 'boolean', default: false },
    /** the last part alone */
    'only-clients': { type: 'boolean', default: false },
  },
});
const { short } = values;
const author = 'Drill';
const say = (text: string) => console.error(text);
/** Machines hands hold meanwhile, and the one that is written to and recorded. */
const heldTags = ['M-55', 'C-07'];
const busyTag = 'P-11';
/** s and samples a second of the recording that is asked for, and s the recorder records. */
const [length, rate] = short ? [300, 50] : [3600, 50];
const recordFor = short ? 5 : 60;
const clients = short ? 20 : 100;
const atOnce = 10;
/** What a thread's own standing still comes to at most on a machine that has nothing else to do, ms. */
const wanted = 50;
/** What a thread's own standing still may come to where the machine is busy with other things as well, ms. */
const longest = 250;
/** A share of the processor in other machines' hands from which the many clients are asked again, how often, and ms all waiting may take. */
const quiet = new Quiet({ lent: 0.05, again: short ? 0 : 3, patience: short ? 0 : 300_000 });
/** A wait for a processor from which a hold that ended is this machine's, ms. */
const starved = 100;

const stack = await DrillStack.start({ straight: true, env: { NODE_OPTIONS: `--import ${join(import.meta.dirname, 'probe.mjs')}` } });
const api = `${stack.url}/api/v1`;

/** A database that waits for a processor answers late, and whoever holds is rightly stopped. */
const database = new Starvation(() => stack.databasePids(), false);

/** The worst since it was last asked, ms: as it stood, and without what it waited for a processor. */
const stalls = (): Promise<{ stood: number; own: number }> =>
  new Promise((done) => {
    const hear = (message: { stalls?: { stood: number; own: number } }) => {
      if (!message.stalls) return;
      stack.server.child.off('message', hear);
      done(message.stalls);
    };
    stack.server.child.on('message', hear);
    stack.server.child.send('stalls');
  });

const toBase64 = (figures: Float32Array | Float64Array): string => Buffer.from(figures.buffer).toString('base64');

/** What another instrument recorded: eight channels that move, as they are sent. */
function recordingOf(seconds: number): string {
  const n = seconds * rate;
  const time = Float64Array.from({ length: n }, (_, i) => i / rate);
  const row = (k: number) => Float32Array.from(time, (t) => 100 * k + 10 * Math.sin(t / (k + 1)) + ((t * 7919) % 1));
  return JSON.stringify({
    ...{ author, title: `${seconds} s of eight channels`, startedAt: null, marks: [{ time: 1, label: 'Here' }], time: toBase64(time) },
    channels: Array.from({ length: 8 }, (_, k) => ({ key: `c${k}`, name: `Channel ${k}`, unit: 'A', decimals: 2 })),
    values: Array.from({ length: 8 }, (_, k) => toBase64(row(k))),
  });
}

interface Kind {
  name: string;
  ask(n: number): Promise<Response>;
}
const json = (method: string, path: string, body: unknown) => () =>
  fetch(`${api}${path}`, { method, headers: { 'content-type': 'application/json' }, body: typeof body === 'string' ? body : JSON.stringify(body) });
const get = (path: string): Kind => ({ name: `GET ${path}`, ask: () => fetch(`${api}${path}`) });

const large = recordingOf(length);
const recording = (await (await json('POST', `/machines/${busyTag}/recordings`, large)()).json()) as RecordingMeta;
const noRecording = JSON.stringify({ author, nonsense: 'x'.repeat(46 * 1024 * 1024) });
const deep = `${'['.repeat(2_000_000)}${']'.repeat(2_000_000)}`;
const picture = await sharp({
  create: { width: 4000, height: 3000, channels: 3, noise: { type: 'gaussian', mean: 120, sigma: 40 }, background: '#000' },
})
  .jpeg({ quality: 70 })
  .toBuffer()
  .then((jpeg) => new Uint8Array(jpeg));
const drawing = `<svg xmlns="http://www.w3.org/2000/svg" width="7000" height="7000"><filter id="f">${'<feTurbulence baseFrequency=".9" numOctaves="9"/><feGaussianBlur stdDeviation="90"/>'.repeat(60)}</filter><rect width="7000" height="7000" filter="url(#f)"/></svg>`;
const photo = (body: Uint8Array<ArrayBuffer> | string, type: string) => () =>
  fetch(`${api}/machines/${busyTag}/photos?author=${author}`, { method: 'POST', headers: { 'content-type': type }, body });
await json('POST', '/machines/P-43/lock', { author, code: '4711' })();

const { paths } = (await (await fetch(`${api}/openapi.json`)).json()) as { paths: Record<string, Record<string, unknown>> };
const filled = (path: string) =>
  path
    .replace('/api/v1', '')
    .replace('{tag}', busyTag)
    .replace('{kind}', 'draft')
    .replace('{bookId}', 'osier-g')
    .replace('{revision}', '1')
    .replace(/\{\w+\}/g, String(recording.id));
/** Everything that can be read, by the server's own description of itself. */
const reads = Object.entries(paths)
  .filter(([path, methods]) => 'get' in methods && !/live|comtrade/.test(path))
  .map(([path]) => get(filled(path)));
const kinds: Kind[] = [
  get(`/recordings/${recording.id}/csv`),
  get(`/recordings/${recording.id}/comtrade?form=ASCII`),
  get(`/recordings/${recording.id}/comtrade?form=BINARY`),
  get(`/recordings/${recording.id}/samples`),
  get(`/machines/${busyTag}/wiring-list.pdf`),
  { name: 'a recording taken in', ask: json('POST', `/machines/${busyTag}/recordings`, large) },
  { name: '46 MB that are no recording', ask: json('POST', `/machines/${busyTag}/recordings`, noRecording) },
  { name: 'brackets in brackets', ask: json('POST', `/machines/${busyTag}/recordings`, deep) },
  { name: 'a photo', ask: photo(picture, 'image/jpeg') },
  { name: 'a drawing said to be a photo', ask: photo(drawing, 'image/png') },
  { name: 'a code tried', ask: json('POST', '/machines/P-43/unlock', { author, code: '0000' }) },
  { name: 'a machine as a recording', ask: json('PUT', `/machines/${busyTag}/plate`, 'x'.repeat(900_000)) },
  {
    name: 'the draft edited',
    ask: async (n) => {
      const { draft } = (await (await fetch(`${api}/machines/P-41/sheets`)).json()) as Sheets;
      return json('PUT', '/machines/P-41/draft', { author, revision: draft.revision, changes: [{ code: '3/1', value: 5 + n, source: 'chosen' }] })();
    },
  },
  { name: 'the drive read', ask: json('POST', '/machines/P-42/read', { author }) },
  ...(short ? [] : reads),
];

// two hands that hold, in a process of their own
const ended: Array<{ tag: string; cause: string; during: string; starved: boolean }> = [];
let during = 'the beginning';
let held = 0;
const hands = (tags: readonly string[], watching: number) =>
  fork(
    join(import.meta.dirname, 'holder.ts'),
    [
      `ws://127.0.0.1:${stack.port}/api/v1/live`,
      tags.join(),
      String(watching),
      [...heldTags, busyTag, 'P-41', 'P-42', 'P-43', 'F-32', 'C-21'].join(),
    ],
    {
      execArgv: ['--import', 'tsx'],
    },
  );
const hand = hands(heldTags, 0);
hand.on('message', (m: { held?: string; ended?: string; cause?: string; reason?: string }) => {
  if (m.held) held += 1;
  if (m.ended) {
    ended.push({ tag: m.ended, cause: String(m.cause), during, starved: false });
    say(`  ${m.ended} ended: ${m.cause}, ${m.reason}, during ${during}`);
  }
});
while (held < heldTags.length) await pause(100);

const worst = { stood: 0, own: 0 };
let requests = 0;
const status: Record<number, number> = {};
const found: Record<string, { one: number; ten: number }> = {};
/** How often what looks long is asked once more, where another machine had the processor meanwhile. */
const onceMore = short ? 0 : 3;
async function measured(name: string, count: number, kind: Kind): Promise<number> {
  during = name;
  const asked = async () => {
    await stalls();
    database.begin();
    await Promise.all(
      Array.from({ length: count }, async (_, n) => {
        const response = await kind.ask(n).catch(() => null);
        requests += 1;
        const code = response?.status ?? 0;
        status[code] = (status[code] ?? 0) + 1;
        // read to its end, as whoever saves it does
        await response?.arrayBuffer().catch(() => null);
      }),
    );
    return stalls();
  };
  for (let left = onceMore; ; left -= 1) {
    const { found: stall, stolen } = await quiet.watched(asked);
    const { stood, own } = stall;
    const lent = stolen > quiet.lent;
    // a thread that waited for a processor tells nothing of what was asked of it
    if (lent || stood - own > starved || database.end() > starved) for (const e of ended) e.starved ||= e.during === name;
    if (lent && own > wanted && left > 0) {
      quiet.disturbed.again += 1;
      await quiet.spellOfQuiet();
      continue;
    }
    worst.stood = Math.max(worst.stood, stood);
    worst.own = Math.max(worst.own, own);
    return Math.round(own);
  }
}
for (const kind of values['only-clients'] ? [] : kinds) {
  const one = await measured(kind.name, 1, kind);
  const ten = await measured(`${kind.name}, ten at once`, atOnce, kind);
  found[kind.name] = { one, ten };
  say(`${kind.name.slice(0, 60).padEnd(60)} ${String(one).padStart(5)} ms, ten at once ${String(ten).padStart(5)} ms`);
}
const mix = kinds.slice(0, 12);
if (!values['only-clients'])
  say(`a mix of all: ${await measured('a mix of all', mix.length, { name: 'a mix of all', ask: (n) => present(mix[n]).ask(n) })} ms`);

// a hundred clients that watch everything, and a recorder that wants fifty samples a second
during = 'many clients';
const crowd = hands([], clients);
await new Promise<void>((done) => crowd.on('message', (m: { watching?: number }) => void (m.watching && done())));
const arming = { trigger: { kind: 'now' }, channels: ['busVoltage', 'outputFrequency'], before: 0, after: recordFor, every: 20, again: false };
/** What the recorder kept while they watched, and how the thread stood. */
async function watchedByMany() {
  // what ended while it was asked before, another machine had a hand in
  for (const e of ended) e.starved ||= e.during === during;
  await stalls();
  database.begin();
  await json('POST', `/machines/${busyTag}/recorder`, { author, arming })();
  let recorder: RecorderStatus;
  do {
    await pause(500);
    recorder = (await (await fetch(`${api}/machines/${busyTag}/recorder`)).json()) as RecorderStatus;
  } while (recorder.armed !== null);
  const meta = (await (await fetch(`${api}/recordings/${present(recorder.lastId)}`)).json()) as RecordingMeta;
  const stood = await stalls();
  if (stood.stood - stood.own > starved || database.end() > starved) for (const e of ended) e.starved ||= e.during === during;
  return { recording: meta, ...stood };
}
const { recording: recorded, own: watchedOwn } = await quiet.undisturbed(watchedByMany);
crowd.disconnect();
hand.disconnect();
database.stop();
const report = {
  loopStoodStillWorstMs: Math.round(worst.own),
  loopLateWorstMs: Math.round(worst.stood),
  holdsDisturbed: ended.filter((e) => !e.starved).length,
  holdsStarved: ended.filter((e) => e.starved).length,
  requests,
  status,
  clients,
  // measured again, and measured though another machine took its share of the processor
  disturbed: quiet.disturbed,
  loopStoodStillWithClientsMs: Math.round(watchedOwn),
  samplesLostPercent: Number((100 * Math.max(0, 1 - recorded.samples / (recorded.duration / 0.02 + 1))).toFixed(2)),
  gapsTold: recorded.marks.filter((m) => /^No sample|gaps/.test(m.label)).length,
};
await stack.stop();
console.log(
  values.json
    ? JSON.stringify({ ...report, worstBy: found })
    : Object.entries(report)
        .map(([k, v]) => `${k} ${JSON.stringify(v)}`)
        .join('\n'),
);
const failed = Object.entries(status).some(([code, n]) => n > 0 && (code === '0' || code === '500'));
process.exit(report.holdsDisturbed === 0 && worst.own < longest && !failed ? 0 : 1);
