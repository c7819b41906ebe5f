import net, { type Socket } from 'node:net';
import { monitorEventLoopDelay } from 'node:perf_hooks';
import type { AddressInfo } from 'node:net';
import pg from 'pg';
import { present } from '@yare/core';
import { DatabaseWatch } from '../src/db/watch';
import type { Device, Press } from './device';
import { freshDatabase, startStack, until, type Stack } from './stack';

/** One server on a database: whoever is not sure to be the only one lets go of everything, and takes nothing on. */
let stack: Stack;
beforeAll(async () => {
  stack = await startStack();
});
afterAll(() => stack.stop());

const author = 'Ines Calder';
const lockKey = 7_310_551;

/** Another server as the database sees it: takes the lock as soon as it is free. */
class Rival {
  private constructor(private readonly client: pg.Client) {}
  static async on(url: string): Promise<Rival> {
    const client = new pg.Client({ connectionString: url });
    await client.connect();
    return new Rival(client);
  }
  async take(): Promise<void> {
    // breaks the session that holds the lock, and asks for it in the same breath
    await this.client.query(`select pg_terminate_backend(pid) from pg_locks where locktype = 'advisory' and objid = ${lockKey} and granted
       and database = (select oid from pg_database where datname = current_database())`);
    await until(async () => present((await this.client.query(`select pg_try_advisory_lock(${lockKey}) as got`)).rows[0]).got);
  }
  end = () => this.client.end();
}

/** ns for which this process had no processor, from which a run may have ended by that. */
const starved = 300e6;

/** A press that came to turn the belt; one that ended by itself before, on a machine that stutters, is made anew. */
async function pressed(device: Device, turns: () => boolean): Promise<Press> {
  for (;;) {
    await until(() => device.live('C-07')?.state === 'ready' && device.live('C-07')?.holder === 'terminals');
    const press = device.hold('C-07', 12);
    await until(() => turns() || device.ended(press) !== undefined || device.refused(press) !== undefined);
    if (turns()) return press;
    device.fallSilent();
  }
}

test('a server whose lock another one took lets its run go, takes no press and writes nothing until it has it again', async () => {
  const device = await stack.ready(author, 'C-07');
  const belt = present([...stack.bench.drives.values()].find((d) => d.demo.tag === 'C-07'));
  const press = await pressed(device, () => belt.machine.frequency > 3);
  const rival = await Rival.on(stack.url);
  const lag = monitorEventLoopDelay({ resolution: 10 });
  lag.enable();
  await rival.take();
  await until(() => device.ended(press) !== undefined || device.runs(press).at(-1)?.phase === 'stopping');
  // a machine that leaves this process no time ends the run by the drive's own time-out, before anybody here hears of the lock
  if (lag.max < starved) expect(device.runs(press).at(-1)?.cause).toBe('database');
  lag.disable();
  await until(() => !belt.running);
  device.fallSilent();

  const second = device.hold('C-07', 12);
  await until(() => device.refused(second) !== undefined || device.ended(second) !== undefined);
  expect(device.refused(second)).toMatchObject({ code: 'not alone' });
  device.fallSilent();
  for (const path of ['keep', 'read', 'trip/reset', 'still'])
    expect((await stack.app.inject({ method: 'POST', url: `/api/v1/machines/C-07/${path}`, payload: { author } })).statusCode).toBe(503);
  expect(belt.running).toBe(false);

  await rival.end();
  await until(async () => (await stack.app.inject({ method: 'POST', url: '/api/v1/machines/C-07/read', payload: { author } })).statusCode === 200);
  await until(() => device.live('C-07')?.state === 'ready' && device.live('C-07')?.holder === 'terminals');
  device.letGo(await pressed(device, () => belt.machine.frequency > 3));
});

describe('a session that ended unheard', () => {
  /** A line to the database that can be made silent without a word to either side. */
  async function line(url: string): Promise<{ url: string; hush: () => void; close: () => void }> {
    const to = new URL(url);
    const own = Number(to.port);
    let silent = false;
    const sockets = new Set<Socket>();
    const server = net.createServer((near) => {
      const far = net.connect(own, to.hostname);
      for (const [from, into] of [
        [near, far],
        [far, near],
      ] as const) {
        sockets.add(from);
        from.on('error', () => undefined);
        from.on('close', () => into.destroy());
        from.on('data', (d) => void (silent || into.write(d)));
      }
    });
    await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
    to.port = String((server.address() as AddressInfo).port);
    return {
      url: to.href,
      hush: () => (silent = true),
      close: () => {
        for (const s of sockets) s.destroy();
        server.close();
      },
    };
  }

  test.each(['asked at a press', 'by itself'])('is no lock: noticed when %s', async (how) => {
    const { url: own, drop } = await freshDatabase();
    const { url, hush, close } = await line(own);
    const watch = await DatabaseWatch.begin(url);
    let lost = 0;
    watch.onLost(() => (lost += 1));
    expect(await watch.confirm()).toBe(true);
    hush();
    // without being asked it does not know yet
    expect(watch.away).toBe(false);
    if (how === 'by itself') await until(() => watch.away);
    else expect(await watch.confirm()).toBe(false);
    await until(() => lost === 1);
    expect(watch.away).toBe(true);
    close();
    await watch.stop();
    await drop();
  });
});
