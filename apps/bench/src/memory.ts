import { existsSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import type { BenchStand } from '@yare/contract';
import type { KeptState } from './drive/simulatedDrive';

/** What is kept of a machine; one that people put here is kept whole. */
export type Kept = KeptState & { stand?: BenchStand };

const isKept = (k: unknown): k is Kept =>
  typeof k === 'object' && k !== null && 'values' in k && typeof k.values === 'object' && 'hours' in k && typeof k.hours === 'number';

const isMemory = (state: unknown): state is Record<string, Kept> => typeof state === 'object' && state !== null && Object.values(state).every(isKept);

/** What the drives kept. A file that cannot be understood is put aside under another name and told: the drives then begin with lost memory. */
export function readMemory(file: string | undefined, warn: (sentence: string) => void): Record<string, Kept> {
  if (!file || !existsSync(file)) return {};
  try {
    const state: unknown = JSON.parse(readFileSync(file, 'utf8'));
    if (!isMemory(state)) throw new Error('it holds something else');
    return state;
  } catch (error) {
    const aside = `${file}.damaged-${new Date().toISOString().replace(/[:.]/g, '')}`;
    renameSync(file, aside);
    warn(
      `The bench's memory ${file} is damaged (${error instanceof Error ? error.message : String(error)}). It is kept as ${aside}; the drives begin with factory and as-found values.`,
    );
    return {};
  }
}

/** Stores all of it in one step: what was there before stays until the new file is whole. */
export function storeMemory(file: string, memory: Readonly<Record<string, Kept>>): void {
  writeFileSync(`${file}.new`, JSON.stringify(memory));
  renameSync(`${file}.new`, file);
}
