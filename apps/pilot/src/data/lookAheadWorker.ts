import { wrap, type Remote } from 'comlink';
import type { LookAheadWork } from '../workers/lookAhead.worker';

let remote: Remote<LookAheadWork> | undefined;

/** The one worker that runs machines ahead, begun when it is first wanted. */
export function lookAheadWorker(): Remote<LookAheadWork> {
  remote ??= wrap<LookAheadWork>(new Worker(new URL('../workers/lookAhead.worker', import.meta.url)));
  return remote;
}
