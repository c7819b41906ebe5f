import type { FastifyPluginAsyncTypebox } from '@fastify/type-provider-typebox';
import { LearnedEdit, LearnedRevision, Problem, TagParams } from '@yare/contract';
import { audit } from '../audit/audit';
import { authorOf } from '../audit/people';
import type { Context } from '../context';
import { json } from '../db/tables';
import { lockMachine, machineByTag } from '../machines/machines';
import { notFound } from '../problem';
import { learnedOf } from './learned';

/** What recordings taught about a machine. */
export const learnedRoutes: FastifyPluginAsyncTypebox<Context> = async (app, { db }) => {
  app.put(
    '/machines/:tag/learned',
    { schema: { tags: ['machines'], params: TagParams, body: LearnedEdit, response: { 200: LearnedRevision, 404: Problem } } },
    async ({ params, body }) => {
      const m = await machineByTag(db, params.tag);
      const author = authorOf(body);
      const { recordingId, values } = body;
      return db.transaction(async (trx) => {
        await lockMachine(trx, m.id);
        if (recordingId !== null && !(await trx('recordings').where({ id: recordingId, machine_id: m.id }).first('id')))
          throw notFound(`recording ${recordingId} of ${m.tag}`);
        const before = await learnedOf(trx, m.id);
        const revision = (before?.revision ?? 0) + 1;
        await trx('learned_revisions').insert({ machine_id: m.id, revision, values: values && json(values), recording_id: recordingId, author });
        await audit(trx, author, values ? 'learn' : 'put learning aside', m.tag, { recording: recordingId, values });
        const now = await learnedOf(trx, m.id);
        if (!now) throw notFound('such learning');
        return now;
      });
    },
  );
};
