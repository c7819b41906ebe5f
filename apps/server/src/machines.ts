import type { Sheet, SheetKind, SheetValue } from '@yare/contract';
import type { Driven, LearnedRevision, MachineDetail, SurveyRevision } from '@yare/contract';
import type { StampedPlate } from '@yare/core';
import type { Db } from './db/connect';
import { actorNow } from './actor';
import { notFound } from './problem';

export interface MachineRow {
  id: number;
  tag: string;
  name: string;
  site: string;
  area: string;
  book_id: string;
  size: string;
  region: 50 | 60;
  supply: { voltage: number; frequency: number };
  /** as first put on record; the survey's own goes before it */
  driven: Driven;
  /** nobody knew what is driven when it was put on record */
  driven_estimated: boolean;
  unit: number;
  /** grows when another drive takes the place of the one before */
  drive_revision: number;
}

/** What of a machine its sheets belong to: the machine and the drive that stands there. */
export type SheetOwner = Pick<MachineRow, 'id' | 'drive_revision'>;

interface SheetRow {
  kind: SheetKind;
  revision: number;
  values: Record<string, SheetValue>;
  author: string;
  at: Date;
}

const asSheet = (r: SheetRow): Sheet => ({ kind: r.kind, revision: r.revision, author: r.author, at: r.at.toISOString(), values: r.values });

/** @throws ProblemError 404 */
export async function machineByTag(db: Db, tag: string): Promise<MachineRow> {
  const row = await db<MachineRow>('machines').where({ tag }).first();
  if (!row) throw notFound(`machine ${tag}`);
  return row;
}

/** The newest revision of a kind for the drive that stands there; null when there is none yet. */
export async function latestSheet(db: Db, m: SheetOwner, kind: SheetKind): Promise<Sheet | null> {
  const row = await db('sheet_revisions').where({ machine_id: m.id, drive_revision: m.drive_revision, kind }).orderBy('revision', 'desc').first();
  return row ? asSheet(row as SheetRow) : null;
}

/** Appends the next revision of a kind inside a transaction that holds the machine's row. Revisions count on through a change of drive. */
export async function appendSheet(trx: Db, m: SheetOwner, kind: SheetKind, author: string, values: Record<string, SheetValue>): Promise<Sheet> {
  const newest = (await trx('sheet_revisions').where({ machine_id: m.id, kind }).max('revision as revision').first()) as { revision: number | null };
  const [row] = await trx('sheet_revisions')
    .insert({
      machine_id: m.id,
      drive_revision: m.drive_revision,
      kind,
      revision: (newest.revision ?? 0) + 1,
      author,
      values: JSON.stringify(values),
    })
    .returning('*');
  return asSheet(row as SheetRow);
}

/** Locks a machine's row for the rest of the transaction, and gives it as it stands now. */
export async function lockMachine(trx: Db, id: number): Promise<MachineRow> {
  return (await trx<MachineRow>('machines').where({ id }).forUpdate().first())!;
}

export async function plateOf(db: Db, machineId: number): Promise<MachineDetail['plate']> {
  const row = (await db('plate_revisions').where({ machine_id: machineId }).orderBy('revision', 'desc').first()) as {
    revision: number;
    plate: StampedPlate;
    author: string;
    at: Date;
  };
  return { revision: row.revision, plate: row.plate, author: row.author, at: row.at.toISOString() };
}

/** The newest survey; null before the first. */
export async function surveyOf(db: Db, machineId: number): Promise<SurveyRevision | null> {
  const row = (await db('survey_revisions')
    .where({ machine_id: machineId })
    .orderBy('revision', 'desc')
    .first('revision', 'survey', 'author', 'at')) as (Omit<SurveyRevision, 'at'> & { at: Date }) | undefined;
  return row ? { ...row, at: row.at.toISOString() } : null;
}

/** What a machine is called, where it stands and which drive it has. */
export const nameOf = (m: MachineRow) => ({ tag: m.tag, name: m.name, site: m.site, area: m.area, bookId: m.book_id, size: m.size });

/** A machine with its plate, what it drives and what was learned of it. */
export async function detailOf(db: Db, m: MachineRow): Promise<MachineDetail> {
  const surveyed = (await surveyOf(db, m.id))?.survey.driven ?? null;
  return {
    ...nameOf(m),
    region: m.region,
    supply: m.supply,
    driven: surveyed ?? m.driven,
    drivenEstimated: surveyed === null && m.driven_estimated,
    unit: m.unit,
    plate: await plateOf(db, m.id),
    learned: await learnedOf(db, m.id),
    driveRevision: m.drive_revision,
  };
}

/** The newest of what was learned; null when nothing was yet. */
export async function learnedOf(db: Db, machineId: number): Promise<LearnedRevision | null> {
  const row = (await db('learned_revisions').where({ machine_id: machineId }).orderBy('revision', 'desc').first()) as
    { revision: number; values: LearnedRevision['values']; recording_id: number | null; author: string; at: Date } | undefined;
  return row ? { revision: row.revision, values: row.values, recordingId: row.recording_id, author: row.author, at: row.at.toISOString() } : null;
}

/** Appends an audit event, with the device and address behind it. They are never changed. */
export async function audit(db: Db, author: string, action: string, tag: string | null, detail: object): Promise<void> {
  const actor = actorNow();
  await db('audit_events').insert({
    author,
    action,
    tag,
    detail: JSON.stringify(detail),
    device: actor?.device?.name ?? null,
    address: actor?.address ?? null,
  });
}

/**
 * Does what acts outside the database between two events: first that it is intended, then what came of it. Should the second not be
 * stored, the first still tells that it was begun.
 */
export async function audited<T>(
  db: Db,
  author: string,
  action: string,
  tag: string,
  detail: object,
  work: () => Promise<T>,
  told: (result: T) => object = () => ({}),
): Promise<T> {
  await audit(db, author, action, tag, { ...detail, step: 'intended' });
  let result: T;
  try {
    result = await work();
  } catch (error) {
    await audit(db, author, action, tag, { ...detail, step: 'failed', why: (error as Error).message });
    throw error;
  }
  await audit(db, author, action, tag, { ...detail, ...told(result), step: 'done' });
  return result;
}

/**
 * Keeps what was read from a drive as a new "in drive" revision, if anything changed (and the first time as "as found"). What was read
 * from a drive that stands there no longer is not kept.
 * @returns the revision in force; null when another drive has taken the place meanwhile
 */
export async function noteInDrive(
  db: Db,
  m: SheetOwner,
  author: string,
  values: Readonly<Record<string, number>>,
  ignore: ReadonlySet<string>,
): Promise<Sheet | null> {
  return db.transaction(async (trx) => {
    if ((await lockMachine(trx, m.id)).drive_revision !== m.drive_revision) return null;
    const before = await latestSheet(trx, m, 'in drive');
    const same = before && Object.entries(values).every(([code, v]) => ignore.has(code) || before.values[code]?.value === v);
    if (same) return before;
    const at = new Date().toISOString();
    const next: Record<string, SheetValue> = {};
    for (const [code, value] of Object.entries(values)) {
      const old = before?.values[code];
      next[code] = old && old.value === value ? old : { value, source: 'read from drive', author, at };
    }
    if (!before) await appendSheet(trx, m, 'as found', author, next);
    return appendSheet(trx, m, 'in drive', author, next);
  });
}
