/**
 * npm run drill:kill -- --rounds N --json: server, bench and database are killed (SIGKILL) in the middle of edits, writes and runs. What
 * was acknowledged must be there afterwards, nothing may stand half done, what broke off must be gone on with, and nothing may turn again.
 */
import '@yare/books/all';
import { setTimeout as pause } from 'node:timers/promises';
import { present } from '@yare/core';
import { bookById, settingsOf } from '@yare/books';
import type { MachineDetail, Sheet, Sheets, WriteJob, WriteReport } from '@yare/contract';
import { Device } from '../apps/server/test/device';
import { asked, DrillStack, Watcher } from './stack';

const { count: rounds, json } = asked('rounds', 30);
const author = 'Drill';
/** A motor must have begun to fall within this after a kill, ms. */
const longest = 4000;

interface Edit {
  tag: string;
  revision: number;
  code: string;
  value: number;
}

const stack = await DrillStack.start();
const victims = ['server', 'bench', 'database'] as const;
const detail = async (tag: string) => (await stack.call<MachineDetail>('GET', `/machines/${tag}`)).body;
const details = Object.fromEntries(await Promise.all(['P-41', 'P-42', 'C-07', 'M-55'].map(async (tag) => [tag, await detail(tag)] as const)));
const belt = await Watcher.on(stack.benchPort, present(details['C-07']));
const agitator = await Watcher.on(stack.benchPort, present(details['M-55']));

const acknowledged: Edit[] = [];
let going = true;

/** Settings of a machine that take any figure of their range. */
const freeSettings = (tag: string) => {
  const m = present(details[tag]);
  return settingsOf(bookById(m.bookId), m.size).filter((s) => ['accelerationTime', 'decelerationTime'].includes(s.role ?? ''));
};

async function editOnce(tag: string): Promise<number | null> {
  const sheets = await stack.call<Sheets>('GET', `/machines/${tag}/sheets`);
  if (sheets.status !== 200) return null;
  const settings = freeSettings(tag);
  const changes = settings.map((s) => ({ code: s.code, value: s.min + s.step * Math.round((Math.random() * 20) / s.step), source: 'chosen' }));
  const answer = await stack.call<Sheet>('PUT', `/machines/${tag}/draft`, { author, revision: sheets.body.draft.revision, changes });
  if (answer.status !== 200) return null;
  for (const c of changes) acknowledged.push({ tag, revision: answer.body.revision, code: c.code, value: c.value });
  return answer.body.revision;
}

async function keepEditing(tag: string): Promise<void> {
  while (going) {
    await editOnce(tag).catch(() => null);
    await pause(5);
  }
}

/** Edits and writes to the drive, all of its writable settings, so that a kill falls into the middle. */
async function keepWriting(tag: string): Promise<void> {
  const m = present(details[tag]);
  const codes = settingsOf(bookById(m.bookId), m.size).flatMap((s) => (s.access === 'read' ? [] : [s.code]));
  while (going) {
    const revision = await editOnce(tag).catch(() => null);
    if (revision !== null) await stack.call<WriteReport>('POST', `/machines/${tag}/write`, { author, revision, codes }).catch(() => null);
    await pause(20);
  }
}

/** Holds a motor; null when it was not brought to turn before the kill. */
async function holdSome(w: Watcher): Promise<Device | null> {
  const device = new Device(`ws://127.0.0.1:${stack.port}/api/v1/live`, author, { watch: [w.tag] });
  try {
    await device.ready;
    for (let i = 0; i < 100 && device.live(w.tag)?.state !== 'ready'; i++) await pause(30);
    device.hold(w.tag, 12);
    for (let i = 0; i < 200; i++) {
      if ((await w.output()) > 1.5) return device;
      await pause(20);
    }
  } catch {
    // a server that is away
  }
  device.close();
  return null;
}

async function kill(victim: (typeof victims)[number]): Promise<void> {
  if (victim === 'server') await stack.server.stop('SIGKILL');
  else if (victim === 'bench') await stack.bench.stop('SIGKILL');
  else {
    const pid = stack.database.pid();
    if (pid) process.kill(pid, 'SIGKILL');
  }
}

async function bring(victim: (typeof victims)[number]): Promise<void> {
  if (victim === 'server') await stack.startServer();
  else if (victim === 'bench') {
    await stack.startBench();
    await belt.again();
    await agitator.again();
  } else await stack.startDatabase();
  for (let i = 0; ; i++) {
    const health = await stack.call<{ ok: boolean; drives: { linked: number } }>('GET', '/health').catch(() => null);
    if (health?.body?.ok && health.body.drives.linked >= 8) return;
    if (i > 1200) throw new Error(`${victim} did not come back`);
    await pause(50);
  }
}

/** A motor that was held falls, and does not rise again. */
async function fallsFor(w: Watcher, killed: 'bench' | 'other'): Promise<'fell' | 'ran on' | 'restarted'> {
  const from = performance.now();
  let peak = 0;
  let low = Infinity;
  while (performance.now() - from < longest) {
    const hertz = await w.output().catch(() => null);
    if (hertz === null && killed === 'bench') return 'fell';
    if (hertz !== null) {
      peak = Math.max(peak, hertz);
      if (hertz < peak - 0.1) low = Math.min(low, hertz);
      if (hertz > low + 0.5) return 'restarted';
      if (hertz < 0.2) return 'fell';
    }
    await pause(15);
  }
  return low < Infinity ? 'fell' : 'ran on';
}

/** What stands half done in the database: draft and log that do not belong together, drives without a draft, jobs and records never ended. */
async function halfStates(): Promise<string[]> {
  const find = async (what: string, sql: string) => (present((await stack.query<{ n: string }>(sql))[0]).n !== '0' ? [what] : []);
  return [
    ...(await find(
      'a draft revision without its event',
      `select count(*) as n from sheet_revisions s join machines m on m.id = s.machine_id where s.kind = 'draft' and s.author = '${author}' and not exists
       (select 1 from audit_events a where a.tag = m.tag and a.action = 'edit draft' and (a.detail->>'revision')::int = s.revision)`,
    )),
    ...(await find(
      'an event without its draft revision',
      `select count(*) as n from audit_events a join machines m on m.tag = a.tag where a.action = 'edit draft' and not exists
       (select 1 from sheet_revisions s where s.machine_id = m.id and s.kind = 'draft' and s.revision = (a.detail->>'revision')::int)`,
    )),
    ...(await find(
      'a drive without a draft',
      `select count(*) as n from machines m where not exists (select 1 from sheet_revisions s where s.machine_id = m.id and s.kind = 'draft' and s.drive_revision = m.drive_revision)`,
    )),
    ...(await find('a recording never closed', `select count(*) as n from recordings where not complete`)),
    ...(await find(
      'a recording with channels of different length',
      `select count(*) as n from (select recording_id, sequence, count(*) c from recording_chunks group by 1, 2) x where c <> 8`,
    )),
  ];
}

let brokenWrites = 0;
let resumed = 0;
let notResumed = 0;
let lost = 0;
let ranOn = 0;
let restarts = 0;
let held = 0;
const half: string[] = [];

for (let round = 0; round < rounds; round++) {
  const victim = present(victims[round % victims.length]);
  going = true;
  const tasks = [keepEditing('P-41'), keepEditing('P-42'), keepWriting('C-07')];
  const device = await holdSome(agitator);
  if (device) held += 1;
  await pause(100 + Math.random() * 900);
  await kill(victim);
  if (device) {
    const end = await fallsFor(agitator, victim === 'bench' ? 'bench' : 'other');
    if (end === 'ran on') ranOn += 1;
    if (end === 'restarted') restarts += 1;
  }
  going = false;
  await bring(victim);
  await Promise.all(tasks);
  device?.close();
  const job = (await stack.call<WriteJob | null>('GET', '/machines/C-07/write')).body;
  if (job?.state === 'writing') half.push('a write that goes on without anybody writing');
  if (job && (job.state === 'interrupted' || job.state === 'link lost') && job.lines.length > 0) {
    brokenWrites += 1;
    const answer = await stack.call<WriteReport>('POST', '/machines/C-07/write/resume', { author });
    if (answer.status === 200 && answer.body.outcome === 'kept') resumed += 1;
    // the draft was changed after that write began: it says so, and is written anew
    else if (answer.status === 409) resumed += 1;
    else notResumed += 1;
  }
  // records of runs that had ended are closed as soon as the database is back
  let found = await halfStates();
  for (let i = 0; i < 100 && found.length > 0; i++) {
    await pause(100);
    found = await halfStates();
  }
  half.push(...found);
  if (!json || round % 10 === 9) console.error(`${round + 1}: ${victim} killed, ${acknowledged.length} acknowledged so far`);
}

for (const tag of new Set(acknowledged.map((e) => e.tag))) {
  type Values = Record<string, { value: number }>;
  const rows = await stack.query<{ revision: number; values: Values | null; changed: Values | null }>(
    `select s.revision, s.values, s.changed from sheet_revisions s join machines m on m.id = s.machine_id where m.tag = $1 and s.kind = 'draft' order by s.revision`,
    [tag],
  );
  let sheet: Values = {};
  const byRevision = new Map(rows.map((r) => [r.revision, (sheet = r.values ?? { ...sheet, ...r.changed })]));
  for (const e of acknowledged.filter((x) => x.tag === tag)) if (byRevision.get(e.revision)?.[e.code]?.value !== e.value) lost += 1;
}
belt.close();
agitator.close();
await stack.stop();
const report = { rounds, acknowledged: acknowledged.length, lost, halfStates: half.length, brokenWrites, resumed, notResumed, held, ranOn, restarts };
console.log(
  json
    ? JSON.stringify(report)
    : Object.entries({ ...report, half })
        .map(([k, v]) => `${k} ${String(v)}`)
        .join('\n'),
);
process.exit(lost + half.length + notResumed + ranOn + restarts === 0 ? 0 : 1);
