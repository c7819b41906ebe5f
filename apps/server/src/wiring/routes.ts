import type { FastifyPluginAsyncTypebox } from '@fastify/type-provider-typebox';
import { emptyWiring, figuresOf } from '@yare/commissioning';
import { orNull, Problem, TagParams, WiringEdit, WiringRevision } from '@yare/contract';
import { begun } from '../aside/aside';
import { authorOf } from '../audit/people';
import type { Context } from '../context';
import { revise } from '../documents/documents';
import { machineByTag } from '../machines/machines';
import { latestSheet } from '../sheets/sheets';
import { wiringOf, wiringDocument } from './wiring';

/** What is wired to a drive, and the list of it on paper. */
export const wiringRoutes: FastifyPluginAsyncTypebox<Context> = async (app, { db, aside, now }) => {
  app.get(
    '/machines/:tag/wiring',
    { schema: { tags: ['wiring'], params: TagParams, response: { 200: orNull(WiringRevision), 404: Problem } } },
    async ({ params }) => wiringOf(db, (await machineByTag(db, params.tag)).id),
  );

  app.put(
    '/machines/:tag/wiring',
    { schema: { tags: ['wiring'], params: TagParams, body: WiringEdit, response: { 200: WiringRevision, 404: Problem, 409: Problem } } },
    async ({ params, body }) => {
      const { id } = await machineByTag(db, params.tag);
      return revise(db, wiringDocument, id, { revision: body.revision, author: authorOf(body) }, () => body.wiring);
    },
  );

  app.get('/machines/:tag/wiring-list.pdf', { schema: { tags: ['wiring'], params: TagParams } }, async ({ params }, reply) => {
    const m = await machineByTag(db, params.tag);
    const draft = await latestSheet(db, m, 'draft');
    const wiring = (await wiringOf(db, m.id))?.wiring ?? emptyWiring;
    const { tag, name, site, area, book_id: bookId, size, region } = m;
    const input = { machine: { tag, name, site, area }, bookId, size, region, values: figuresOf(draft?.values ?? {}), wiring, at: now() };
    const pdf = await begun(aside.make('wiringList', input));
    return reply
      .type('application/pdf')
      .header('content-disposition', `inline; filename="${m.tag}-wiring.pdf"`)
      .header('cache-control', 'no-store')
      .send(pdf);
  });
};
