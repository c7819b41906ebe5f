import { once } from 'node:events';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { MessageChannel, type MessagePort } from 'node:worker_threads';
import { Piscina } from 'piscina';
import type { Problem } from '@yare/contract';
import { ProblemError } from '../problem';
import { received, send } from './pieces';
import type { Input, Outcome, TaskName } from './tasks';

/** Threads at most; more work waits for one of them. */
const threads = 4;
/** Work that may wait, all in all. */
const mostWaiting = 24;
/** An idle thread ends after this, ms. */
const idleFor = 60_000;
/** Most memory of one thread, MB: one that wants more ends, and the server does not. */
const mostMemory = 768;
/** Work that takes longer is given up, ms. */
const longest = 120_000;
/** How far the threads stand back behind the one that holds the buttons. */
const niceness = 5;

const tooMuch = () =>
  new ProblemError(503, 'Busy', 'The server makes or takes in as many files as it can at this moment. Nothing was done; try again in a minute.');
const givenUp = (error: unknown): ProblemError | null => {
  const { name, code } = error as { name?: string; code?: string };
  if (name === 'AbortError')
    return new ProblemError(503, 'Took too long', 'The server gave this up: it took more than two minutes. Nothing was stored.');
  if (code === 'ERR_WORKER_OUT_OF_MEMORY')
    return new ProblemError(422, 'Too large', 'This takes more memory than the server gives to one file. Nothing was stored. Take a smaller part.');
  return null;
};

/**
 * Heavy work off the thread that serves: whoever holds a button notices nothing of it. Threads are begun when they are asked for, take
 * their bytes by pieces, and end with what they do when it grows beyond its limits.
 */
export class Aside {
  private readonly pool = new Piscina({
    filename: join(process.cwd(), 'apps/server/src/aside/worker.ts'),
    execArgv: ['--import', 'tsx'],
    minThreads: 0,
    maxThreads: threads,
    maxQueue: mostWaiting,
    idleTimeout: idleFor,
    resourceLimits: { maxOldGenerationSizeMb: mostMemory },
    niceIncrement: niceness,
    // nothing of the server's own environment goes there
    env: { NODE_ENV: process.env.NODE_ENV ?? '' },
  });

  constructor() {
    // a thread that ends takes no server with it: whoever waits for it is told
    this.pool.on('error', () => undefined);
  }

  /** The bytes a task makes. What fails after the first of them breaks the stream off. @throws ProblemError when there is no thread for it */
  make<N extends TaskName>(name: N, input: Input<N>): Readable {
    const { port1, port2 } = new MessageChannel();
    const work = this.run(name, input, port2);
    work.catch(() => port1.close());
    return Readable.from(
      (async function* () {
        try {
          yield* received(port1);
        } catch (error) {
          await work;
          throw error;
        }
      })(),
      { objectMode: false },
    );
  }

  /** Gives a task bytes and tells what it made of them. @throws ProblemError */
  async take<N extends TaskName>(name: N, input: Input<N>, bytes: AsyncIterable<Uint8Array>): Promise<Outcome<N>> {
    const { port1, port2 } = new MessageChannel();
    const work = this.run(name, input, port2);
    const sent = send(port1, bytes).catch((error: unknown) => {
      port1.close();
      throw error;
    });
    // whichever fails first says why; a task that needs no more has its say too
    const [outcome] = await Promise.all([work.finally(() => port1.close()), Promise.race([sent, work])]);
    return outcome;
  }

  /** Has a task done that takes and makes no bytes. @throws ProblemError */
  do<N extends TaskName>(name: N, input: Input<N>): Promise<Outcome<N>> {
    const { port1, port2 } = new MessageChannel();
    return this.run(name, input, port2).finally(() => port1.close());
  }

  private async run<N extends TaskName>(name: N, input: Input<N>, port: MessagePort): Promise<Outcome<N>> {
    if (this.pool.queueSize >= mostWaiting) {
      port.close();
      throw tooMuch();
    }
    try {
      const told = (await this.pool.run({ name, input, port }, { transferList: [port as never], signal: AbortSignal.timeout(longest) })) as
        { outcome: Outcome<N> } | { problem: Problem };
      if ('problem' in told) throw ProblemError.of(told.problem);
      return told.outcome;
    } catch (error) {
      throw givenUp(error) ?? error;
    }
  }

  async stop(): Promise<void> {
    await this.pool.destroy();
  }
}

/** Waits for the first byte of a stream, so that what fails before it is still told as a problem. */
export async function begun(stream: Readable): Promise<Readable> {
  await Promise.race([once(stream, 'readable'), once(stream, 'end')]);
  return stream;
}
