import type { FastifyPluginAsyncTypebox } from '@fastify/type-provider-typebox';
import { AuthorOnly, LeaveEdit, Leaving, Problem, TagParams } from '@yare/contract';
import { Type } from '@sinclair/typebox';
import { audit } from '../audit/audit';
import { authorOf } from '../audit/people';
import type { Context } from '../context';
import { json } from '../db/tables';
import { machineByTag } from '../machines/machines';
import { notFound } from '../problem';
import { leavingOf } from './leaving';

/** Leaving a machine before every stage is proved, and going on with it. */
export const leavingRoutes: FastifyPluginAsyncTypebox<Context> = async (app, { db }) => {
  app.post(
    '/machines/:tag/leave',
    { schema: { tags: ['plan'], params: TagParams, body: LeaveEdit, response: { 200: Leaving, 404: Problem } } },
    async ({ params, body }) => {
      const m = await machineByTag(db, params.tag);
      const author = authorOf(body);
      const { stages } = body;
      return db.transaction(async (trx) => {
        const [row] = await trx('leavings')
          .insert({ machine_id: m.id, author, stages: json(stages), told: null })
          .onConflict('machine_id')
          .merge({ author, stages: json(stages), told: null, at: trx.fn.now() })
          .returning('*');
        if (!row) throw notFound('such machine');
        await audit(trx, author, 'left the work', m.tag, { stages });
        return leavingOf(row);
      });
    },
  );

  app.post(
    '/machines/:tag/go-on',
    { schema: { tags: ['plan'], params: TagParams, body: AuthorOnly, response: { 200: Type.Null(), 404: Problem } } },
    async ({ params, body }) => {
      const m = await machineByTag(db, params.tag);
      await db.transaction(async (trx) => {
        const gone = await trx('leavings').where({ machine_id: m.id }).delete();
        if (gone > 0) await audit(trx, authorOf(body), 'work goes on', m.tag, {});
      });
      return null;
    },
  );
};
