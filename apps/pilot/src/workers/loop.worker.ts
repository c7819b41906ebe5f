import { expose } from 'comlink';
import { readStep } from './readStep';

/** Step test and controller off the main thread. */
const work = { read: readStep };
export type LoopWork = typeof work;

expose(work);
