import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { say } from '@yare/words/pages/data';

/** What somebody has made of a case on this device and not sent yet. */
export interface CaseNotes {
  /** id of the cause that was looked at; the likeliest when absent */
  cause?: string | undefined;
  cure: string;
  proof: string;
  /** of a drill: the cause that was named, s after the trip, and the fault it was */
  drill?: { said: string; seconds: number; was: string | null } | undefined;
}

const useStore = create<{ at: Record<number, CaseNotes | undefined> }>()(
  persist((): { at: Record<number, CaseNotes | undefined> } => ({ at: {} }), { name: say.yareCases }),
);

const nothing: CaseNotes = { cure: '', proof: '' };
export const useCaseNotes = (id: number): CaseNotes => useStore((s) => s.at[id] ?? nothing);
export const noteCase = (id: number, notes: Partial<CaseNotes>): void => {
  useStore.setState((s) => ({ at: { ...s.at, [id]: { ...nothing, ...s.at[id], ...notes } } }));
};
/** A case that is closed is on record; nothing of it stays here. */
export const dropCase = (id: number): void => {
  useStore.setState((s) => ({ at: { ...s.at, [id]: undefined } }));
};
