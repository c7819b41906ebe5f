import type { FastifyInstance } from 'fastify';
import { Type } from '@sinclair/typebox';
import { AuthorOnly, DriveEdit, LockEdit, LockView, Problem, Sheet as SheetSchema, TagParams, type Sheet } from '@yare/contract';
import { linkFailed, refuseUnknownDrive, refuseWhileLocked, type Context } from '../context';
import { firstDraft } from '../firstDraft';
import { lockOf, lockSettings, openLock } from '../locks';
import { appendSheet, audit, audited, latestSheet, lockMachine, machineByTag, plateOf } from '../machines';
import { authorOf } from '../people';

/** Which drive stands at a machine, what it keeps, and who may change its settings. */
export async function driveRoutes(app: FastifyInstance, { db, fleet, claims }: Context): Promise<void> {
  app.put<{ Params: { tag: string }; Body: DriveEdit }>(
    '/machines/:tag/drive',
    { schema: { tags: ['drive'], params: TagParams, body: DriveEdit, response: { 200: SheetSchema, 404: Problem, 409: Problem, 422: Problem } } },
    async (request): Promise<Sheet> => {
      const { id, tag } = await machineByTag(db, request.params.tag);
      const author = authorOf(request.body);
      const { bookId, size, region } = request.body;
      refuseUnknownDrive(bookId, size);
      return claims.during(tag, author, 'drive', async () => {
        const { draft, another } = await db.transaction(async (trx) => {
          const m = await lockMachine(trx, id);
          await refuseWhileLocked(trx, m);
          const another = bookId !== m.book_id || size !== m.size;
          const old = await latestSheet(trx, m, 'draft');
          const drive_revision = m.drive_revision + (another ? 1 : 0);
          await trx('machines').where({ id }).update({ book_id: bookId, size, region, drive_revision });
          await audit(trx, author, 'drive', tag, { from: [m.book_id, m.size, m.region], to: [bookId, size, region] });
          if (!another) return { draft: old!, another };
          const first = firstDraft(request.body, (await plateOf(trx, id)).plate, old ? { drive: m, draft: old } : undefined);
          return { draft: await appendSheet(trx, { id, drive_revision }, 'draft', author, first), another };
        });
        if (another) fleet.relink({ tag, bookId, size });
        return draft;
      });
    },
  );

  app.post<{ Params: { tag: string }; Body: { author: string } }>(
    '/machines/:tag/keep',
    {
      schema: {
        tags: ['drive'],
        params: TagParams,
        body: AuthorOnly,
        response: { 200: Type.Object({ kept: Type.Boolean() }), 404: Problem, 409: Problem, 423: Problem, 424: Problem },
      },
    },
    async (request) => {
      const { tag } = await machineByTag(db, request.params.tag);
      const author = authorOf(request.body);
      return claims.during(tag, author, 'keep', async () => {
        const m = await machineByTag(db, tag);
        await refuseWhileLocked(db, m);
        const keep = async () => ({ kept: await fleet.station(tag)!.link.keep() });
        return audited(db, author, 'keep in drive', tag, {}, keep, (r) => r).catch((error: unknown) =>
          linkFailed(m, error, 'Whether it kept anything is not known: what it holds in working memory may be gone at power-off.'),
        );
      });
    },
  );

  app.get<{ Params: { tag: string } }>(
    '/machines/:tag/lock',
    { schema: { tags: ['settings'], params: TagParams, response: { 404: Problem } } },
    async (request, reply) => {
      const lock = await lockOf(db, (await machineByTag(db, request.params.tag)).id);
      return reply.type('application/json').send(JSON.stringify(lock && { author: lock.author, at: lock.at.toISOString() }));
    },
  );

  app.post<{ Params: { tag: string }; Body: LockEdit }>(
    '/machines/:tag/lock',
    { schema: { tags: ['settings'], params: TagParams, body: LockEdit, response: { 200: LockView, 404: Problem, 409: Problem } } },
    async (request) => {
      const m = await machineByTag(db, request.params.tag);
      const author = authorOf(request.body);
      const lock = await lockSettings(db, m, author, request.body.code);
      await audit(db, author, 'lock settings', m.tag, {});
      return { author, at: lock.at.toISOString() };
    },
  );

  app.post<{ Params: { tag: string }; Body: LockEdit }>(
    '/machines/:tag/unlock',
    {
      schema: {
        tags: ['settings'],
        params: TagParams,
        body: LockEdit,
        response: { 200: Type.Object({ open: Type.Boolean() }), 403: Problem, 404: Problem, 429: Problem },
      },
    },
    async (request) => {
      const m = await machineByTag(db, request.params.tag);
      await openLock(db, m, request.body.code);
      await audit(db, authorOf(request.body), 'unlock settings', m.tag, {});
      return { open: true };
    },
  );
}
