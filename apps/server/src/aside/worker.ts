import '@yare/books/all';
import type { MessagePort } from 'node:worker_threads';
import { ProblemError } from '../problem';
import { tasks, type Input, type TaskName } from './tasks';

/** One task in a thread of the pool. A problem is an answer like any other: thrown, it would lose what it says. */
export default async function work<N extends TaskName>({ name, input, port }: { name: N; input: Input<N>; port: MessagePort }) {
  try {
    const task = tasks[name] as (input: Input<N>, port: MessagePort) => Promise<unknown>;
    return { outcome: await task(input, port) };
  } catch (error) {
    if (error instanceof ProblemError) return { problem: error.problem };
    throw error;
  } finally {
    port.unref();
  }
}
