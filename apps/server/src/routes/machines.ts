import { Type } from '@sinclair/typebox';
import type { FastifyInstance } from 'fastify';
import { bookById, settingsOf } from '@yare/books';
import {
  AuditPage,
  LearnedEdit,
  LearnedRevision,
  MachineDetail,
  MachineSummary,
  PlateEdit,
  Problem,
  Tag,
  TagParams,
  type PlateRevision,
  PlateRevision as PlateRevisionSchema,
} from '@yare/contract';
import type { Context } from '../context';
import { audit, latestSheet, learnedOf, lockMachine, machineByTag, plateOf, type MachineRow } from '../machines';
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

export async function machineRoutes(app: FastifyInstance, { db }: Context): Promise<void> {
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
          tag: m.tag,
          name: m.name,
          site: m.site,
          area: m.area,
          bookId: m.book_id,
          size: m.size,
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
    async (request) => {
      const m = await machineByTag(db, request.params.tag);
      return {
        tag: m.tag,
        name: m.name,
        site: m.site,
        area: m.area,
        bookId: m.book_id,
        size: m.size,
        region: m.region,
        supply: m.supply,
        driven: m.driven,
        plate: await plateOf(db, m.id),
        learned: await learnedOf(db, m.id),
        driveRevision: m.drive_revision,
      };
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
        querystring: Type.Object({ before: Type.Optional(Type.Integer()), tag: Type.Optional(Tag) }),
        response: { 200: AuditPage },
      },
    },
    async (request) => {
      const q = db('audit_events').orderBy('id', 'desc').limit(51);
      if (request.query.before !== undefined) void q.where('id', '<', request.query.before);
      if (request.query.tag !== undefined) void q.where({ tag: request.query.tag });
      const rows = (await q) as Array<{ id: number; at: Date; author: string; action: string; tag: string | null; detail: unknown }>;
      const page = rows.slice(0, 50).map((r) => ({ ...r, at: r.at.toISOString() }));
      return { events: page, next: rows.length > 50 ? page[page.length - 1]!.id : null };
    },
  );
}
