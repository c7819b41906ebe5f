import { createHash } from 'node:crypto';
import { readdir, readFile } from 'node:fs/promises';
import { join, relative } from 'node:path';

/** What the figures of each part stand on: models, drive books, the plant, the bench's truth and how they are judged. */
const made = {
  lookahead: [
    'packages/core/src',
    'packages/books/src',
    'packages/books/data',
    'packages/demo-plant/src',
    'apps/bench/src',
    'apps/bench/truth',
    'apps/bench/accuracy',
  ],
  loops: ['packages/core/src/loop', 'packages/core/src/controls', 'apps/bench/accuracy/loops'],
  days: [
    'packages/core/src/days',
    'packages/core/src/controls',
    'packages/core/src/load',
    'packages/core/src/loop',
    'apps/bench/truth/loads.ts',
    'apps/bench/accuracy/days',
  ],
  trips: [
    'packages/core/src/trips',
    'packages/core/src/controls',
    'packages/books/data',
    'packages/demo-plant/src',
    'apps/bench/src/drive',
    'apps/bench/src/faults',
    'apps/bench/src/plant',
    'apps/bench/truth',
    'apps/bench/accuracy/trips',
  ],
  advice: [
    ...['stages', 'trips', 'lookAhead', 'copy.ts', 'waysOut.ts', 'templates.ts', 'days.ts', 'command/fitJobs.ts'].map(
      (f) => `packages/commissioning/src/${f}`,
    ),
    ...['packages/core/src/trips', 'packages/core/src/loop', 'packages/core/src/days', 'apps/bench/accuracy/advice'],
  ],
};
/** What a part does not stand on, of that. */
const apart = {
  lookahead: [
    ...['packages/core/src/loop/', 'packages/core/src/days/', 'packages/core/src/trips/'],
    ...['apps/bench/accuracy/loops/', 'apps/bench/accuracy/days/', 'apps/bench/accuracy/trips/', 'apps/bench/accuracy/advice/'],
  ],
  loops: [] as string[],
  days: [] as string[],
  trips: [] as string[],
  advice: [] as string[],
};

/**
 * Hash of every file the accuracy was made from, comments and all: another hash, and the figures are of another state.
 * @param root folder of the repository
 */
export async function stampOf(root: string, part: keyof typeof made): Promise<string> {
  const hash = createHash('sha256');
  for (const folder of made[part]) {
    const at = join(root, folder);
    const names = await readdir(at, { recursive: true, withFileTypes: true }).catch(() => null);
    const files = names ? names.filter((f) => f.isFile()).map((f) => join(f.parentPath, f.name)) : [at];
    for (const file of files.sort()) {
      const name = relative(root, file);
      if (apart[part].some((folder) => name.startsWith(folder))) continue;
      hash.update(name);
      hash.update(await readFile(file));
    }
  }
  return hash.digest('hex').slice(0, 16);
}
