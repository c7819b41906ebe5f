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
      const { recordingId, alsoRecordingId = null, values } = body;
      return db.transaction(async (trx) => {
        await lockMachine(trx, m.id);
        for (const id of [recordingId, alsoRecordingId])
          if (id !== null && !(await trx('recordings').where({ id, machine_id: m.id }).first('id'))) throw notFound(`recording ${id} of ${m.tag}`);
        const before = await learnedOf(trx, m.id);
        const revision = (before?.revision ?? 0) + 1;
        const from = { recording_id: recordingId, also_recording_id: alsoRecordingId };
        await trx('learned_revisions').insert({ machine_id: m.id, revision, values: values && json(values), ...from, author });
        await audit(trx, author, values ? 'learn' : 'put learning aside', m.tag, {
          recording: recordingId,
          ...(alsoRecordingId !== null && { also: alsoRecordingId }),
          values,
        });
        const now = await learnedOf(trx, m.id);
        if (!now) throw notFound('such learning');
        return now;
      });
    },
  );
};
