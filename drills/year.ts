/**
 * npm run bench:year -- --json: a year of work put into a database, then every question a page asks, over and over: the median and the worst of
 * each, and beside the plant page's the same answer made the naive way, from all revisions there ever were.
 */
import '@yare/books/all';
import { performance } from 'node:perf_hooks';
import { present } from '@yare/core';
import { asked, DrillStack, median } from './stack';

const { count: rounds, json } = asked('rounds', 15);
const say = (text: string) => console.error(text);
/** What a year of a busy plant leaves behind, over its eight machines. */
const year = { revisions: 40_000, events: 250_000, recordings: 12_000, marksEach: 5, trips: 1600, proofs: 16_000, writes: 8000, plates: 800 };

const stack = await DrillStack.start();
const began = performance.now();
/** Numbers from 1, machines in turn, moments spread over a year. */
const from = (n: number) =>
  `from generate_series(1, ${n}) g join lateral (select id, tag from machines order by id offset (g % 8) limit 1) m on true`;
const moment = (n: number) => `now() - interval '365 days' * (1 - g::float / ${n})`;
const fills = {
  revisions: `insert into sheet_revisions (machine_id, drive_revision, kind, revision, author, at, figures, changed)
    select m.id, 1, case when g % 3 = 0 then 'in drive' else 'draft' end, 1000 + g, 'Editor ' || g % 7, ${moment(year.revisions)}, 1,
    jsonb_build_object('3a', jsonb_build_object('value', g % 50, 'source', 'chosen', 'author', 'Editor', 'at', now()::text)) ${from(year.revisions)}`,
  events: `insert into audit_events (at, author, action, tag, detail)
    select ${moment(year.events)}, 'Editor ' || g % 7, (array['edit draft','write to drive','hold to run','keep in drive','proof passed','tripped','trip gone'])[1 + g % 7], m.tag,
    jsonb_build_object('revision', g, 'changes', jsonb_build_array(jsonb_build_object('code', '3a', 'value', g % 50)), 'code', 11, 'name', 'x') ${from(year.events)}`,
  recordings: `insert into recordings (machine_id, kind, title, author, started_at, duration, samples, complete, channels)
    select m.id, 'run', 'Hold to run at 10 Hz', 'Editor', ${moment(year.recordings)}, 60, 1200, true, (select channels from recordings order by id limit 1) ${from(year.recordings)}`,
  marks: `insert into recording_marks (recording_id, time, label, author) select r.id, k, 'Mark ' || k, 'Editor' from recordings r, generate_series(1, ${year.marksEach}) k`,
  chunks: `insert into recording_chunks (recording_id, sequence, channel, data)
    select r.id, 0, c.channel, c.data from recordings r, (select channel, data from recording_chunks where recording_id = (select min(id) from recordings) and sequence = 0) c
    where r.id > (select min(id) from recordings)`,
  trips: `insert into trips (machine_id, source, code, cause, name, at, seen, snapshot, answers, closed)
    select m.id, 'link', 11, 'overvoltage', 'Bus overvoltage', ${moment(year.trips)}, true, (select snapshot from trips order by id limit 1), '{}',
    case when g % 10 = 0 then null else '{"cause":"x","cure":"y","proof":"z","author":"E","at":"2026-01-01T00:00:00Z"}'::jsonb end ${from(year.trips)}`,
  proofs: `insert into proofs (machine_id, stage, item, outcome, expected, measured, relied, author, at)
    select m.id, (array['plan','plate','direction','motion','process'])[1 + g % 5], (array['left','turned','stopped','stands'])[1 + g % 4], 'passed', 'x', 'y', '{}', 'Editor', ${moment(year.proofs)} ${from(year.proofs)}`,
  writes: `insert into write_jobs (machine_id, draft_revision, state, sentence, lines, author, at)
    select m.id, g, 'kept', 'Written', (select jsonb_agg(jsonb_build_object('code', k::text, 'asked', k, 'read', k)) from generate_series(1, 40) k), 'Editor', ${moment(year.writes)} ${from(year.writes)}`,
  plates: `insert into plate_revisions (machine_id, revision, plate, author, at)
    select m.id, 1000 + g, (select plate from plate_revisions order by id limit 1), 'Editor', ${moment(year.plates)} ${from(year.plates)}`,
};
// one of each is made by the product itself, and the year is made after it
await stack.call('POST', '/machines/P-11/read', { author: 'Drill' });
const time = Buffer.from(Float64Array.from({ length: 1200 }, (_, i) => i / 20).buffer).toString('base64');
const values = Array.from({ length: 7 }, (_, k) =>
  Buffer.from(Float32Array.from({ length: 1200 }, (_, i) => k + Math.sin(i / 30)).buffer).toString('base64'),
);
const channels = values.map((_, k) => ({ key: `c${k}`, name: `Channel ${k}`, unit: 'A', decimals: 2 }));
const made = await stack.call<{ id: number }>('POST', '/machines/P-11/recordings', {
  author: 'Drill',
  title: 'T',
  startedAt: null,
  time,
  values,
  channels,
  marks: [],
});
const trip = await stack.call<{ entry: { id: number } }>('POST', '/machines/P-11/trips', { author: 'Drill', code: 11, snapshot: {}, answers: {} });
for (const [name, sql] of Object.entries(fills)) {
  await stack.query(sql);
  say(`${name} filled, ${Math.round((performance.now() - began) / 1000)} s`);
}
// as the database does by itself within the minute
await stack.query('analyze');
const [size] = await stack.query<{ sheets: string; all: string; revision: string }>(
  `select pg_size_pretty(pg_total_relation_size('sheet_revisions')) as sheets, pg_size_pretty(pg_database_size(current_database())) as all,
  round(pg_total_relation_size('sheet_revisions') / (select count(*) from sheet_revisions)::numeric) as revision`,
);

const { paths } = (await stack.call<{ paths: Record<string, Record<string, unknown>> }>('GET', '/openapi.json')).body;
const filled = (path: string) =>
  path
    .replace('/api/v1', '')
    .replace('/trips/{id}', `/trips/${trip.body.entry.id}`)
    .replace('{tag}', 'P-11')
    .replace('{kind}', 'draft')
    .replace('{revision}', '1')
    .replace('{bookId}', 'osier-g')
    .replace('{id}', String(made.body.id));
const questions = Object.entries(paths)
  // files are made aside, and have a drill of their own
  .filter(([path, methods]) => 'get' in methods && !/live|comtrade|csv|samples|\.pdf|openapi/.test(path))
  .map(([path]) => filled(path));
questions.push(
  '/audit?tag=P-11',
  '/audit?before=100000',
  '/machines/P-11/recordings?before=6000',
  '/machines/P-11/revisions?before=20000',
  '/trips?tag=P-11',
);

const found: Record<string, { median: number; worst: number }> = {};
for (const path of questions) {
  // the first answer is of a program that has just begun
  await fetch(`${stack.url}/api/v1${path}`).then((r) => r.arrayBuffer());
  const times: number[] = [];
  for (let i = 0; i < rounds; i++) {
    const start = performance.now();
    const answer = await fetch(`${stack.url}/api/v1${path}`);
    await answer.arrayBuffer();
    times.push(performance.now() - start);
  }
  found[path] = { median: Number(present(median(times)).toFixed(1)), worst: Math.round(Math.max(...times)) };
}
const naive: number[] = [];
for (let i = 0; i < 3; i++) {
  const start = performance.now();
  await stack.query(
    `select distinct on (machine_id, kind) machine_id, kind, at, coalesce(values, changed) from sheet_revisions order by machine_id, kind, revision desc`,
  );
  naive.push(performance.now() - start);
}
const sorted = Object.entries(found).sort((a, b) => b[1].median - a[1].median);
const report = {
  rows: year,
  database: present(size).all,
  sheetRevisions: present(size).sheets,
  bytesARevision: Number(present(size).revision),
  questions: sorted.length,
  slowestMedianMs: present(sorted[0])[1].median,
  slowest: present(sorted[0])[0],
  above50: sorted.filter(([, t]) => t.median > 50).map(([path]) => path),
  naivePlantListMs: Math.round(present(median(naive))),
};
await stack.stop();
if (json) console.log(JSON.stringify({ ...report, found }));
else {
  for (const [path, t] of sorted)
    console.log(`${path.padEnd(52)} median ${String(t.median).padStart(6)} ms  worst ${String(t.worst).padStart(5)} ms`);
  for (const [k, v] of Object.entries(report)) console.log(`${k} ${JSON.stringify(v)}`);
}
process.exit(report.above50.length === 0 ? 0 : 1);
