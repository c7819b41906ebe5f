import { isDeepStrictEqual } from 'node:util';
import { bookById, DriveSettings, refuseValue, textOf } from '@yare/books';
import { figuresOf } from '@yare/commissioning';
import type { Sheet, SheetChange, SheetValue } from '@yare/contract';
import type { Db } from '../db/connect';
import { json, type MachineRow, type SheetRow } from '../db/tables';
import type { DocumentKind } from '../documents/documents';
import { refuseWhileLocked } from '../lock/locks';
import { lockMachine } from '../machines/machines';
import { notFound, ProblemError } from '../problem';

/** What of a machine its sheets belong to: the machine and the drive that stands there. */
export type SheetOwner = Pick<MachineRow, 'id' | 'drive_revision'>;

export const asSheet = (r: SheetRow): Sheet => ({ kind: r.kind, revision: r.revision, author: r.author, at: r.at.toISOString(), values: r.values });

/** The newest revision of a kind for the drive that stands there; null when there is none yet. */
export async function latestSheet(db: Db, m: SheetOwner, kind: Sheet['kind']): Promise<Sheet | null> {
  const row = await db('sheets').where({ machine_id: m.id, drive_revision: m.drive_revision, kind }).first();
  return row ? asSheet(row) : null;
}

/** The draft of the drive that stands there. @throws ProblemError 404 for a machine without one */
export async function draftOf(db: Db, m: SheetOwner): Promise<Sheet> {
  const draft = await latestSheet(db, m, 'draft');
  if (!draft) throw notFound('draft of this machine');
  return draft;
}

/** Whole revisions stand this far apart; those between them store what they changed. */
const wholeEvery = 100;

/** What became another from one sheet to the next; a code that is gone has null. */
function changedOf(before: Readonly<Record<string, SheetValue>>, now: Readonly<Record<string, SheetValue>>): Record<string, SheetValue | null> {
  const changed: Record<string, SheetValue | null> = {};
  for (const [code, value] of Object.entries(now)) if (!isDeepStrictEqual(before[code], value)) changed[code] = value;
  for (const code of Object.keys(before)) if (!(code in now)) changed[code] = null;
  return changed;
}

/** Appends the next revision of a kind inside a transaction that holds the machine's row. Revisions count on through a change of drive. */
export async function appendSheet(trx: Db, m: SheetOwner, kind: Sheet['kind'], author: string, values: Record<string, SheetValue>): Promise<Sheet> {
  const drives = await trx('sheets').where({ machine_id: m.id, kind });
  const revision = Math.max(0, ...drives.map((d) => d.revision)) + 1;
  const before = drives.find((d) => d.drive_revision === m.drive_revision)?.values;
  const changed = before && revision % wholeEvery !== 0 ? changedOf(before, values) : null;
  const figures = before ? Object.entries(values).filter(([code, v]) => before[code]?.value !== v.value).length : 0;
  const of = { machine_id: m.id, drive_revision: m.drive_revision, kind, revision, author };
  const [row] = await trx('sheet_revisions')
    .insert({ ...of, figures, values: changed ? null : json(values), changed: changed && json(changed) })
    .returning('at');
  if (!row) throw notFound('such sheet');
  await trx('sheets')
    .insert({ ...of, at: row.at, values: json(values) })
    .onConflict(['machine_id', 'kind', 'drive_revision'])
    .merge();
  return asSheet({ ...of, at: row.at, values });
}

/** A revision of a sheet as it was: the whole one before it, and what changed since. @throws ProblemError 404 */
export async function sheetAt(db: Db, { id, tag }: Pick<MachineRow, 'id' | 'tag'>, kind: Sheet['kind'], revision: number): Promise<Sheet> {
  const row = await db('sheet_revisions').where({ machine_id: id, kind, revision }).first();
  if (!row) throw notFound(`revision ${revision} of ${kind} of ${tag}`);
  const ofDrive = db('sheet_revisions').where({ machine_id: id, kind, drive_revision: row.drive_revision }).where('revision', '<=', revision);
  const whole = ofDrive.clone().whereNotNull('values').max('revision');
  const values: Record<string, SheetValue> = {};
  for (const step of await ofDrive.where('revision', '>=', whole).orderBy('revision'))
    for (const [code, value] of Object.entries(step.values ?? step.changed ?? {})) {
      if (value) values[code] = value;
      else delete values[code];
    }
  return asSheet({ ...row, values });
}

/** A sheet's values as settings of the drive that stands there. */
export const settingsOfSheet = (
  m: Pick<MachineRow, 'book_id' | 'size' | 'region'>,
  values: Readonly<Record<string, { value: number }>>,
): DriveSettings => new DriveSettings(bookById(m.book_id), m.size, figuresOf(values), m.region);

/**
 * The values of a draft after an edit.
 * @throws ProblemError 422 for a setting the drive has not, a value it does not take, or two that contradict each other
 */
export function editedDraft(m: MachineRow, draft: Sheet, changes: readonly SheetChange[], author: string): Record<string, SheetValue> {
  const at = new Date().toISOString();
  const values = { ...draft.values };
  const before = settingsOfSheet(m, draft.values);
  const settings = changes.map((change) => {
    const setting = before.at(change.code);
    if (!setting) throw new ProblemError(422, 'No such setting', `This drive has no setting ${change.code}.`, { field: change.code });
    const why = refuseValue(setting, change.value);
    if (why) throw new ProblemError(422, 'Out of range', why, { field: change.code });
    values[change.code] = { value: change.value, source: change.source, author, at };
    return setting;
  });
  const after = before.with(figuresOf(values));
  for (const setting of settings) {
    const why = after.contradiction(setting);
    if (why) throw new ProblemError(422, 'Contradiction', why, { field: setting.code });
  }
  return values;
}

/** The draft as a document: locked settings are not changed. */
export const draftDocument = (changes: readonly SheetChange[]): DocumentKind<Sheet, Record<string, SheetValue>, 'edit draft'> => ({
  called: 'the draft',
  action: 'edit draft',
  guard: refuseWhileLocked,
  latest: draftOf,
  append: (trx, m, _revision, author, values) => appendSheet(trx, m, 'draft', author, values),
  told: (before, after, m) => {
    const settings = settingsOfSheet(m, after.values);
    return {
      revision: after.revision,
      changes: changes.map((c) => {
        const old = before?.values[c.code]?.value;
        const setting = settings.at(c.code);
        return {
          ...c,
          before: old,
          // as it was called and read then: books change
          ...(setting && {
            name: setting.name,
            unit: setting.unit,
            to: textOf(setting, c.value),
            ...(old !== undefined && { from: textOf(setting, old) }),
          }),
        };
      }),
    };
  },
});

/**
 * Keeps what was read from a drive as a new "in drive" revision, if anything changed (and the first time as "as found"). What was read
 * from a drive that stands there no longer is not kept. Read-only settings such as hours run move by themselves and make no new revision.
 * @returns the revision in force; null when another drive has taken the place meanwhile
 */
export async function noteInDrive(db: Db, m: MachineRow, author: string, values: Readonly<Record<string, number>>): Promise<Sheet | null> {
  return db.transaction(async (trx) => {
    if ((await lockMachine(trx, m.id)).drive_revision !== m.drive_revision) return null;
    const before = await latestSheet(trx, m, 'in drive');
    const settings = settingsOfSheet(m, {});
    const moves = (code: string) => settings.at(code)?.access === 'read';
    if (before && Object.entries(values).every(([code, v]) => moves(code) || before.values[code]?.value === v)) return before;
    const at = new Date().toISOString();
    const next = Object.fromEntries(
      Object.entries(values).map(([code, value]): [string, SheetValue] => {
        const old = before?.values[code];
        return [code, old && old.value === value ? old : { value, source: 'read from drive', author, at }];
      }),
    );
    if (!before) await appendSheet(trx, m, 'as found', author, next);
    return appendSheet(trx, m, 'in drive', author, next);
  });
}
