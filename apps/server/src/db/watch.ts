import { setImmediate, setTimeout } from 'node:timers/promises';
import pg from 'pg';

/** A connection of its own that tells at once when the database goes, and holds the lock that says: one server on a database. */
const lockKey = 7_310_551;
/** ms between looks while somebody cares, and otherwise. */
const askEvery = 200;
const askSeldom = 1000;
/** A database that has not answered for so long is away, ms: while somebody cares, and otherwise. Only tests on busy machines have other ones. */
export interface Silence {
  cared: number;
  idle: number;
}
/** The first session may take so long, ms; later ones 2 s, then they are tried anew. */
const firstSession = 30_000;
const usualSilence: Silence = { cared: 700, idle: 3000 };

export class SecondServer extends Error {
  constructor() {
    super('Another Yare Pilot server runs on this database. Stop that one first; two must never turn the same motors.');
  }
}

/** A session of the database, and whether it has ended. */
interface Session {
  client: pg.Client;
  ended: boolean;
  /** the newest answer, on this process's clock, ms */
  answeredAt: number;
}

/**
 * Holds the lock as long as its session lives. The lock is the session's: whoever lost that may no longer be alone, even if the lock is got
 * again a moment later, and lets go of everything.
 */
export class DatabaseWatch {
  private session: Session | null;
  private running = true;
  private readonly loop: Promise<void>;
  private readonly asking = new Set<object>();
  private readonly listeners = new Set<() => void>();
  /** when this process last looked, on its clock, ms: while it stood still itself it calls nobody silent */
  private beat = performance.now();

  private constructor(
    private readonly url: string,
    first: Session,
    private readonly longest: Silence,
  ) {
    this.session = this.mind(first);
    this.loop = this.watch();
  }

  /**
   * @param patience s to wait for the lock of a server that was just killed
   * @param longest silence that is none yet
   * @throws SecondServer when another one holds the database
   */
  static async begin(url: string, patience = 5, longest = usualSilence): Promise<DatabaseWatch> {
    // nothing turns yet: a database that is slow to take its first session is waited for
    const session = await DatabaseWatch.open(url, longest, Math.max(firstSession, longest.idle));
    for (let i = 0; ; i++) {
      if (await DatabaseWatch.lock(session)) return new DatabaseWatch(url, session, longest);
      if (i >= 10 * patience) {
        await session.client.end();
        throw new SecondServer();
      }
      await setTimeout(100);
    }
  }

  private static async open(url: string, { idle }: Silence, connecting = 2000): Promise<Session> {
    const client = new pg.Client({ connectionString: url, connectionTimeoutMillis: connecting, query_timeout: idle });
    const session = { client, ended: false, answeredAt: performance.now() };
    for (const event of ['error', 'end'] as const) client.on(event, () => (session.ended = true));
    await client.connect();
    return session;
  }

  private static async lock({ client }: Session): Promise<boolean> {
    const { rows } = await client.query<{ got: boolean }>('select pg_try_advisory_lock($1) as got', [lockKey]);
    return rows[0]?.got === true;
  }

  /** Told when the lock is lost: whatever acts on a machine must be let go of. */
  onLost(listener: () => void): void {
    this.listeners.add(listener);
  }

  /** From now on the end of this session is the loss of the lock. */
  private mind(session: Session): Session | null {
    // it may have ended between its last answer and now
    if (session.ended) return null;
    for (const event of ['error', 'end'] as const) session.client.on(event, () => this.lose(session));
    return session;
  }

  private lose(session: Session): void {
    if (this.session !== session) return;
    this.session = null;
    for (const listener of this.listeners) listener();
    // one that hangs is left: the database gives its lock to whoever asks, or to us with the next session
    void session.client.end().catch(() => undefined);
    (session.client as unknown as { connection: { stream: { destroy(): void } } }).connection.stream.destroy();
  }

  /** Whether it is away, or the lock is not ours: the session ended, or does not answer. */
  get away(): boolean {
    const { session } = this;
    const now = performance.now();
    const stood = Math.max(0, now - this.beat - 2 * askEvery);
    return session === null || now - session.answeredAt - stood > (this.asking.size > 0 ? this.longest.cared : this.longest.idle);
  }

  /** Asks whether the session that holds the lock lives at this moment. */
  async confirm(): Promise<boolean> {
    const { session } = this;
    if (!session) return false;
    const asked = performance.now();
    await Promise.race([this.ask(session), setTimeout(this.longest.cared, undefined, { ref: false })]);
    // an answer that came while this process stood still is read before anybody is called silent
    await setImmediate();
    if (session.answeredAt < asked) this.lose(session);
    return this.session === session;
  }

  /** From now until what it returns is called, silence is noticed as soon as {@link Silence} says. */
  care(): () => void {
    const one = {};
    if (this.asking.size === 0 && this.session) this.session.answeredAt = performance.now();
    this.asking.add(one);
    return () => this.asking.delete(one);
  }

  private ask(session: Session): Promise<boolean> {
    return session.client.query('select 1').then(
      () => {
        session.answeredAt = performance.now();
        return true;
      },
      () => false,
    );
  }

  private async watch(): Promise<void> {
    let asked = -Infinity;
    while (this.running) {
      const { session } = this;
      const late = performance.now() - this.beat - askEvery;
      if (session && late > askEvery) session.answeredAt += late;
      this.beat = performance.now();
      if (!session) await this.again();
      else if (this.away) this.lose(session);
      else if (performance.now() - asked >= (this.asking.size > 0 ? askEvery : askSeldom)) {
        asked = performance.now();
        // not waited for: a database that hangs must not hang this
        void this.ask(session);
      }
      await setTimeout(askEvery);
    }
  }

  private async again(): Promise<void> {
    let session: Session | null = null;
    try {
      session = await DatabaseWatch.open(this.url, this.longest);
      if (!(await DatabaseWatch.lock(session))) throw new SecondServer();
      session.answeredAt = performance.now();
      this.session = this.mind(session);
    } catch {
      await session?.client.end().catch(() => undefined);
    }
  }

  async stop(): Promise<void> {
    this.running = false;
    await this.loop;
    const { session } = this;
    this.session = null;
    await session?.client.end().catch(() => undefined);
  }
}
