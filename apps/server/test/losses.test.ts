import { present } from '@yare/core';
import { once } from 'node:events';
import { connect as tcp } from 'node:net';
import { bookById } from '@yare/books';
import { holdRepeat, longestStall } from '@yare/contract';
import { connect } from '../src/db/connect';
import { Lateness } from '../src/live/lateness';
import { recordingData } from '../src/recordings/recordings';
import { labelsOf, pause, realTiming, startStack, until, type Stack } from './stack';

/** Ways of losing the hand that no ordinary day brings: spent presses, stalls, another master, a database that goes. */
let stack: Stack;
beforeAll(async () => {
  stack = await startStack();
});
afterAll(() => stack.stop());
// motors run in real time: a computer that stalls for seconds is given one more try
jest.retryTimes(1, { logErrorsBeforeRetry: true });

const pump = () => present(stack.bench.drives.get(1));
const turning = () => until(() => Math.abs(pump().machine.frequency) > 4);
const stands = () => until(() => !pump().running);
const ready = (name: string) => stack.ready(name, 'P-11');

describe('a press is spent', () => {
  test('its ticket starts nothing again, on its own connection or another, nor do its repeats', async () => {
    const ines = await ready('Ines Calder');
    const stranger = await ready('Stranger');
    const first = ines.hold('P-11', 10);
    await turning();
    ines.letGo(first);
    await until(() => ines.ended(first) !== undefined);
    await until(() => ines.live('P-11')?.state === 'ready' && stranger.live('P-11')?.state === 'ready');
    const again = ines.press('P-11', 10, { ticket: first.ticket });
    const stolen = stranger.press('P-11', 10, { ticket: present(ines.tickets.at(-1)) });
    await until(() => ines.refused(again) !== undefined && stranger.refused(stolen) !== undefined);
    expect([present(ines.refused(again)).code, present(stranger.refused(stolen)).code]).toEqual(['ticket', 'ticket']);
    for (let i = 0; i < 5; i += 1) {
      ines.say({ kind: 'repeat', ticket: first.ticket, sent: performance.now() });
      await pause(holdRepeat);
    }
    expect(pump().machine.frequency).toBe(0);
  });

  test('nobody else releases it, and its ticket is told to nobody', async () => {
    const ines = await ready('Ines Calder');
    const stranger = await ready('Stranger');
    const press = ines.hold('P-11', 10);
    await turning();
    expect(JSON.stringify(stranger.heard)).not.toContain(press.ticket);
    for (let i = 0; i < 300; i += 1) stranger.say({ kind: 'release', ticket: i % 2 ? press.ticket : `invented ${i}` });
    stranger.say({ kind: 'ping', sent: performance.now() });
    await until(() => stranger.heard.some((m) => m.kind === 'pong'));
    await pause(4 * holdRepeat);
    expect(ines.ended(press)).toBeUndefined();
    expect(pump().running).toBe(true);
    ines.letGo(press);
    await until(() => ines.ended(press) !== undefined);
    expect(ines.ended(press)).toMatchObject({ cause: 'let go', mine: true });
    await until(() => stranger.heard.some((m) => m.kind === 'run' && m.phase === 'ended' && !m.mine));
  });

  test('a press that was long on its way starts nothing', async () => {
    const ines = await ready('Ines Calder');
    // what is not late
    for (let i = 0; i < 3; i += 1) ines.say({ kind: 'ping', sent: performance.now() });
    const late = ines.press('P-11', 10, { sent: performance.now() - longestStall - 200 });
    await until(() => ines.refused(late) !== undefined);
    expect(present(ines.refused(late)).code).toBe('late');
  });
});

test('how late a message is, is told from its own time, whatever the clocks show and however they drift', () => {
  const late = new Lateness();
  // the client's clock is 5000 ms behind; 20 ms on the way is no delay
  expect(late.sentAt(1000, 6020)).toBe(6020);
  expect(late.sentAt(1100, 6121)).toBe(6120);
  expect(late.sentAt(1200, 7000)).toBe(6220);
  // one clock gains 1 ms a second for ten minutes: still not late
  let worst = 0;
  for (let s = 2; s < 600; s += 1) worst = Math.max(worst, 5020 + 1001 * s - late.sentAt(1000 * s, 5020 + 1001 * s));
  expect(worst).toBeLessThan(70);
});

describe('what stood still', () => {
  const block = (milliseconds: number) => {
    const from = performance.now();
    while (performance.now() - from < milliseconds);
  };
  let quick: Stack;
  beforeAll(async () => {
    quick = await startStack(realTiming);
  });
  afterAll(() => quick.stop());

  test('the server: repeats that waited for it do not count, it lets go', async () => {
    const ines = await quick.device('Ines Calder');
    await until(() => ines.live('P-11')?.state === 'ready');
    const drive = present(quick.bench.drives.get(1));
    // a computer that stalls by itself ends the run for the same reason, only sooner
    const press = ines.hold('P-11', 10);
    await until(() => drive.machine.frequency > 2 || ines.ended(press) !== undefined);
    block(longestStall + 500);
    await until(() => ines.ended(press) !== undefined);
    expect(ines.ended(press)).toMatchObject({ cause: 'stalled' });
    expect(drive.running).toBe(false);
    // holding on does not start it again
    await pause(5 * holdRepeat);
    expect(drive.machine.frequency).toBe(0);
  });
});

describe('another master on the link', () => {
  const { command, codes } = bookById('osier-g').words;
  test('that has command at rest is not overridden', async () => {
    const ines = await ready('Ines Calder');
    const keep = setInterval(() => pump().writeRegister(command.reference.register, 0), 100);
    pump().writeRegister(command.take.register, codes.take);
    await until(() => ines.live('P-11')?.holder === 'other');
    const press = ines.hold('P-11', 10);
    await until(() => ines.refused(press) !== undefined);
    expect(ines.refused(press)).toMatchObject({ code: 'not ready', sentence: expect.stringContaining('Somebody else on the link has command') });
    expect(pump().link.holds).toBe(true);
    expect(pump().machine.frequency).toBe(0);
    clearInterval(keep);
    pump().writeRegister(command.take.register, codes.give);
  });

  test('that takes it between the look and the press is seen before command is taken', async () => {
    const ines = await ready('Ines Calder');
    const press = ines.hold('P-11', 10);
    // the moment the server begins, before it has asked the drive again
    pump().writeRegister(command.take.register, codes.take);
    const keep = setInterval(() => pump().writeRegister(command.reference.register, 0), 100);
    await until(() => ines.ended(press) !== undefined || ines.refused(press) !== undefined);
    expect(ines.ended(press)?.cause ?? ines.refused(press)?.code).toMatch(/not ready/);
    expect(pump().link.holds).toBe(true);
    clearInterval(keep);
    pump().writeRegister(command.take.register, codes.give);
  });

  test.each([
    ['its reference', () => pump().writeRegister(command.reference.register, 4500)],
    ['its control word', () => pump().writeRegister(command.control.register, 6)],
    ['taking command anew', () => pump().writeRegister(command.take.register, codes.take)],
    ['giving it back', () => pump().writeRegister(command.take.register, codes.give)],
  ])('%s ends the run, and nothing of it stays', async (_what, meddle) => {
    const ines = await ready('Ines Calder');
    const press = ines.hold('P-11', 10);
    await turning();
    // as a controller does: again and again
    const meddling = setInterval(() => {
      try {
        meddle();
      } catch {
        // the drive no longer takes it
      }
    }, 70);
    await until(() => ines.ended(press) !== undefined);
    clearInterval(meddling);
    expect(ines.ended(press)).toMatchObject({ cause: 'other master' });
    await stands();
    await until(() => !pump().link.holds);
    expect(pump().readRegister(command.reference.register)).toBe(0);
    expect(Math.max(...ines.heard.flatMap((m) => (m.kind === 'live' ? m.samples.map((s) => s.outputFrequency) : [])))).toBeLessThan(12);
    ines.letGo(press);
  });
});

test('a drive that stops by itself ends the run: when its permissive is back nothing starts again', async () => {
  const ines = await ready('Ines Calder');
  const press = ines.hold('P-11', 10);
  await turning();
  pump().panel.state.stop = 1;
  await until(() => ines.ended(press) !== undefined);
  expect(ines.ended(press)).toMatchObject({ cause: 'not ready', reason: expect.stringContaining('permissive') });
  pump().panel.state.stop = 0;
  await pause(4 * holdRepeat);
  expect(pump().machine.frequency).toBe(0);
  ines.letGo(press);
});

test('a lost database ends the run in order; what was recorded is kept and stored when it is back', async () => {
  const ines = await ready('Ines Calder');
  const name = (await stack.db.raw('select current_database() as name')).rows[0].name as string;
  const admin = connect(present(process.env.TEST_DATABASE_URL));
  const press = ines.hold('P-11', 10);
  await turning();
  const id = present(present(ines.runs(press).at(-1)).recordingId);
  await admin.raw(`alter database ${name} with allow_connections false`);
  await admin.raw(`select pg_terminate_backend(pid) from pg_stat_activity where datname = '${name}'`);
  await until(() => ines.ended(press) !== undefined);
  expect(ines.ended(press)).toMatchObject({ cause: 'database', reason: expect.stringContaining('lost its database') });
  await stands();
  ines.letGo(press);
  // without it nothing is started, and why is said
  await until(() => ines.live('P-11')?.state === 'ready');
  const blind = ines.hold('P-11', 10);
  await until(() => ines.refused(blind) !== undefined);
  expect(ines.refused(blind)).toMatchObject({ code: 'not alone', sentence: expect.stringContaining('database does not answer') });
  ines.letGo(blind);
  expect(pump().machine.frequency).toBe(0);
  expect((await stack.app.inject({ url: '/api/v1/machines' })).statusCode).toBe(503);
  await admin.raw(`alter database ${name} with allow_connections true`);
  await admin.destroy();
  await until(async () => (await recordingData(stack.db, id).catch(() => null))?.meta.complete === true);
  const { time, data, meta } = await recordingData(stack.db, id);
  expect(time.length).toBeGreaterThan(20);
  expect(Math.max(...present(data.outputFrequency))).toBeGreaterThan(4);
  expect(labelsOf(meta).slice(0, 2)).toEqual(['Command taken', 'Start']);
  expect(labelsOf(meta)[2]).toContain('Stop: the server lost its database');
  // and it turns again
  await until(() => ines.live('P-11')?.state === 'ready');
  const after = ines.hold('P-11', 10);
  await turning();
  ines.letGo(after);
  await until(() => ines.ended(after)?.cause === 'let go');
});

test('a client that never reads is closed, and the others do not notice', async () => {
  const { port } = stack;
  const socket = tcp(port, '127.0.0.1');
  socket.on('error', () => undefined);
  socket.write(
    `GET /api/v1/live HTTP/1.1\r\nHost: 127.0.0.1:${port}\r\nUpgrade: websocket\r\nConnection: Upgrade\r\nSec-WebSocket-Key: AAAAAAAAAAAAAAAAAAAAAA==\r\nSec-WebSocket-Version: 13\r\n\r\n`,
  );
  await once(socket, 'data');
  socket.pause();
  // pings of a client: masked text frames (RFC 6455, section 5.2), each answered and never read
  const text = Buffer.from(JSON.stringify({ kind: 'ping', sent: 1 }));
  const frame = Buffer.concat([Buffer.from([0x81, 0x80 | text.length, 0, 0, 0, 0]), text]);
  let gone = false;
  socket.once('close', () => (gone = true));
  const flood = setInterval(() => {
    for (let i = 0; i < 50 && socket.writable; i += 1) socket.write(frame);
  }, 5);
  await until(() => gone || socket.destroyed || !socket.writable);
  clearInterval(flood);
  socket.destroy();
  const ines = await ready('Ines Calder');
  expect(ines.heard.length).toBeGreaterThan(0);
});
