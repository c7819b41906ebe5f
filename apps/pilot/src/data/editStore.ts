import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import type { DraftValue } from '@yare/commissioning';
import type { PlateRevision, Sheet, StampedPlate, Survey, SurveyRevision, Wiring, WiringRevision } from '@yare/contract';
import { say } from '@yare/words/pages/data';

/** What is edited on the device and sent behind the person's back: the changes of each, and the revision the server keeps of it. */
export interface EditKinds {
  draft: { changes: Record<string, DraftValue>; revision: Sheet };
  plate: { changes: Partial<StampedPlate>; revision: PlateRevision };
  survey: { changes: Partial<Survey>; revision: SurveyRevision };
  wiring: { changes: Partial<Wiring>; revision: WiringRevision };
}
export type EditKind = keyof EditKinds;

/** Edits of one document not yet on the server. */
export interface Edits<K extends EditKind> {
  changes: EditKinds[K]['changes'];
  /** the revision these changes were made on */
  base: number | null;
  /** the winner's side when somebody else changed the same thing first */
  conflict: EditKinds[K]['revision'] | null;
  /** the server's sentence, by field */
  refused: { field: string; sentence: string } | null;
}

/** What an edit took the place of. */
export type UndoStep = { [K in EditKind]: { of: K; before: EditKinds[K]['changes'] } }[EditKind];

export type EditsByKind = { [K in EditKind]: Edits<K> };
export interface MachineEdits extends EditsByKind {
  undo: UndoStep[];
}

interface Store {
  machines: Record<string, MachineEdits>;
  offline: boolean;
}

const untouched = { changes: {}, base: null, conflict: null, refused: null };
const none: MachineEdits = { draft: untouched, plate: untouched, survey: untouched, wiring: untouched, undo: [] };

/** Everything typed on this device and not yet stored by the server. It survives a reload and a lost server. */
export const useEdits = create<Store>()(
  persist((): Store => ({ machines: {}, offline: false }), {
    name: say.yareEdits,
    version: 2,
    partialize: (s) => ({ machines: s.machines, offline: false }),
    // what an older page left has no survey or no wiring
    migrate: (old) => {
      const { machines } = old as Store;
      return { machines: Object.fromEntries(Object.entries(machines).map(([tag, m]) => [tag, { ...none, ...m }])), offline: false };
    },
  }),
);

export const useMachineEdits = (tag: string): MachineEdits => useEdits((s) => s.machines[tag] ?? none);

export const editsOf = (tag: string): MachineEdits => useEdits.getState().machines[tag] ?? none;

export function updateEdits(tag: string, change: (m: MachineEdits) => Partial<MachineEdits>): void {
  useEdits.setState((s) => {
    const before = s.machines[tag] ?? none;
    return { machines: { ...s.machines, [tag]: { ...before, ...change(before) } } };
  });
}
