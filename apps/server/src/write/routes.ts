import { Type, type FastifyPluginAsyncTypebox } from '@fastify/type-provider-typebox';
import { AuthorOnly, orNull, Problem, TagParams, WriteJob, WriteReport, WriteRequest } from '@yare/contract';
import { authorOf } from '../audit/people';
import type { Context } from '../context';
import { machineByTag } from '../machines/machines';
import { notFound } from '../problem';
import { closeInterruptedWrites } from './jobs';
import { Writes } from './writes';

/** Writing the draft to the drive. */
export const writeRoutes: FastifyPluginAsyncTypebox<Context> = async (app, context) => {
  const { db } = context;
  const writes = new Writes(context);
  await closeInterruptedWrites(db);
  const response = { 200: WriteReport, 404: Problem, 409: Problem, 422: Problem, 423: Problem };

  app.post('/machines/:tag/write', { schema: { tags: ['drive'], params: TagParams, body: WriteRequest, response } }, async ({ params, body }) => {
    const { tag } = await machineByTag(db, params.tag);
    return writes.begin(tag, authorOf(body), body.revision, body.codes);
  });

  app.get(
    '/machines/:tag/write',
    { schema: { tags: ['drive'], params: TagParams, response: { 200: orNull(WriteJob), 404: Problem } } },
    async ({ params }) => writes.last(await machineByTag(db, params.tag)),
  );

  app.post(
    '/machines/:tag/write/resume',
    { schema: { tags: ['drive'], params: TagParams, body: AuthorOnly, response } },
    async ({ params, body }) => {
      const { tag } = await machineByTag(db, params.tag);
      return writes.goOn(tag, authorOf(body));
    },
  );

  app.post(
    '/machines/:tag/write/stop',
    {
      config: { needsNoRoom: true, needsNoDatabase: true },
      schema: { tags: ['drive'], params: TagParams, body: AuthorOnly, response: { 200: Type.Object({ stopping: Type.Boolean() }), 404: Problem } },
    },
    async ({ params }) => {
      if (!context.fleet.station(params.tag)) throw notFound(`machine ${params.tag}`);
      return { stopping: writes.stop(params.tag) };
    },
  );
};
