import type { FastifyPluginAsyncTypebox } from '@fastify/type-provider-typebox';
import { AuthorOnly, MachineSeen, Problem, TagParams } from '@yare/contract';
import type { Context } from '../context';
import { machineByTag } from '../machines/machines';

const answers = { 200: MachineSeen, 404: Problem };

/** What the server watches a machine for, and what it saw. */
export const seenRoutes: FastifyPluginAsyncTypebox<Context> = async (app, { db, watched }) => {
  app.get('/machines/:tag/seen', { schema: { tags: ['plan'], params: TagParams, response: answers } }, async ({ params }) =>
    watched.of((await machineByTag(db, params.tag)).tag),
  );

  app.post('/machines/:tag/watch', { schema: { tags: ['plan'], params: TagParams, body: AuthorOnly, response: answers } }, async ({ params }) =>
    watched.watch((await machineByTag(db, params.tag)).tag),
  );
};
