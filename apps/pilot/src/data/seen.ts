import { useQuery } from '@tanstack/react-query';
import { useCallback } from 'react';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { proofRelies, type MachineModel, type StagePath } from '@yare/commissioning';
import type { MachineSeen, SeenFacts, SeenKinds, WatchId } from '@yare/contract';
import { say } from '@yare/words/pages/data';
import { keys, queryClient, send } from './client';
import { laterSeen, useLiveValue } from './live';

const clockHours = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' });
const hourOf = (iso: string): string => clockHours.format(new Date(iso));

/** What was seen at machines on this device and is not on record yet, with what it rests on. It outlives the page, and a reload. */
interface Kept {
  grounds: string;
  found: unknown;
}
const useStore = create<{ at: Record<string, Kept | undefined> }>()(
  persist((): { at: Record<string, Kept | undefined> } => ({ at: {} }), { name: say.yareSeen }),
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

/** What is said wherever something is proved by being seen to happen: whether anybody watches, and how long. */
function watchText(until: string | null | undefined, failed: boolean): string {
  if (until) return say.itIsWatchedUntilEven({ hourOf: hourOf(until) });
  return failed ? say.itIsNotWatchedNow : '';
}

const nothing: SeenFacts = {};

/** A machine whose page is open is watched on, this often asked for, ms. */
const watchEvery = 60_000;

/** What the server saw at a machine of one thing it watches for, on whatever page and with none open, by the test it proves. */
export function useSeen<W extends WatchId>(tag: string, id: W): { found: SeenFacts<SeenKinds[W]>; stage: string | null; watched: string } {
  // its samples are asked for, and with them comes what is seen
  useLiveValue(tag, (s) => s?.link);
  const { data, isError } = useQuery({
    queryKey: keys.seen(tag),
    queryFn: async () => laterSeen(queryClient.getQueryData(keys.seen(tag)), await send<MachineSeen>('POST', `/machines/${tag}/watch`)),
    refetchInterval: watchEvery,
  });
  const thing = data?.seen.find((x) => x.watch === id);
  const watched = watchText(data?.until, isError);
  return { found: (thing?.found ?? nothing) as SeenFacts<SeenKinds[W]>, stage: thing?.stage ?? null, watched };
}
