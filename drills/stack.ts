import '@yare/books/all';
import { readFileSync, rmSync, mkdtempSync, chmodSync } from 'node:fs';
import { present } from '@yare/core';
import http from 'node:http';
import net, { type Socket } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
import { performance } from 'node:perf_hooks';
import { setTimeout as pause } from 'node:timers/promises';
import { parseArgs } from 'node:util';
import getPort from 'get-port';
import ModbusRTU from 'modbus-serial';
import pg from 'pg';
import { bookById, DriveSettings } from '@yare/books';
import type { DriveBook } from '@yare/contract';
import { removeDatabase, startDatabase } from '../scripts/lib/database.mjs';
import { startBench, startServer } from '../scripts/lib/processes.mjs';

type Program = ReturnType<typeof startServer>;

/** What a drill was asked: how much, and whether one JSON object is wanted. */
export function asked(name: string, usual: number): { count: number; json: boolean; only: string | undefined } {
  const { values } = parseArgs({
    options: { [name]: { type: 'string', default: String(usual) }, json: { type: 'boolean', default: false }, only: { type: 'string' } },
  });
  const count = Number(values[name]);
  if (!Number.isInteger(count) || count < 1) throw new Error(`--${name} takes a whole number from 1`);
  return { count, json: values.json === true, only: values.only as string | undefined };
}

/** The link between server and drives, which can be cut and joined again. */
export class Cable {
  private readonly sockets = new Set<Socket>();
  private cutNow = false;
  private readonly server: net.Server;

  private constructor(private readonly to: number) {
    this.server = net.createServer((near) => {
      near.on('error', () => undefined);
      if (this.cutNow) return void near.destroy();
      const far = net.connect(this.to, '127.0.0.1');
      far.on('error', () => near.destroy());
      far.on('close', () => near.destroy());
      near.on('close', () => far.destroy());
      near.pipe(far).pipe(near);
      for (const s of [near, far]) {
        this.sockets.add(s);
        s.on('close', () => this.sockets.delete(s));
      }
    });
  }

  static async lay(to: number, port: number): Promise<Cable> {
    const cable = new Cable(to);
    await new Promise<void>((done) => cable.server.listen(port, '127.0.0.1', done));
    return cable;
  }

  cut(): void {
    this.cutNow = true;
    for (const s of this.sockets) s.destroy();
  }

  join(): void {
    this.cutNow = false;
  }

  close(): void {
    this.cut();
    this.server.close();
  }
}

/** The whole product in processes of its own, on a database of its own, with a hand on each part. */
export class DrillStack {
  server!: Program;
  bench!: Program;
  private constructor(
    readonly folder: string,
    readonly database: Awaited<ReturnType<typeof startDatabase>>,
    readonly port: number,
    readonly benchPort: number,
    private readonly plantPort: number,
    readonly shaftPort: number,
    readonly cable: Cable,
    private readonly cablePort: number,
    private readonly alone: { env?: Record<string, string>; straight?: boolean },
  ) {}

  /** @param alone further environment of the server, and whether its link leads straight to the drives, past this process and what that is busy with */
  static async start(alone: { env?: Record<string, string>; straight?: boolean } = {}): Promise<DrillStack> {
    const folder = mkdtempSync(join(tmpdir(), 'yare-drill-'));
    chmodSync(folder, 0o755);
    const database = await startDatabase(folder, 'yare_drill');
    const free = () => getPort({ host: '127.0.0.1' });
    const [port, benchPort, plantPort, shaftPort, cablePort] = [await free(), await free(), await free(), await free(), await free()];
    const stack = new DrillStack(folder, database, port, benchPort, plantPort, shaftPort, await Cable.lay(benchPort, cablePort), cablePort, alone);
    await stack.startBench();
    await stack.startServer();
    return stack;
  }

  get url(): string {
    return `http://127.0.0.1:${this.port}`;
  }

  /** The database's processes: one for each that asks it, and those that keep it. */
  databasePids(): number[] {
    const pid = this.database.pid();
    if (!pid) return [];
    try {
      return [pid, ...readFileSync(`/proc/${pid}/task/${pid}/children`, 'utf8').trim().split(' ').filter(Boolean).map(Number)];
    } catch {
      return [pid];
    }
  }

  /** What the server noted of what nobody foresaw: the answer does not tell its inside. */
  unforeseen(): string[] {
    const lines = readFileSync(join(this.folder, 'server.log'), 'utf8').split('\n');
    return lines.filter((line) => line.includes('"unforeseen"'));
  }

  async startBench(): Promise<void> {
    this.bench = startBench({
      port: this.benchPort,
      plantPort: this.plantPort,
      seed: 11,
      stateFile: join(this.folder, 'bench.json'),
      logFile: join(this.folder, 'bench.log'),
      script: 'drills/bench.ts',
      env: { SHAFTS: String(this.shaftPort) },
    });
    await this.bench.ready;
  }

  async startServer(): Promise<void> {
    this.server = startServer({
      port: this.port,
      database: this.database.url,
      bench: `127.0.0.1:${this.alone.straight ? this.benchPort : this.cablePort}`,
      plant: `127.0.0.1:${this.plantPort}`,
      logFile: join(this.folder, 'server.log'),
      env: this.alone.env,
    });
    await this.server.ready;
  }

  /** Starts the database again after it was killed; its children may need a moment to go. */
  async startDatabase(): Promise<void> {
    for (let i = 0; ; i++) {
      try {
        return this.database.restart();
      } catch (error) {
        if (i > 20) throw error;
        await pause(200);
      }
    }
  }

  async query<T extends object>(sql: string, values?: unknown[]): Promise<T[]> {
    const client = new pg.Client(this.database.url);
    await client.connect();
    try {
      return (await client.query<T>(sql, values)).rows;
    } finally {
      await client.end();
    }
  }

  async call<T>(method: string, path: string, body?: object): Promise<{ status: number; body: T }> {
    const response = await fetch(`${this.url}/api/v1${path}`, {
      method,
      ...(body && { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
      signal: AbortSignal.timeout(60_000),
    });
    return { status: response.status, body: (await response.json().catch(() => null)) as T };
  }

  async stop(): Promise<void> {
    await this.server.stop();
    await this.bench.stop();
    this.cable.close();
    this.database.stop();
    removeDatabase(this.folder);
    rmSync(this.folder, { recursive: true, force: true });
  }
}

/** What a tachometer and a clamp meter at one motor show: rpm in the sense it first turned, and A. */
export interface Shaft {
  speed: number;
  current: number;
}

/** ms for which it is remembered how they turned */
const remembered = 10_000;

/** Every shaft of the bench as it truly turns, which no drive tells: a line each ten milliseconds. */
export class Shafts {
  private request: http.ClientRequest | null = null;
  private newest: Record<string, readonly [number, number]> = {};
  private heardAt = -Infinity;
  private readonly past: Array<{ at: number; shafts: Record<string, readonly [number, number]> }> = [];

  constructor(private readonly port: number) {}

  /** Begins to listen; resolves with the first line. */
  begin(): Promise<void> {
    return new Promise((first, fail) => {
      this.request = http.get({ host: '127.0.0.1', port: this.port, agent: false }, (response) => {
        const lines = createInterface({ input: response });
        lines.on('line', (line) => {
          this.newest = JSON.parse(line) as typeof this.newest;
          this.heardAt = performance.now();
          this.past.push({ at: this.heardAt, shafts: this.newest });
          while (this.heardAt - present(this.past[0]).at > remembered) this.past.shift();
          first();
        });
        // the bench ends, and so does what it tells
        for (const stream of [lines, response]) stream.on('error', () => undefined);
      });
      this.request.once('error', fail);
      this.request.on('error', () => undefined);
    });
  }

  /** As of the newest line; null while the bench says nothing. */
  of(tag: string): Shaft | null {
    const [speed, current] = this.newest[tag] ?? [];
    if (speed === undefined || current === undefined || performance.now() - this.heardAt > 200) return null;
    return { speed, current };
  }

  /** One since a moment that is not long ago. */
  since(tag: string, from: number): Array<Shaft & { at: number }> {
    return this.past.flatMap(({ at, shafts }) => (at >= from && shafts[tag] ? [{ at, speed: shafts[tag][0], current: shafts[tag][1] }] : []));
  }

  end(): void {
    this.request?.destroy();
  }
}

/** One drive, looked at and meddled with by a Modbus client that is not the application's. */
export class Watcher {
  private client!: ModbusRTU;
  readonly book: DriveBook;

  private constructor(
    readonly tag: string,
    readonly unitId: number,
    readonly size: string,
    bookId: string,
    private readonly port: number,
  ) {
    this.book = bookById(bookId);
  }

  static async on(port: number, m: { tag: string; unitId: number; bookId: string; size: string }): Promise<Watcher> {
    const w = new Watcher(m.tag, m.unitId, m.size, m.bookId, port);
    await w.connect();
    return w;
  }

  private async connect(): Promise<void> {
    this.client = new ModbusRTU();
    this.client.on('error', () => undefined);
    await this.client.connectTCP('127.0.0.1', { port: this.port });
    this.client.setID(this.unitId);
    this.client.setTimeout(3000);
  }

  /** After the bench was started anew. */
  async again(): Promise<void> {
    this.close();
    await this.connect();
  }

  private async read(register: number): Promise<number> {
    const word = present((await this.client.readHoldingRegisters(register, 1)).data[0]);
    return word > 32767 ? word - 65536 : word;
  }

  async write(register: number, value: number): Promise<void> {
    await this.client.writeRegister(register, value & 0xffff);
  }

  /** Hz for one count of a word; the shares are those of the demo plant's 50 Hz motors of two and four poles. */
  private hertzPer(word: { step: number; per?: string }, poles: number): number {
    return word.per === 'motorFrequency' ? 50 * word.step : word.per === 'polePairs' ? (word.step * poles) / 2 : word.step;
  }

  /** Hz without sign. */
  async output(): Promise<number> {
    const word = this.book.words.live.outputFrequency;
    return Math.abs((await this.read(word.register)) * this.hertzPer(word, 2));
  }

  async onLink(): Promise<boolean> {
    return (await this.read(this.book.words.live.commandHolder.register)) === 1;
  }

  /** Writes a reference of about so many Hz over whoever has command. */
  async meddle(hertz: number): Promise<void> {
    const word = this.book.words.command.reference;
    await this.write(word.register, Math.round(hertz / this.hertzPer(word, 2)));
  }

  /** Writes the link time-out in the drive, s. */
  async setTimeout(seconds: number): Promise<void> {
    const s = new DriveSettings(this.book, this.size, {}, 50).need('linkTimeout');
    await this.write(s.register, Math.round(Math.min(s.max, seconds) / s.step));
  }

  close(): void {
    this.client.close(() => undefined);
  }
}

export const median = (figures: readonly number[]): number | null => {
  if (figures.length === 0) return null;
  const sorted = [...figures].sort((a, b) => a - b);
  return Math.round((present(sorted[Math.floor((sorted.length - 1) / 2)]) + present(sorted[Math.ceil((sorted.length - 1) / 2)])) / 2);
};
