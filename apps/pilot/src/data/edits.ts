import { groundOf } from '@yare/commissioning';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import type { MachineDetail, PlateRevision, Sheet, Sheets, Source, Survey, SurveyRevision } from '@yare/contract';
import type { StampedPlate } from '@yare/core';
import { api, ApiProblem, Offline } from './api';
import { authorNow } from './device';
import { keys, queryClient } from './queries';

/** One edit not yet on the server. */
export interface DraftChange {
  value: number;
  source: Source;
}

interface Edits<Change, Theirs> {
  /** by setting code, or by plate field */
  changes: Record<string, Change>;
  /** the revision these changes were made on */
  base: number | null;
  /** the winner's side when somebody else changed the same thing first */
  conflict: Theirs | null;
  /** the server's sentence, by field */
  refused: { field: string; sentence: string } | null;
}

/** What is edited on the device and sent behind the person's back. */
export type EditKind = 'draft' | 'plate' | 'survey';

interface UndoStep {
  of: EditKind;
  before: Record<string, unknown>;
}

interface MachineEdits {
  draft: Edits<DraftChange, Sheet>;
  plate: Edits<unknown, PlateRevision>;
  survey: Edits<unknown, SurveyRevision>;
  undo: UndoStep[];
}

interface Store {
  machines: Record<string, MachineEdits>;
  offline: boolean;
}

const untouched = { changes: {}, base: null, conflict: null, refused: null };
const none = (): MachineEdits => ({ draft: untouched, plate: untouched, survey: untouched, undo: [] });
const empty = none();

/** Everything typed on this device and not yet stored by the server. It survives a reload and a lost server. */
export const useEdits = create<Store>()(
  persist((): Store => ({ machines: {}, offline: false }), {
    name: 'yare.edits',
    version: 1,
    partialize: (s) => ({ machines: s.machines, offline: false }),
    // what an older page left has no survey
    migrate: (old) => {
      const { machines } = old as Store;
      return { machines: Object.fromEntries(Object.entries(machines).map(([tag, m]) => [tag, { ...none(), ...m }])), offline: false };
    },
  }),
);

export const useMachineEdits = (tag: string): MachineEdits => useEdits((s) => s.machines[tag] ?? empty);

function update(tag: string, change: (m: MachineEdits) => Partial<MachineEdits>): void {
  useEdits.setState((s) => {
    const before = s.machines[tag] ?? none();
    return { machines: { ...s.machines, [tag]: { ...before, ...change(before) } } };
  });
}

const get = (tag: string): MachineEdits => useEdits.getState().machines[tag] ?? none();
const sending = new Set<string>();
let retry: ReturnType<typeof setTimeout> | undefined;

function setOffline(offline: boolean): void {
  if (useEdits.getState().offline !== offline) useEdits.setState({ offline });
  clearTimeout(retry);
  if (offline) retry = setTimeout(sendAll, 3000);
}

/** Tries again whatever waits. */
export function sendAll(): void {
  for (const tag of Object.keys(useEdits.getState().machines)) {
    void sendDraft(tag);
    void sendPlate(tag);
    void sendSurvey(tag);
  }
}

const withoutSent = <C>(changes: Record<string, C>, sent: Record<string, C>): Record<string, C> =>
  Object.fromEntries(Object.entries(changes).filter(([k, v]) => sent[k] !== v));

/** Whether the other side already says all of what was changed here. */
function standsAlready(kind: EditKind, changes: Record<string, unknown>, current: unknown): boolean {
  const side = current as { values?: Record<string, { value: number }>; plate?: Record<string, unknown>; survey?: Record<string, unknown> };
  return Object.entries(changes).every(([key, change]) => {
    const theirs = kind === 'draft' ? side.values?.[key]?.value : side[kind]?.[key];
    return JSON.stringify(theirs) === JSON.stringify(kind === 'draft' ? (change as DraftChange).value : change);
  });
}

/** One send at a time for each machine and kind; what is typed meanwhile goes with the next. */
async function send(kind: EditKind, tag: string, work: () => Promise<void>): Promise<void> {
  const key = `${kind} ${tag}`;
  const edits = get(tag)[kind];
  if (sending.has(key) || edits.conflict || edits.refused || Object.keys(edits.changes).length === 0) return;
  sending.add(key);
  try {
    await work();
    setOffline(false);
  } catch (error) {
    if (error instanceof Offline) setOffline(true);
    else if (error instanceof ApiProblem && error.problem.status === 409) {
      update(tag, (m) => ({ [kind]: { ...m[kind], conflict: error.problem.current } }));
      // an answer lost on the way looks like a race with oneself: what stands there already is what was meant
      if (standsAlready(kind, edits.changes, error.problem.current)) settleConflict(tag, kind, 'theirs');
    } else if (error instanceof ApiProblem) {
      const field = error.problem.field ?? Object.keys(edits.changes)[0]!;
      update(tag, (m) => ({ [kind]: { ...m[kind], refused: { field, sentence: error.problem.detail } } }));
    } else throw error;
    return;
  } finally {
    sending.delete(key);
  }
  if (Object.keys(get(tag)[kind].changes).length > 0) await send(kind, tag, work);
}

const sendDraft = (tag: string): Promise<void> =>
  send('draft', tag, async () => {
    const sheets = queryClient.getQueryData<Sheets>(keys.sheets(tag)) ?? (await api<Sheets>(`/machines/${tag}/sheets`));
    const { changes: sent, base } = get(tag).draft;
    const draft = await api<Sheet>(`/machines/${tag}/draft`, {
      method: 'PUT',
      body: { revision: base ?? sheets.draft.revision, author: authorNow(), changes: Object.entries(sent).map(([code, c]) => ({ code, ...c })) },
    });
    await queryClient.cancelQueries({ queryKey: keys.sheets(tag) });
    queryClient.setQueryData<Sheets>(keys.sheets(tag), (old) => ({ ...(old ?? sheets), draft }));
    update(tag, (m) => ({ draft: { ...m.draft, changes: withoutSent(m.draft.changes, sent), base: draft.revision } }));
  });

const sendPlate = (tag: string): Promise<void> =>
  send('plate', tag, async () => {
    const machine = queryClient.getQueryData<MachineDetail>(keys.machine(tag)) ?? (await api<MachineDetail>(`/machines/${tag}`));
    const { changes: sent, base } = get(tag).plate;
    const plate = await api<PlateRevision>(`/machines/${tag}/plate`, {
      method: 'PUT',
      body: { revision: base ?? machine.plate.revision, author: authorNow(), plate: { ...machine.plate.plate, ...sent } },
    });
    await queryClient.cancelQueries({ queryKey: keys.machine(tag) });
    queryClient.setQueryData<MachineDetail>(keys.machine(tag), (old) => ({ ...(old ?? machine), plate }));
    update(tag, (m) => ({ plate: { ...m.plate, changes: withoutSent(m.plate.changes, sent), base: plate.revision } }));
  });

/** A survey nobody has made yet: what feeds the machine as it was taken down, and nothing else. */
export const emptySurvey = (machine: Pick<MachineDetail, 'supply'>): Survey => ({
  why: '',
  ...groundOf(machine.supply),
  screened: null,
  lineVoltages: null,
  insulation: null,
});

const sendSurvey = (tag: string): Promise<void> =>
  send('survey', tag, async () => {
    const machine = queryClient.getQueryData<MachineDetail>(keys.machine(tag)) ?? (await api<MachineDetail>(`/machines/${tag}`));
    const known = queryClient.getQueryData<SurveyRevision | null>(keys.survey(tag));
    const now = known === undefined ? await api<SurveyRevision | null>(`/machines/${tag}/survey`) : known;
    const { changes: sent, base } = get(tag).survey;
    const survey = await api<SurveyRevision>(`/machines/${tag}/survey`, {
      method: 'PUT',
      body: { revision: base ?? now?.revision ?? 0, author: authorNow(), survey: { ...(now?.survey ?? emptySurvey(machine)), ...sent } },
    });
    queryClient.setQueryData<SurveyRevision | null>(keys.survey(tag), survey);
    const { voltage, frequency, driven } = survey.survey;
    queryClient.setQueryData<MachineDetail>(
      keys.machine(tag),
      (old) => old && { ...old, supply: { voltage, frequency }, ...(driven && { driven, drivenEstimated: false }) },
    );
    // what was first put on record is known to the server only
    if (sent.driven === null) void queryClient.invalidateQueries({ queryKey: keys.machine(tag) });
    update(tag, (m) => ({ survey: { ...m.survey, changes: withoutSent(m.survey.changes, sent), base: survey.revision } }));
  });

const longestUndo = 50;

/** The revision a new change stands on: the one on screen, or the one the changes already waiting were made on. */
const baseOf = (edits: { changes: object; base: number | null }, onScreen: number | undefined): number | null =>
  Object.keys(edits.changes).length > 0 ? edits.base : (onScreen ?? null);

/** Changes settings of the draft; they show at once and go to the server behind the person's back. */
export function editDraft(tag: string, changes: Record<string, DraftChange>, before?: Record<string, DraftChange>): void {
  update(tag, (m) => ({
    draft: {
      changes: { ...m.draft.changes, ...changes },
      base: baseOf(m.draft, queryClient.getQueryData<Sheets>(keys.sheets(tag))?.draft.revision),
      conflict: m.draft.conflict,
      refused: null,
    },
    undo: before ? [...m.undo, { of: 'draft' as const, before }].slice(-longestUndo) : m.undo,
  }));
  void sendDraft(tag);
}

/** Changes figures of the plate. */
export function editPlate(tag: string, changes: Partial<StampedPlate>, before?: Partial<StampedPlate>): void {
  update(tag, (m) => ({
    plate: {
      changes: { ...m.plate.changes, ...changes },
      base: baseOf(m.plate, queryClient.getQueryData<MachineDetail>(keys.machine(tag))?.plate.revision),
      conflict: m.plate.conflict,
      refused: null,
    },
    undo: before ? [...m.undo, { of: 'plate' as const, before }].slice(-longestUndo) : m.undo,
  }));
  void sendPlate(tag);
}

/** Changes figures of the survey. */
export function editSurvey(tag: string, changes: Partial<Survey>, before?: Partial<Survey>): void {
  update(tag, (m) => ({
    survey: {
      changes: { ...m.survey.changes, ...changes },
      base: baseOf(m.survey, queryClient.getQueryData<SurveyRevision | null>(keys.survey(tag))?.revision),
      conflict: m.survey.conflict,
      refused: null,
    },
    undo: before ? [...m.undo, { of: 'survey' as const, before }].slice(-longestUndo) : m.undo,
  }));
  void sendSurvey(tag);
}

/** Takes the last edit of a kind made on this device back, as a new edit. */
export function undoLast(tag: string, of: UndoStep['of']): void {
  const { undo } = get(tag);
  const index = undo.map((u) => u.of).lastIndexOf(of);
  if (index < 0) return;
  const step = undo[index]!;
  update(tag, () => ({ undo: undo.filter((_, i) => i !== index) }));
  if (of === 'draft') editDraft(tag, step.before as Record<string, DraftChange>);
  else if (of === 'plate') editPlate(tag, step.before as Partial<StampedPlate>);
  else editSurvey(tag, step.before as Partial<Survey>);
}

/** Ends a race: keep this device's figures on top of the other side, or drop them. */
export function settleConflict(tag: string, kind: EditKind, keep: 'mine' | 'theirs'): void {
  const { conflict } = get(tag)[kind];
  if (!conflict) return;
  if (kind === 'draft') queryClient.setQueryData<Sheets>(keys.sheets(tag), (old) => old && { ...old, draft: conflict as Sheet });
  else if (kind === 'survey') queryClient.setQueryData<SurveyRevision>(keys.survey(tag), conflict as SurveyRevision);
  else queryClient.setQueryData<MachineDetail>(keys.machine(tag), (old) => old && { ...old, plate: conflict as PlateRevision });
  update(tag, (m) => ({ [kind]: { changes: keep === 'mine' ? m[kind].changes : {}, base: conflict.revision, conflict: null, refused: null } }));
  sendAll();
}

/** Drops an edit the server refused; what stood before shows again. */
export function dropRefused(tag: string, kind: EditKind): void {
  update(tag, (m) => {
    const { refused, changes } = m[kind];
    const left = { ...changes };
    if (refused) delete left[refused.field];
    return { [kind]: { ...m[kind], changes: left, conflict: null, refused: null } };
  });
  sendAll();
}

if (typeof window !== 'undefined') {
  window.addEventListener('online', sendAll);
  setTimeout(sendAll, 0);
}
