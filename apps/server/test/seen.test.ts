import { present } from '@yare/core';
import { bookById, DriveSettings } from '@yare/books';
import { proofRelies } from '@yare/commissioning';
import { ProofFacts, type LiveSample, type MachineSeen, type Plan, type WatchId } from '@yare/contract';
import Ajv from 'ajv';
import { migrate } from '../src/db/connect';
import { leftBy } from '../src/leaving/leaving';
import { seedDemoPlant } from '../src/db/seed';
import type { Fleet } from '../src/link/fleet';
import { machineByTag } from '../src/machines/machines';
import { WatchedMachines } from '../src/seen/watching';
import { latestSheet, settingsOfSheet } from '../src/sheets/sheets';
import { sample } from './sample';
import { freshDatabase, startStack, until, type Stack } from './stack';

let stack: Stack;
beforeAll(async () => {
  stack = await startStack();
});
afterAll(() => stack.stop());

const author = 'Ines Calder';
const post = (path: string, payload: object = {}) => stack.app.inject({ method: 'POST', url: `/api/v1${path}`, payload: { author, ...payload } });
const seenAt = async (tag: string) => (await stack.app.inject({ url: `/api/v1/machines/${tag}/seen` })).json<MachineSeen>();
const found = ({ seen }: MachineSeen, id: WatchId) => seen.find((s) => s.watch === id)?.found;
const selectorOf = (seen: MachineSeen): Record<string, unknown> => ({ ...found(seen, 'selector')?.selector });

describe('with every page closed', () => {
  const tag = 'P-11';
  const turnTo = (position: number) => post(`/machines/${tag}/bench`, { panel: { mode: position } });
  const count = async () => {
    const m = await machineByTag(stack.db, tag);
    const drafted = settingsOfSheet(m, present(await latestSheet(stack.db, m, 'draft')).values);
    const proof = { stage: 'hand-off-auto', item: 'selector', outcome: 'passed', facts: null };
    return post(`/machines/${tag}/proofs`, { ...proofRelies('hand-off-auto', 'selector', { drafted }), ...proof });
  };

  test('what nobody watched was not seen, and counts for nothing', async () => {
    expect(await seenAt(tag)).toMatchObject({ until: null, seen: [] });
    const refused = await count();
    expect([refused.statusCode, refused.json().title]).toEqual([409, 'Not seen']);
    // a test that no stage has, and what another test finds, are none
    const direction = { ...proofOf('direction', 'direction'), settings: [], plate: true, survey: false };
    for (const wrong of [{ item: 'nothing' }, { facts: null }, { facts: { kind: 'look' } }])
      expect((await post(`/machines/${tag}/proofs`, { ...direction, ...wrong })).statusCode).toBe(422);
    // another test of another stage is no matter of watching
    expect(
      (
        await post(`/machines/${tag}/proofs`, {
          ...proofOf('before-power', 'mounted'),
          facts: { kind: 'look' },
          settings: [],
          plate: true,
          survey: false,
        })
      ).statusCode,
    ).toBe(200);
  });

  test('the selector is turned, the server sees it, the proof counts with its figures and is offered no more', async () => {
    const { until: ends } = (await post(`/machines/${tag}/watch`)).json<MachineSeen>();
    expect(new Date(present(ends)).getTime()).toBeGreaterThan(Date.now() + 7 * 3_600_000);
    for (const [position, name] of [
      [0, 'hand'],
      [1, 'off'],
    ] as const) {
      await turnTo(position);
      await until(async () => selectorOf(await seenAt(tag))[name] !== undefined);
    }
    // two of three are no proof yet
    expect((await count()).statusCode).toBe(409);
    await turnTo(2);
    await until(async () => selectorOf(await seenAt(tag)).auto !== undefined);
    const counted = await count();
    expect(counted.statusCode).toBe(200);
    expect(counted.json().facts).toMatchObject({ hand: { did: 'ran', frequency: expect.any(Number) }, off: { did: 'stood' }, auto: {} });
    // what it does at this moment may have been seen again
    expect(selectorOf(await seenAt(tag))).not.toHaveProperty('off');
    expect((await count()).statusCode).toBe(409);
    const { proofs } = (await stack.app.inject({ url: `/api/v1/machines/${tag}/plan` })).json<Plan>();
    expect(proofs.find((p) => p.item === 'selector')).toMatchObject({ outcome: 'passed', facts: { off: { did: 'stood' } } });
    await turnTo(1);
  });
});

const proofOf = (stage: string, item: string) => ({ stage, item, outcome: 'passed', facts: null });

describe('what is kept', () => {
  const tag = 'P-41';
  let listen: (s: LiveSample) => void = () => undefined;
  const watched: number[] = [];
  const fleet = {
    onSample: (listener: (s: LiveSample) => void) => {
      listen = listener;
      return () => undefined;
    },
    watch: (_tags: Iterable<string>, by: number) => void watched.push(by),
  };
  const errors: unknown[] = [];
  let now = Date.now();
  const begin = (told: (seen: MachineSeen) => void = () => undefined) =>
    new WatchedMachines(
      stack.db,
      fleet as unknown as Fleet,
      () => now,
      (_tag, seen) => told(seen),
      (error) => errors.push(error),
    );
  /** One sleep from its beginning to its end. */
  const sleeps = () => {
    const says = (at: number, more: Partial<LiveSample>) => listen(sample(at, { tag, holder: 'terminals', feedback: 40, ...more }));
    says(0, {});
    says(1000, { state: 'asleep', outputFrequency: 0 });
    says(61_000, { feedback: 38 });
  };

  test('outlives the server, is told to everybody, and is gone once what it rests on is another in the drive', async () => {
    // the drive of this machine is read before anything rests on it
    await until(async () => (await latestSheet(stack.db, await machineByTag(stack.db, tag), 'in drive')) !== null);
    const told: MachineSeen[] = [];
    const first = begin((seen) => told.push(seen));
    await first.watch(tag);
    expect(watched).toEqual([1]);
    sleeps();
    const fell = { sleeps: { kind: 'sleep', seconds: 60, fell: 2 } };
    expect(found(present(told.at(-1)), 'sleep')).toEqual(fell);
    await first.stop();

    const second = begin();
    await second.restore();
    expect(found(second.of(tag), 'sleep')).toEqual(fell);
    expect(await second.proving(tag, 'sleep', 'sleeps')).toEqual({ watch: 'sleep', facts: fell.sleeps });

    const m = await machineByTag(stack.db, tag);
    const sheet = present(await latestSheet(stack.db, m, 'in drive'));
    const settings = new DriveSettings(bookById(m.book_id), m.size, {}, m.region);
    const code = settings.need('sleepFrequency').code;
    await stack
      .db('sheets')
      .where({ machine_id: m.id, kind: 'in drive' })
      .update({
        values: JSON.stringify({ ...sheet.values, [code]: { ...sheet.values[code], value: 33.3 } }),
      });
    expect(await second.proving(tag, 'sleep', 'sleeps')).toEqual({ watch: 'sleep', facts: null });
    await stack
      .db('sheets')
      .where({ machine_id: m.id, kind: 'in drive' })
      .update({ values: JSON.stringify(sheet.values) });
    await second.stop();
    expect(errors).toEqual([]);
  });

  test('a shift after the last page was open nobody is watched, and nothing is gone on with', async () => {
    now += 9 * 3_600_000;
    const late = begin();
    await late.restore();
    expect(late.of(tag)).toMatchObject({ until: null, seen: [] });
    await late.stop();
  });
});

test('a database of before keeps its proofs and its log as they were written, and they are history still', async () => {
  const { db, drop } = await freshDatabase();
  await migrate(db, '012_a_year');
  await seedDemoPlant(db);
  const m = await machineByTag(db, 'P-11');
  const old = { stage: 'sleep', item: 'sleeps', outcome: 'passed', expected: 'falls asleep', measured: 'woke by itself 60 s later', author };
  await db.raw(
    `insert into proofs (machine_id, stage, item, outcome, expected, measured, relied, author) values (?, ?, ?, ?, ?, ?, '{"drive": 1}', ?)`,
    [m.id, ...Object.values(old)],
  );
  const log = await db('audit_events').orderBy('id');
  // who left the work stood among the proofs
  for (const [outcome, measured] of [
    ['taken back', 'work goes on'],
    ['failed', 'Tune, Direction'],
  ])
    await db.raw(
      `insert into proofs (machine_id, stage, item, outcome, expected, measured, relied, author) values (?, 'plan', 'left', ?, '', ?, '{}', ?)`,
      [m.id, outcome, measured, author] as string[],
    );
  // what the server saw stood there without its kind
  await migrate(db, '014_leaving');
  const ajv = new Ajv();
  const acted = { did: 'tripped', code: 12 };
  const [hand, off, auto] = [{ did: 'ran', frequency: 25 }, { did: 'stood' }, { did: 'slept' }];
  const held = { off: 4, output: 11, back: 6, low: 41, high: 43, held: 20.5 };
  const seen = [
    ['guards', 'dryRun', acted, { kind: 'guard', guard: 'dryRun', act: acted }],
    ['sleep', 'sleeps', { seconds: 60, fell: 3 }, { kind: 'sleep', seconds: 60, fell: 3 }],
    ['presets', 'preset 2', 15.1, { kind: 'preset', frequency: 15.1 }],
    ['hand-off-auto', 'selector', { hand, off, auto }, { kind: 'selector', hand, off, auto }],
    ['emergency', 'emergency', { seconds: 31, frequency: 45, ignored: 2 }, { kind: 'emergency', seconds: 31, frequency: 45, through: null }],
    ['process', 'holds', held, { kind: 'holds', ...held, range: null }],
    ['station', 'staging', { together: [1, 2], left: [2] }, { kind: 'staging', together: [1, 2], left: [2] }],
  ] as const;
  for (const [stage, item, facts] of seen)
    await db.raw(
      `insert into proofs (machine_id, stage, item, outcome, expected, measured, facts, relied, author) values (?, ?, ?, 'passed', '', 'seen', ?, '{}', ?)`,
      [m.id, stage, item, JSON.stringify(facts), author],
    );
  await migrate(db);
  for (const [stage, item, , facts] of seen) {
    expect([stage, ajv.validate(ProofFacts, facts)]).toEqual([stage, true]);
    expect((await db('proofs').where({ machine_id: m.id, stage, item }).orderBy('id', 'desc').first())?.facts).toEqual(facts);
  }
  expect(await leftBy(db, m.id)).toMatchObject({ author, stages: [], told: 'Tune, Direction' });
  expect(await db('proofs').where({ machine_id: m.id, stage: old.stage }).orderBy('id').first()).toMatchObject({
    ...{ stage: old.stage, item: old.item, outcome: old.outcome, told: old.measured, told_expected: old.expected, author },
    ...{ relied: { drive: 1 }, facts: null },
  });
  expect(await db('audit_events').orderBy('id')).toEqual(log);
  await expect(db('proofs').update({ facts: '{}' })).rejects.toThrow('history');
  await drop();
});
