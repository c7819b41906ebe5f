import { expose } from 'comlink';
import { fileContents, packedRecording, type Contents, type LookedInto } from './readRecording';

let contents: Contents | null = null;

/** Files of other instruments, read off the main thread. */
const work = {
  lookInto(files: ReadonlyArray<{ name: string; bytes: Uint8Array }>, comma?: boolean): LookedInto {
    const { looked, ...rest } = fileContents(files, comma);
    contents = rest;
    return looked;
  },
  packed: (of: Parameters<typeof packedRecording>[1]) => packedRecording(contents, of),
};
export type RecordingWork = typeof work;

expose(work);
