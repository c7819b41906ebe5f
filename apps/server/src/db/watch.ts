import { setTimeout } from 'node:timers/promises';
import pg from 'pg';

/** A connection of its own that tells at once when the database goes, and holds the lock that says: one server on a database. */
const lockKey = 7_310_551;
const askEvery = 200;
/** A database that has not answered for this long is away, ms. */
const longestSilence = 700;

export class SecondServer extends Error {
  constructor() {
    super('Another Yare Pilot server runs on this database. Stop that one first; two must never turn the same motors.');
  }
}

export class DatabaseWatch {
  private client: pg.Client | null = null;
  private running = true;
  private answeredAt = performance.now();
  private readonly loop: Promise<void>;
  private readonly asking = new Set<object>();

  private constructor(
    private readonly url: string,
    first: pg.Client,
  ) {
    this.client = first;
    this.listen(first);
    this.loop = this.watch();
  }

  /**
   * @param patience s to wait for the lock of a server that was just killed
   * @throws SecondServer when another one holds the database
   */
  static async begin(url: string, patience = 5): Promise<DatabaseWatch> {
    const client = new pg.Client({ connectionString: url });
    client.on('error', () => undefined);
    await client.connect();
    for (let i = 0; ; i++) {
      if (await DatabaseWatch.lock(client)) return new DatabaseWatch(url, client);
      if (i >= 10 * patience) {
        await client.end();
        throw new SecondServer();
      }
      await setTimeout(100);
    }
  }

  private static async lock(client: pg.Client): Promise<boolean> {
    const { rows } = await client.query<{ got: boolean }>('select pg_try_advisory_lock($1) as got', [lockKey]);
    return rows[0]?.got === true;
  }

  private listen(client: pg.Client): void {
    const gone = () => {
      if (this.client === client) this.client = null;
    };
    client.on('error', gone);
    client.on('end', gone);
  }

  /** Whether it is away: the connection broke, or it does not answer. Asked often only while somebody cares. */
  get away(): boolean {
    return this.client === null || (this.asking.size > 0 && performance.now() - this.answeredAt > longestSilence);
  }

  /** From now until what it returns is called, silence is noticed within {@link longestSilence} ms. */
  care(): () => void {
    const one = {};
    if (this.asking.size === 0) this.answeredAt = performance.now();
    this.asking.add(one);
    return () => this.asking.delete(one);
  }

  private async watch(): Promise<void> {
    while (this.running) {
      const { client } = this;
      if (!client) await this.reconnect();
      else if (this.asking.size > 0) {
        // not waited for: a database that hangs must not hang this
        client.query('select 1').then(
          () => (this.answeredAt = performance.now()),
          () => undefined,
        );
      }
      await setTimeout(askEvery);
    }
  }

  private async reconnect(): Promise<void> {
    const client = new pg.Client({ connectionString: this.url, connectionTimeoutMillis: 2000 });
    client.on('error', () => undefined);
    try {
      await client.connect();
      if (!(await DatabaseWatch.lock(client))) throw new SecondServer();
      this.answeredAt = performance.now();
      this.client = client;
      this.listen(client);
    } catch {
      await client.end().catch(() => undefined);
    }
  }

  async stop(): Promise<void> {
    this.running = false;
    await this.loop;
    await this.client?.end().catch(() => undefined);
  }
}
