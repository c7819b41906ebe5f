import type { FastifyPluginAsyncTypebox } from '@fastify/type-provider-typebox';
import { PlateEdit, PlateRevision, Problem, TagParams } from '@yare/contract';
import { authorOf } from '../audit/people';
import type { Context } from '../context';
import { revise } from '../documents/documents';
import { machineByTag } from '../machines/machines';
import { plateDocument } from './plate';

/** The motor's nameplate. */
export const plateRoutes: FastifyPluginAsyncTypebox<Context> = async (app, { db }) => {
  app.put(
    '/machines/:tag/plate',
    { schema: { tags: ['machines'], params: TagParams, body: PlateEdit, response: { 200: PlateRevision, 404: Problem, 409: Problem } } },
    async ({ params, body }) => {
      const { id } = await machineByTag(db, params.tag);
      return revise(db, plateDocument, id, { revision: body.revision, author: authorOf(body) }, () => body.plate);
    },
  );
};
