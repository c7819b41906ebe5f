import type { DraftValue } from '@yare/commissioning';
import type { StampedPlate, Survey, Wiring } from '@yare/contract';
import { ApiProblem, Offline } from './api';
import { documents, editKinds } from './documents';
import { editsOf, updateEdits, useEdits, type EditKind, type EditKinds, type Edits, type EditsByKind, type UndoStep } from './editStore';

export { useEdits, useMachineEdits, type EditKind } from './editStore';

const sending = new Set<string>();
let retry: ReturnType<typeof setTimeout> | undefined;
/** Whatever waits is tried again this often while the server is away, ms. */
const retryEvery = 3000;

function setOffline(offline: boolean): void {
  if (useEdits.getState().offline !== offline) useEdits.setState({ offline });
  clearTimeout(retry);
  if (offline) retry = setTimeout(sendAll, retryEvery);
}

/** Tries again whatever waits. */
export function sendAll(): void {
  for (const tag of Object.keys(useEdits.getState().machines)) for (const kind of editKinds) void send(kind, tag);
}

function set<K extends EditKind>(tag: string, kind: K, change: (edits: Edits<K>) => Partial<Edits<K>>): void {
  updateEdits(tag, (m: EditsByKind) => ({ [kind]: { ...m[kind], ...change(m[kind]) } }));
}

/** What is left of changes once some were stored: those made anew meanwhile. */
const withoutSent = <C extends object>(changes: C, sent: C): C => {
  const stored = new Map(Object.entries(sent));
  return Object.fromEntries(Object.entries(changes).filter(([k, v]) => stored.get(k) !== v)) as C;
};

/** Whether the other side already says all of what was changed here. */
function standsAlready<K extends EditKind>(kind: K, changes: EditKinds[K]['changes'], theirs: EditKinds[K]['revision']): boolean {
  const { says, means } = documents[kind];
  return Object.keys(changes).every((field) => JSON.stringify(says(theirs, field)) === JSON.stringify(means(changes, field)));
}

/** One send at a time for each machine and kind; what is typed meanwhile goes with the next. */
async function send<K extends EditKind>(kind: K, tag: string): Promise<void> {
  const key = `${kind} ${tag}`;
  const all: EditsByKind = editsOf(tag);
  const { changes, base, conflict, refused } = all[kind];
  if (sending.has(key) || conflict || refused || Object.keys(changes).length === 0) return;
  sending.add(key);
  try {
    const revised = await documents[kind].put(tag, changes, base);
    documents[kind].show(tag, revised);
    set(tag, kind, (now) => ({ changes: withoutSent(now.changes, changes), base: revised.revision }));
    setOffline(false);
  } catch (error) {
    failed(kind, tag, changes, error);
    return;
  } finally {
    sending.delete(key);
  }
  await send(kind, tag);
}

/** What a send that did not go through means for the edits. @throws what nobody foresaw */
function failed<K extends EditKind>(kind: K, tag: string, changes: EditKinds[K]['changes'], error: unknown): void {
  if (error instanceof Offline) return setOffline(true);
  if (!(error instanceof ApiProblem)) throw error;
  const { problem } = error;
  if (problem.status === 409) {
    // of a document the server gives the winner's side with its refusal
    const theirs = problem.current as EditKinds[K]['revision'];
    set(tag, kind, () => ({ conflict: theirs }));
    // an answer lost on the way looks like a race with oneself: what stands there already is what was meant
    if (standsAlready(kind, changes, theirs)) settleConflict(tag, kind, 'theirs');
    return;
  }
  const field = problem.field ?? Object.keys(changes)[0] ?? '';
  set(tag, kind, () => ({ refused: { field, sentence: problem.detail } }));
}

const longestUndo = 50;

/** Changes a document; it shows at once and goes to the server behind the person's back. `before` is what one step back brings again. */
function edit<K extends EditKind>(tag: string, kind: K, changes: EditKinds[K]['changes'], step?: UndoStep): void {
  set(tag, kind, (now) => ({
    changes: { ...now.changes, ...changes },
    // the revision on screen, or the one the changes already waiting were made on
    base: Object.keys(now.changes).length > 0 ? now.base : (documents[kind].known(tag)?.revision ?? null),
    refused: null,
  }));
  if (step) updateEdits(tag, (m) => ({ undo: [...m.undo, step].slice(-longestUndo) }));
  void send(kind, tag);
}

export const editDraft = (tag: string, changes: Record<string, DraftValue>, before?: Record<string, DraftValue>): void =>
  edit(tag, 'draft', changes, before && { of: 'draft', before });

export const editPlate = (tag: string, changes: Partial<StampedPlate>, before?: Partial<StampedPlate>): void =>
  edit(tag, 'plate', changes, before && { of: 'plate', before });

export const editSurvey = (tag: string, changes: Partial<Survey>, before?: Partial<Survey>): void =>
  edit(tag, 'survey', changes, before && { of: 'survey', before });

export const editWiring = (tag: string, changes: Partial<Wiring>, before?: Partial<Wiring>): void =>
  edit(tag, 'wiring', changes, before && { of: 'wiring', before });

/** Takes the last edit of a kind made on this device back, as a new edit. */
export function undoLast(tag: string, of: EditKind): void {
  const { undo } = editsOf(tag);
  const index = undo.map((u) => u.of).lastIndexOf(of);
  const step = undo[index];
  if (!step) return;
  updateEdits(tag, () => ({ undo: undo.filter((_, i) => i !== index) }));
  edit(tag, step.of, step.before);
}

/** Ends a race: keep this device's figures on top of the other side, or drop them. */
export function settleConflict<K extends EditKind>(tag: string, kind: K, keep: 'mine' | 'theirs'): void {
  const all: EditsByKind = editsOf(tag);
  const { conflict, changes } = all[kind];
  if (!conflict) return;
  documents[kind].show(tag, conflict);
  const none: Partial<EditKinds[K]['changes']> = {};
  set(tag, kind, () => ({
    changes: keep === 'mine' ? changes : (none as EditKinds[K]['changes']),
    base: conflict.revision,
    conflict: null,
    refused: null,
  }));
  sendAll();
}

/** Drops an edit the server refused; what stood before shows again. */
export function dropRefused(tag: string, kind: EditKind): void {
  const { refused, changes } = editsOf(tag)[kind];
  const left = Object.fromEntries(Object.entries(changes).filter(([field]) => field !== refused?.field));
  updateEdits(tag, (m) => ({ [kind]: { ...m[kind], changes: left, conflict: null, refused: null } }));
  sendAll();
}

if (typeof window !== 'undefined') {
  window.addEventListener('online', sendAll);
  setTimeout(sendAll, 0);
}
