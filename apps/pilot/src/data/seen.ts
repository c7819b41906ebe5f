import { useCallback, useEffect, useState } from 'react';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { proofRelies, type MachineModel, type Observer, type StagePath } from '@yare/commissioning';
import { live, useLiveValue } from './live';

/** What was seen at machines on this device and is not on record yet, with what it rests on. It outlives the page, and a reload. */
interface Kept {
  grounds: string;
  found: unknown;
}
const useStore = create<{ at: Record<string, Kept | undefined> }>()(
  persist((): { at: Record<string, Kept | undefined> } => ({ at: {} }), { name: 'yare.seen' }),
);

/** What stood in the drive, of all that tests of a stage rest on: what was seen counts no longer once that has changed. */
export const groundsOf = (model: MachineModel, stage: StagePath, items: readonly string[]): string =>
  JSON.stringify([
    model.machine.driveRevision,
    ...new Set(items.flatMap((item) => proofRelies(stage, item, model).settings).map((code) => `${code} ${model.inDriveOf(code)?.value}`)),
  ]);

export interface Noted<T> {
  found: T;
  note: (found: T) => void;
  forget: () => void;
}

/** What is kept of one thing that was tried. @param grounds what it rests on @param none nothing yet; the same one at each call */
export function useNoted<T>(id: string, grounds: string, none: T): Noted<T> {
  const kept = useStore((s) => s.at[id]);
  const found = kept?.grounds === grounds ? (kept.found as T) : none;
  const note = useCallback((next: T) => useStore.setState((s) => ({ at: { ...s.at, [id]: { grounds, found: next } } })), [id, grounds]);
  const forget = useCallback(() => useStore.setState((s) => ({ at: { ...s.at, [id]: undefined } })), [id]);
  return { found, note, forget };
}

/**
 * Watches a machine while a page is open, and keeps what was seen.
 * @param observer null while nothing can be watched; the same one as long as it watches for the same
 * @param stageOf how far it is, in a word, for whoever tells it
 */
export function useWatched<P, F, S extends string = string>(
  tag: string,
  id: string,
  grounds: string,
  observer: Observer<P, F> | null,
  none: F,
  stageOf?: (pending: P) => S,
): Noted<F> & { stage: S | null } {
  const noted = useNoted(`${tag} ${id}`, grounds, none);
  const [stage, setStage] = useState<S | null>(null);
  const { note } = noted;
  // asks the server for this machine's samples
  useLiveValue(tag, (s) => s?.link);
  useEffect(() => {
    if (!observer) return;
    let pending = observer.begin;
    let last = -Infinity;
    const key = `${tag} ${id}`;
    return live.subscribe(() => {
      const sample = live.samples.get(tag);
      if (!sample || sample.at === last) return;
      last = sample.at;
      const kept = useStore.getState().at[key];
      const found = kept?.grounds === grounds ? (kept.found as F) : observer.none;
      const seen = observer.look(pending, found, sample);
      pending = seen.pending;
      if (stageOf) setStage(stageOf(pending));
      if (seen.found !== found) note(seen.found);
    });
  }, [tag, id, grounds, observer, note, stageOf]);
  return { ...noted, stage };
}
