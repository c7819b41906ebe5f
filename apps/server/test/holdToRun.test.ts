import { present } from '@yare/core';
import WebSocket from 'ws';
import Papa from 'papaparse';
import { holdLapse, holdRepeat } from '@yare/contract';
import type { Device, Press } from './device';
import { labelsOf, pause, realTiming, recorded, startStack, until, type Stack } from './stack';

let stack: Stack;
beforeAll(async () => {
  stack = await startStack();
});
afterAll(() => stack.stop());

// these run in real time against a 600 ms lapse: a computer that stalls longer than that is given one more try
jest.retryTimes(1, { logErrorsBeforeRetry: true });

const open: Array<() => void> = [];
afterEach(async () => {
  for (const close of open.splice(0)) close();
  await until(() => !pump().running);
});

const device = async (name: string) => {
  const d = await stack.ready(name, 'P-11', 'C-07');
  open.push(() => d.close());
  return d;
};

const pump = () => present(stack.bench.drives.get(1));
const reaches = (hertz: number) => until(() => Math.abs(pump().machine.frequency) > hertz);
const stands = () => until(() => !pump().running && Math.abs(pump().machine.speed) < 2);

test('hold turns it, letting go ramps it down, and command goes back', async () => {
  const phone = await device('Ines Calder');
  const told = () => phone.heard.flatMap((m) => (m.kind === 'live' ? m.samples : [])).filter((s) => s.tag === 'P-11');
  const fastest = () => Math.max(0, ...told().map((s) => s.outputFrequency));
  const a1 = phone.hold('P-11', 12);
  await until(() => fastest() > 11.9);
  expect(pump().machine.speed).toBeGreaterThan(60);
  phone.letGo(a1);
  await stands();
  await until(() => phone.ended(a1) !== undefined);
  expect(pump().readRegister(110)).toBe(0);
  expect(fastest()).toBeLessThan(12.1);
  phone.close();
});

describe('as quick as in earnest', () => {
  let quick: Stack;
  beforeAll(async () => {
    quick = await startStack(realTiming);
  });
  afterAll(() => quick.stop());
  const drive = () => present(quick.bench.drives.get(1));
  const phoneAt = () => quick.ready('Ines Calder', 'P-11');

  test('silence for 600 ms is a release', async () => {
    const phone = await phoneAt();
    const press = phone.hold('P-11', 12);
    await until(() => drive().machine.frequency > 4);
    phone.fallSilent();
    const fell = performance.now();
    await until(() => phone.runs(press).some((m) => m.phase === 'stopping'));
    expect(performance.now() - fell).toBeGreaterThan(holdLapse - holdRepeat - 50);
    await until(() => phone.ended(press) !== undefined);
    expect(phone.ended(press)).toMatchObject({ cause: 'silent', reason: expect.stringContaining('not repeated') });
    expect(drive().running).toBe(false);
  });

  test('a press whose hand is gone before it could be begun turns nothing', async () => {
    const phone = await phoneAt();
    let press: Press | undefined;
    await quick.db.transaction(async (locked) => {
      await locked.raw('lock table machines in access exclusive mode');
      press = phone.hold('P-11', 12);
      await pause(300);
      phone.fallSilent();
      await pause(2 * holdLapse);
    });
    await until(() => phone.ended(present(press)) !== undefined);
    expect(phone.runs(present(press)).map((m) => m.phase)).toEqual(expect.not.arrayContaining(['taken', 'running']));
    expect(drive().machine.frequency).toBe(0);
  });
});

test('a database that is locked for a while does not stop what a hand holds', async () => {
  const phone = await device('Ines Calder');
  const press = phone.hold('P-11', 12);
  await reaches(6);
  await stack.db.transaction(async (locked) => {
    await locked.raw('lock table machines in access exclusive mode');
    await pause(3 * holdLapse);
  });
  expect(phone.ended(press)).toBeUndefined();
  expect(pump().running).toBe(true);
  phone.letGo(press);
  await stands();
  await until(() => phone.ended(press) !== undefined);
  expect(phone.ended(press)).toMatchObject({ cause: 'let go' });
});

test('a step test whose feedback is at the end of its range is ended before it steps, and kept under its own name', async () => {
  const phone = await device('Ines Calder');
  // at 12 Hz this pump makes no pressure at all
  const press = phone.hold('P-11', 12, undefined, { kind: 'step', by: 5 });
  await until(() => phone.ended(press) !== undefined);
  expect(phone.ended(press)).toMatchObject({ cause: 'out of band', guide: { guide: { kind: 'step', by: 5 }, state: 'settling' } });
  expect(Math.abs(pump().machine.frequency)).toBeLessThan(12.5);
  const [kept] = await stack.db('recordings').orderBy('id', 'desc').limit(1).select('title');
  expect(kept).toEqual({ title: 'Step test at 12 Hz' });
  await stands();
});

test('a step that would stop the machine or turn it round is refused', async () => {
  const phone = await device('Ines Calder');
  phone.hold('P-11', 12, undefined, { kind: 'there and back', by: -30 });
  await until(() => phone.heard.some((m) => m.kind === 'refused'));
  expect(phone.heard.find((m) => m.kind === 'refused')).toMatchObject({ code: 'no frequency', sentence: expect.stringContaining('turn it round') });
  expect(pump().running).toBe(false);
});

test('measuring and stepping at once is refused', async () => {
  const phone = await device('Ines Calder');
  phone.hold('P-11', 12, 'standstill', { kind: 'step', by: 5 });
  await until(() => phone.heard.some((m) => m.kind === 'refused'));
  expect(phone.heard.find((m) => m.kind === 'refused')).toMatchObject({ code: 'cannot measure', sentence: expect.stringContaining('not both') });
  expect(pump().running).toBe(false);
});

test('a socket that closes stops the motor', async () => {
  const phone = await device('Ines Calder');
  phone.hold('P-11', 12);
  await reaches(6);
  phone.close();
  await stands();
});

test('a late repeat of a press that was let go starts nothing', async () => {
  const phone = await device('Ines Calder');
  const press = phone.press('P-11', 12);
  phone.letGo(press);
  for (let i = 0; i < 6; i += 1) {
    phone.say({ kind: 'repeat', ticket: press.ticket, sent: performance.now() });
    await pause(150);
  }
  expect(pump().running).toBe(false);
  expect(pump().machine.frequency).toBe(0);
});

test('a page from elsewhere gets no channel', async () => {
  const { port } = stack;
  const answer = (origin: string) =>
    new Promise<string>((done) => {
      const socket = new WebSocket(`ws://127.0.0.1:${port}/api/v1/live`, { origin });
      socket.on('open', () => {
        socket.close();
        done('open');
      });
      socket.on('error', (e) => done(e.message));
    });
  expect(await answer('http://elsewhere.example')).toContain('403');
  expect(await answer(`http://127.0.0.1:${port}`)).toBe('open');
});

test('nonsense on the socket is passed over and changes nothing', async () => {
  const phone = await device('Ines Calder');
  phone.socket.send('{');
  for (const message of [
    {},
    { kind: 'begin' },
    { kind: 'begin', tag: 'P-11', author: '', frequency: 1, ticket: phone.tickets[0], sent: 1 },
    { kind: 'begin', tag: 'P-11', author: 'I', frequency: 1e9, ticket: phone.tickets[0], sent: 1 },
    { kind: 'begin', tag: 'P-11', author: 'I\u0000', frequency: 10, ticket: phone.tickets[0], sent: 1 },
    { kind: 'hold', tag: 'P-11', author: 'I', frequency: 10, press: 'x' },
  ])
    phone.say(message);
  phone.say({ kind: 'ping', sent: 7 });
  await until(() => phone.heard.some((m) => m.kind === 'pong'));
  expect(pump().running).toBe(false);
  phone.close();
});

test('one holder at a time: the second is told who has command', async () => {
  const first = await device('Ines Calder');
  const second = await device('Tom Reed');
  const e1 = first.hold('P-11', 12);
  await reaches(3);
  const press = second.hold('P-11', 40);
  await until(() => second.refused(press) !== undefined);
  expect(second.refused(press)).toMatchObject({ code: 'claimed', sentence: expect.stringContaining('Ines Calder holds P-11 to run') });
  expect(pump().machine.frequency).toBeLessThan(13);
  first.letGo(e1);
  await stands();
  first.close();
  second.close();
});

test('the drive stops by itself within its time-out when the server falls silent', async () => {
  const drive = pump();
  await until(() => drive.readRegister(110) === 0);
  drive.writeRegister(202, 1);
  for (let i = 0; i < 20; i++) {
    drive.writeRegister(200, present([6, 7, 15][Math.min(i, 2)]));
    drive.writeRegister(201, 1200);
    await pause(100);
  }
  expect(drive.running).toBe(true);
  const silent = Date.now();
  await until(() => Math.abs(drive.machine.ramp) < 11);
  expect(Date.now() - silent).toBeLessThan(2000);
  await stands();
  expect(drive.readRegister(110)).toBe(0);
});

test('a link time-out above one second in the drive refuses hold to run, with the way out', async () => {
  const drive = present(stack.bench.drives.get(6));
  drive.writeRegister(1024 + 4 * 32 + 2, 50);
  const phone = await device('Ines Calder');
  const f1 = phone.hold('C-07', 12);
  await until(() => phone.ended(f1) !== undefined);
  expect(phone.ended(f1)).toMatchObject({ reason: expect.stringContaining('Link time-out 5c is 5 s in the drive') });
  expect(drive.running).toBe(false);
  drive.writeRegister(1024 + 4 * 32 + 2, 10);
  phone.close();
});

test('the run is a recording whose CSV agrees with the database', async () => {
  const phone = await device('Ines Calder');
  const g1 = phone.hold('P-11', 15);
  await reaches(14);
  phone.letGo(g1);
  await stands();
  await until(() => phone.ended(g1) !== undefined);
  const { recordings } = (await stack.app.inject({ url: '/api/v1/machines/P-11/recordings' })).json();
  const id = recordings[0].id as number;
  await until(async () => (await recorded(stack.app, id)).meta.complete);
  const { meta, time, data } = await recorded(stack.app, id);
  expect(meta).toMatchObject({ author: 'Ines Calder', title: 'Hold to run at 15 Hz' });
  expect(labelsOf(meta)).toEqual(['Command taken', 'Start', 'Let go', 'Command given back']);
  expect(time.length).toBeGreaterThan(30);
  expect(Math.max(...present(data.outputFrequency))).toBeGreaterThan(13.9);
  const csv = (await stack.app.inject({ url: `/api/v1/recordings/${id}/csv` })).body;
  const rows = Papa.parse<string[]>(csv.replace(/^\ufeff/, '')).data;
  expect(rows[0]).toEqual([
    'Time (s)',
    'Output (Hz)',
    'Motor (A)',
    'DC bus (V)',
    'Torque (%)',
    'Input power (kW)',
    'Motor heat (%)',
    'Feedback (%)',
    'Mark',
  ]);
  expect(rows.slice(1).map((r) => Number(r[1]))).toEqual(data.outputFrequency);
  expect(rows.slice(1).map((r) => Number(r[3]))).toEqual(data.busVoltage);
  expect(rows.slice(1).flatMap((r) => (r[8] ? r[8].split(' | ') : []))).toEqual(meta.marks.map((m) => m.label));
  const marked = await stack.app.inject({
    method: 'POST',
    url: `/api/v1/recordings/${id}/marks`,
    payload: { author: 'Ines Calder', mark: { time: 1, label: 'Noise at the coupling' } },
  });
  expect(labelsOf(marked.json())).toEqual(['Command taken', 'Start', 'Noise at the coupling', 'Let go', 'Command given back']);
  const outside = await stack.app.inject({
    method: 'POST',
    url: `/api/v1/recordings/${id}/marks`,
    payload: { author: 'Ines Calder', mark: { time: 9999, label: 'x' } },
  });
  expect(outside.statusCode).toBe(422);
  phone.close();
});

describe('measuring the motor', () => {
  const belt = () => present(stack.bench.drives.get(6));
  const progress = (d: Device, press: Press) => d.runs(press).flatMap((m) => (m.tune ? [m.tune] : []));
  beforeAll(() => {
    // the plate belongs into the drive before anything is measured
    for (const [code, value] of [
      ['1a', 2.2],
      ['1b', 400],
      ['1d', 4.6],
      ['1e', 1445],
    ] as const)
      belt().set(code, value);
  });

  test('at standstill: told as it goes, ends by itself, gives command back, leaves a recording and what it measured', async () => {
    const ines = await device('Ines Calder');
    const press = ines.hold('C-07', 0, 'standstill');
    await until(() => ines.ended(press) !== undefined);
    const told = progress(ines, press);
    expect(told.at(-1)).toEqual({ kind: 'standstill', state: 'done', progress: 100 });
    const samples = ines.heard
      .flatMap((m) => (m.kind === 'live' ? m.samples : []))
      .filter((s) => s.tag === 'C-07' && s.command.includes('measuring'));
    // current flows and nothing turns: that is told as it is
    expect(samples.some((s) => s.state === 'running' && s.motorCurrent > 1)).toBe(true);
    expect(samples.every((s) => s.outputFrequency === 0)).toBe(true);
    expect(told.filter((t) => t.state === 'busy').length).toBeGreaterThan(5);
    expect(ines.ended(press)).toMatchObject({ reason: 'measured', recordingId: expect.any(Number) });
    expect(belt().link.holds).toBe(false);
    // as cold as the winding is, by sensors with an offset
    expect(Math.abs(present(belt().values['1j']) / belt().plant.truth.motor.statorResistance - 1)).toBeLessThan(0.1);
    expect(belt().isKept('1j')).toBe(false);
    const { recordings } = (await stack.app.inject({ url: '/api/v1/machines/C-07/recordings' })).json();
    expect(recordings[0].title).toBe('Tune, standstill');
  });

  test('letting go ends it and changes nothing; a dead page counts as letting go', async () => {
    const before = belt().values['1j'];
    const ines = await device('Ines Calder');
    const press = ines.hold('C-07', 0, 'standstill');
    await until(() => progress(ines, press).some((t) => t.progress > 10));
    ines.fallSilent();
    await until(() => ines.ended(press) !== undefined);
    expect(present(progress(ines, press).at(-1)).state).toBe('busy');
    expect(present(belt().tuner).fault).toBe('stopped');
    expect(belt().machine.motor.current).toBe(0);
    expect(belt().values['1j']).toBe(before);
  });

  test('an open motor lead is told in the drive’s words', async () => {
    belt().machine.conditions.motorPhaseOpen = 1;
    const ines = await device('Ines Calder');
    const press = ines.hold('C-07', 0, 'standstill');
    await until(() => ines.ended(press) !== undefined);
    belt().machine.conditions.motorPhaseOpen = 0;
    expect(present(ines.ended(press)).reason).toContain('One motor lead carries no current');
  });

  test('a family that cannot measure refuses before anything happens', async () => {
    const ines = await device('Ines Calder');
    const press = ines.hold('M-55', 0, 'standstill');
    await until(() => ines.refused(press) !== undefined);
    expect(ines.refused(press)).toMatchObject({ code: 'cannot measure', sentence: expect.stringContaining('Withy cannot measure a motor') });
  });
});
