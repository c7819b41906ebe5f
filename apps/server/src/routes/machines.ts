import { drivenFromMotor } from '@yare/core';
import { Type } from '@sinclair/typebox';
import type { FastifyInstance } from 'fastify';
import { bookById, settingsOf } from '@yare/books';
import {
  AuditPage,
  Id,
  LearnedEdit,
  LearnedRevision,
  MachineDetail,
  MachineNew as MachineNewSchema,
  MachineSummary,
  PlateEdit,
  Problem,
  RecordEdit as RecordEditSchema,
  Tag,
  TagParams,
  type AuditPage as AuditPageType,
  type MachineNew,
  type PlateRevision,
  type RecordEdit,
  PlateRevision as PlateRevisionSchema,
} from '@yare/contract';
import { refuseUnknownDrive, refuseWhileLocked, type Context } from '../context';
import type { Db } from '../db/connect';
import { firstDraft } from '../firstDraft';
import { appendSheet, audit, detailOf, latestSheet, learnedOf, lockMachine, machineByTag, nameOf, plateOf, type MachineRow } from '../machines';
import { authorOf } from '../people';
import { notFound, ProblemError } from '../problem';

/** Settings in which two sheets differ, read-only ones left out. */
export function differences(
  row: Pick<MachineRow, 'book_id' | 'size'>,
  draft: Record<string, { value: number }>,
  inDrive: Record<string, { value: number }>,
): string[] {
  return settingsOf(bookById(row.book_id), row.size)
    .filter((s) => s.access !== 'read' && draft[s.code]?.value !== inDrive[s.code]?.value)
    .map((s) => s.code);
}

/** What a machine is called and where it stands, tidied. @throws ProblemError 400 when nothing but spaces was given */
function placeOf({ name, area }: Pick<MachineNew, 'name' | 'area'>): { name: string; area: string } {
  const tidy = { name: name.trim().replace(/\s+/g, ' '), area: area.trim().replace(/\s+/g, ' ') };
  for (const field of ['name', 'area'] as const)
    if (tidy[field] === '') throw new ProblemError(400, 'Bad input', `The ${field} is empty.`, { field });
  return tidy;
}

/** @throws ProblemError 409 when another machine's drive answers at the address */
async function refuseTakenAddress(trx: Db, unit: number, own = 0): Promise<void> {
  const other = (await trx('machines').where({ unit }).whereNot({ id: own }).first('tag')) as { tag: string } | undefined;
  if (other)
    throw new ProblemError(409, 'Address taken', `At address ${unit} answers the drive of ${other.tag}. Two drives cannot share one.`, {
      field: 'unit',
    });
}

export async function machineRoutes(app: FastifyInstance, { db, fleet, claims }: Context): Promise<void> {
  app.get('/machines', { schema: { tags: ['machines'], response: { 200: Type.Array(MachineSummary) } } }, async () => {
    const rows = (await db('machines').orderBy('id')) as MachineRow[];
    return Promise.all(
      rows.map(async (m) => {
        const [plate, draft, inDrive, asFound] = await Promise.all([
          plateOf(db, m.id),
          latestSheet(db, m, 'draft'),
          latestSheet(db, m, 'in drive'),
          latestSheet(db, m, 'as found'),
        ]);
        const differing = draft && inDrive ? differences(m, draft.values, inDrive.values).length : null;
        const left = (await db('proofs').where({ machine_id: m.id, stage: 'plan', item: 'left' }).orderBy('id', 'desc').first()) as
          { author: string; at: Date; measured: string; outcome: string } | undefined;
        return {
          ...nameOf(m),
          plate: { power: plate.plate.power, powerUnit: plate.plate.powerUnit },
          differences: differing,
          newer: differing ? (draft!.at > inDrive!.at || inDrive!.at === asFound?.at ? ('draft' as const) : ('drive' as const)) : null,
          left: left?.outcome === 'failed' ? { author: left.author, at: left.at.toISOString(), unproved: left.measured } : null,
        };
      }),
    );
  });

  app.get<{ Params: { tag: string } }>(
    '/machines/:tag',
    { schema: { tags: ['machines'], params: TagParams, response: { 200: MachineDetail, 404: Problem } } },
    async (request) => detailOf(db, await machineByTag(db, request.params.tag)),
  );

  app.post<{ Body: MachineNew }>(
    '/machines',
    { schema: { tags: ['machines'], body: MachineNewSchema, response: { 200: MachineDetail, 409: Problem, 422: Problem } } },
    async (request) => {
      const { tag, kind, bookId, size, region, unit, supply, plate } = request.body;
      const author = authorOf(request.body);
      refuseUnknownDrive(bookId, size);
      const made = await db.transaction(async (trx) => {
        // two people who add at the same moment come one after the other
        await trx.raw('LOCK TABLE machines IN EXCLUSIVE MODE');
        if (await trx('machines').where({ tag }).first('id'))
          throw new ProblemError(409, 'Tag taken', `There is a machine ${tag} already. Give this one another tag.`, { field: 'tag' });
        await refuseTakenAddress(trx, unit);
        const first = (await trx('machines').orderBy('id').first('site')) as { site: string } | undefined;
        const [row] = (await trx('machines')
          .insert({
            ...placeOf(request.body),
            tag,
            site: first?.site ?? 'Plant',
            book_id: bookId,
            size,
            region,
            unit,
            supply: JSON.stringify(supply),
            driven: JSON.stringify(drivenFromMotor(kind, plate)),
            driven_estimated: true,
          })
          .returning('*')) as MachineRow[];
        await trx('plate_revisions').insert({ machine_id: row!.id, revision: 1, plate: JSON.stringify(plate), author });
        await appendSheet(trx, row!, 'draft', author, firstDraft({ bookId, size, region, author }, plate));
        await audit(trx, author, 'new machine', tag, { name: row!.name, unit });
        return row!;
      });
      fleet.add({ tag, bookId, size, unit });
      return detailOf(db, made);
    },
  );

  app.put<{ Params: { tag: string }; Body: RecordEdit }>(
    '/machines/:tag/record',
    { schema: { tags: ['machines'], params: TagParams, body: RecordEditSchema, response: { 200: MachineDetail, 404: Problem, 409: Problem } } },
    async (request) => {
      const { tag, id } = await machineByTag(db, request.params.tag);
      const author = authorOf(request.body);
      const { name, area, unit } = request.body;
      const change = async () => {
        const { before, now } = await db.transaction(async (trx) => {
          await trx.raw('LOCK TABLE machines IN EXCLUSIVE MODE');
          const before = await machineByTag(trx, tag);
          if (unit !== undefined && unit !== before.unit) {
            await refuseWhileLocked(trx, before);
            await refuseTakenAddress(trx, unit, id);
          }
          const after = { ...placeOf({ name: name ?? before.name, area: area ?? before.area }), unit: unit ?? before.unit };
          const [now] = (await trx('machines').where({ id }).update(after).returning('*')) as MachineRow[];
          await audit(trx, author, 'record', tag, { before: { name: before.name, area: before.area, unit: before.unit }, after });
          return { before, now: now! };
        });
        if (now.unit !== before.unit) fleet.relink({ tag, bookId: now.book_id, size: now.size, unit: now.unit });
        return detailOf(db, now);
      };
      return unit === undefined ? change() : claims.during(tag, author, 'address', change);
    },
  );

  app.put<{ Params: { tag: string }; Body: PlateEdit }>(
    '/machines/:tag/plate',
    { schema: { tags: ['machines'], params: TagParams, body: PlateEdit, response: { 200: PlateRevisionSchema, 404: Problem, 409: Problem } } },
    async (request): Promise<PlateRevision> => {
      const m = await machineByTag(db, request.params.tag);
      const author = authorOf(request.body);
      return db.transaction(async (trx) => {
        await lockMachine(trx, m.id);
        const now = await plateOf(trx, m.id);
        if (now.revision !== request.body.revision) {
          throw new ProblemError(
            409,
            'Changed meanwhile',
            `${now.author} changed the plate of ${m.tag} while you were typing. Both sides are shown; choose one.`,
            { current: now },
          );
        }
        await trx('plate_revisions').insert({ machine_id: m.id, revision: now.revision + 1, plate: JSON.stringify(request.body.plate), author });
        await audit(trx, author, 'edit plate', m.tag, { revision: now.revision + 1, before: now.plate, after: request.body.plate });
        return plateOf(trx, m.id);
      });
    },
  );

  app.put<{ Params: { tag: string }; Body: LearnedEdit }>(
    '/machines/:tag/learned',
    { schema: { tags: ['machines'], params: TagParams, body: LearnedEdit, response: { 200: LearnedRevision, 404: Problem } } },
    async (request) => {
      const m = await machineByTag(db, request.params.tag);
      const author = authorOf(request.body);
      const { recordingId, values } = request.body;
      return db.transaction(async (trx) => {
        await lockMachine(trx, m.id);
        if (recordingId !== null && !(await trx('recordings').where({ id: recordingId, machine_id: m.id }).first('id')))
          throw notFound(`recording ${recordingId} of ${m.tag}`);
        const before = await learnedOf(trx, m.id);
        await trx('learned_revisions').insert({
          machine_id: m.id,
          revision: (before?.revision ?? 0) + 1,
          values: JSON.stringify(values),
          recording_id: recordingId,
          author,
        });
        await audit(trx, author, values ? 'learn' : 'put learning aside', m.tag, { recording: recordingId, values });
        return (await learnedOf(trx, m.id))!;
      });
    },
  );

  app.get<{ Querystring: { before?: number; tag?: string } }>(
    '/audit',
    {
      schema: {
        tags: ['audit'],
        querystring: Type.Object({ before: Type.Optional(Id), tag: Type.Optional(Tag) }),
        response: { 200: AuditPage },
      },
    },
    async (request) => {
      const q = db('audit_events').orderBy('id', 'desc').limit(51);
      if (request.query.before !== undefined) void q.where('id', '<', request.query.before);
      if (request.query.tag !== undefined) void q.where({ tag: request.query.tag });
      const rows = (await q) as Array<Omit<AuditPageType['events'][number], 'at'> & { at: Date }>;
      const page = rows.slice(0, 50).map((r) => ({ ...r, at: r.at.toISOString() }));
      return { events: page, next: rows.length > 50 ? page[page.length - 1]!.id : null };
    },
  );
}
