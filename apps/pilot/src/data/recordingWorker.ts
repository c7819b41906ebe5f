import { wrap, type Remote } from 'comlink';
import type { RecordingWork } from '../workers/recording.worker';

let remote: Remote<RecordingWork> | undefined;

/** The one worker that reads files of other instruments, begun when it is first wanted. */
export function recordingWorker(): Remote<RecordingWork> {
  remote ??= wrap<RecordingWork>(new Worker(new URL('../workers/recording.worker', import.meta.url)));
  return remote;
}
