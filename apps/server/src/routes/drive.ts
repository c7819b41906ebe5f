import type { FastifyInstance } from 'fastify';
import { Type } from '@sinclair/typebox';
import { AuthorOnly, DriveEdit, LockEdit, LockView, Problem, Sheet as SheetSchema, TagParams, type Sheet } from '@yare/contract';
import { refuseUnknownDrive, refuseWhileLocked, type Context } from '../context';
import { firstDraft } from '../firstDraft';
import { LinkDown } from '../link/driveLink';
import { lockOf, lockSettings, openLock } from '../locks';
import { appendSheet, audit, latestSheet, lockMachine, machineByTag, plateOf } from '../machines';
import { authorOf } from '../people';
import { ProblemError } from '../problem';

/** Which drive stands at a machine, what it keeps, and who may change its settings. */
export async function driveRoutes(app: FastifyInstance, { db, fleet, holdToRun }: Context): Promise<void> {
  app.put<{ Params: { tag: string }; Body: DriveEdit }>(
    '/machines/:tag/drive',
    { schema: { tags: ['drive'], params: TagParams, body: DriveEdit, response: { 200: SheetSchema, 404: Problem, 409: Problem, 422: Problem } } },
    async (request): Promise<Sheet> => {
      const m = await machineByTag(db, request.params.tag);
      const author = authorOf(request.body);
      const { bookId, size, region } = request.body;
      refuseUnknownDrive(bookId, size);
      if (holdToRun.runOf(m.tag))
        throw new ProblemError(409, 'Motor turning', `${m.tag} is held to run. Let it stand before you name another drive.`);
      await refuseWhileLocked(db, m);
      const another = bookId !== m.book_id || size !== m.size;
      const draft = await db.transaction(async (trx) => {
        await lockMachine(trx, m.id);
        const old = await latestSheet(trx, m, 'draft');
        const drive_revision = m.drive_revision + (another ? 1 : 0);
        await trx('machines').where({ id: m.id }).update({ book_id: bookId, size, region, drive_revision });
        await audit(trx, author, 'drive', m.tag, { from: [m.book_id, m.size, m.region], to: [bookId, size, region] });
        if (!another) return old!;
        const first = firstDraft(request.body, (await plateOf(trx, m.id)).plate, old ? { drive: m, draft: old } : undefined);
        return appendSheet(trx, { id: m.id, drive_revision }, 'draft', author, first);
      });
      if (another) fleet.relink({ tag: m.tag, bookId, size });
      return draft;
    },
  );

  app.post<{ Params: { tag: string }; Body: { author: string } }>(
    '/machines/:tag/keep',
    {
      schema: {
        tags: ['drive'],
        params: TagParams,
        body: AuthorOnly,
        response: { 200: Type.Object({ kept: Type.Boolean() }), 404: Problem, 503: Problem },
      },
    },
    async (request) => {
      const m = await machineByTag(db, request.params.tag);
      try {
        const kept = await fleet.station(m.tag)!.link.keep();
        await audit(db, authorOf(request.body), 'keep in drive', m.tag, { kept });
        return { kept };
      } catch (error) {
        if (!(error instanceof LinkDown)) throw error;
        throw new ProblemError(
          503,
          'No link',
          `The drive of ${m.tag} does not answer: nothing was kept. What it holds in working memory is gone at power-off.`,
        );
      }
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
        response: { 200: Type.Object({ open: Type.Boolean() }), 403: Problem, 404: Problem },
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
