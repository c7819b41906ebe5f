import { randomBytes } from 'node:crypto';
import type { AddressInfo } from 'node:net';
import type { FastifyInstance } from 'fastify';
import { isGap, recordingFrom } from '@yare/commissioning/recording';
import { holdLapse, longestStall, type RecordingData, type RecordingMeta } from '@yare/contract';
import { startBench, type Bench } from '../../bench/src/bench';
import { buildApp, type AppOptions } from '../src/app';
import { connect, migrate, type Db } from '../src/db/connect';
import { seedDemoPlant } from '../src/db/seed';
import { DatabaseWatch } from '../src/db/watch';
import { Device } from './device';

/** What has not become so by then never will, ms: nothing here is judged by how soon it comes. */
const never = 180_000;

/** A throw-away database beside the one the test run was given. */
export async function freshDatabase(): Promise<{ db: Db; url: string; drop: () => Promise<void> }> {
  const url = process.env.TEST_DATABASE_URL;
  if (!url) throw new Error('TEST_DATABASE_URL is missing: run "npm test", which starts a database.');
  const name = `t_${randomBytes(6).toString('hex')}`;
  const admin = connect(url, { patience: 0 });
  await admin.raw(`create database ${name}`);
  const own = url.replace(/\/[^/]+$/, `/${name}`);
  const db = connect(own, { patience: never });
  return {
    db,
    url: own,
    drop: async () => {
      await db.destroy();
      await admin.raw(`drop database ${name} with (force)`);
      await admin.destroy();
    },
  };
}

export interface Stack {
  db: Db;
  app: FastifyInstance;
  bench: Bench;
  /** of its database */
  url: string;
  /** the server listens on */
  port: number;
  /** a device on the socket; closed with the stack */
  device(name: string, options?: ConstructorParameters<typeof Device>[2]): Promise<Device>;
  /** the same, once the server knows that these drives stand and nobody has command: what it knows may be a second old */
  ready(name: string, ...tags: string[]): Promise<Device>;
  /** ends everything and drops the database */
  stop: () => Promise<void>;
}

/**
 * The server in this process against a real database and a real bench over Modbus TCP. Bench, server and client share the process and its
 * stalls: only a test of silence and stalls wants them noticed as early as in earnest.
 */
export async function startStack(more: Partial<AppOptions> = {}): Promise<Stack> {
  const { db, url, drop } = await freshDatabase();
  await migrate(db);
  await seedDemoPlant(db);
  const bench = await startBench({ host: '127.0.0.1', port: 0, seed: 5 });
  // as with the hold itself
  const watch = await DatabaseWatch.begin(url, 5, more.timing ? undefined : { cared: 5000, idle: 20_000 });
  const app = await buildApp({
    db,
    watch,
    drives: { host: '127.0.0.1', port: bench.port },
    plant: { host: '127.0.0.1', port: bench.plantPort },
    timing: { lapse: 5000, stall: 10_000 },
    ...more,
  });
  await app.listen({ host: '127.0.0.1', port: 0 });
  await until(async () => (await latest(app, 'P-11')).inDrive !== null);
  const devices: Device[] = [];
  const port = (app.server.address() as AddressInfo).port;
  const stack: Stack = {
    db,
    app,
    bench,
    url,
    port,
    async device(name, options) {
      const d = new Device(`ws://127.0.0.1:${port}/api/v1/live`, name, options);
      devices.push(d);
      await d.ready;
      return d;
    },
    async ready(name, ...tags) {
      const d = await stack.device(name);
      await until(() => tags.every((tag) => d.live(tag)?.state === 'ready' && d.live(tag)?.holder === 'terminals'));
      return d;
    },
    stop: async () => {
      for (const d of devices) d.close();
      await app.close();
      await bench.stop();
      await watch.stop();
      await drop();
    },
  };
  return stack;
}

export interface SheetsView {
  draft: { revision: number; values: Record<string, { value: number; source: string; author: string }> };
  inDrive: { revision: number; values: Record<string, { value: number }> } | null;
}

export async function latest(app: FastifyInstance, tag: string): Promise<SheetsView> {
  return (await app.inject({ url: `/api/v1/machines/${tag}/sheets` })).json();
}

/** As in earnest. */
export const realTiming = { timing: { lapse: holdLapse, stall: longestStall } };

/** Waits until something is so. */
export async function until(so: () => boolean | Promise<boolean>): Promise<void> {
  const end = performance.now() + never;
  while (!(await so())) {
    if (performance.now() > end) throw new Error(`never so: ${so.toString()}`);
    await new Promise((done) => setTimeout(done, 20));
  }
}

export const pause = (milliseconds: number): Promise<void> => new Promise((done) => setTimeout(done, milliseconds));

/** What is marked in a recording, but for what a busy machine did not sample. */
export const labelsOf = ({ marks }: Pick<RecordingMeta, 'marks'>): string[] => marks.map((m) => m.label).filter((label) => !isGap(label));

/** A recording with its samples, as the application unpacks them. */
export async function recorded(app: FastifyInstance, id: number): Promise<RecordingData> {
  const meta = (await app.inject({ url: `/api/v1/recordings/${id}` })).json<RecordingMeta>();
  const { buffer, byteOffset, byteLength } = (await app.inject({ url: `/api/v1/recordings/${id}/samples` })).rawPayload;
  return recordingFrom(meta, buffer.slice(byteOffset, byteOffset + byteLength) as ArrayBuffer);
}
