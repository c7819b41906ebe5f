import { wrap, type Remote } from 'comlink';
import type { TripsWork } from '../workers/trips.worker';

let remote: Remote<TripsWork> | undefined;

/** The one worker that looks for causes, begun when it is first wanted. */
export function tripsWorker(): Remote<TripsWork> {
  remote ??= wrap<TripsWork>(new Worker(new URL('../workers/trips.worker', import.meta.url)));
  return remote;
}
