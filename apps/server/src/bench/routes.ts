import { Type, type FastifyPluginAsyncTypebox } from '@fastify/type-provider-typebox';
import { AuthorOnly, BenchAct, BenchReading, BenchView, Problem, TagParams, Text } from '@yare/contract';
import { audited } from '../audit/audit';
import { authorOf } from '../audit/people';
import type { Context } from '../context';
import { detailOf } from '../machines/detail';
import { machineByTag } from '../machines/machines';
import { ProblemError } from '../problem';
import type { PlantClient } from './plantSide';

/** What of an act is worth a line in the audit: faults and pace, not every turn of a valve. */
const noted = (act: BenchAct): boolean => act.fault !== undefined || act.pace !== undefined || act.drill !== undefined;

/** The plant side of the bench, handed through. */
export const benchRoutes: FastifyPluginAsyncTypebox<Context & { plant: PlantClient }> = async (app, { db, claims, fleet, plant }) => {
  app.get(
    '/machines/:tag/bench',
    { schema: { tags: ['bench'], params: TagParams, response: { 200: BenchView, 404: Problem, 424: Problem } } },
    async ({ params }) => plant.view((await machineByTag(db, params.tag)).tag),
  );

  app.get(
    '/machines/:tag/bench/readings/:id',
    {
      schema: {
        tags: ['bench'],
        params: Type.Object({ ...TagParams.properties, id: Text(40) }),
        response: { 200: BenchReading, 404: Problem, 424: Problem },
      },
    },
    async ({ params }) => plant.measure((await machineByTag(db, params.tag)).tag, params.id),
  );

  app.post(
    '/machines/:tag/bench',
    {
      schema: {
        tags: ['bench'],
        params: TagParams,
        body: BenchAct,
        response: { 200: BenchView, 404: Problem, 409: Problem, 422: Problem, 424: Problem },
      },
    },
    async ({ params, body }) => {
      const { tag } = await machineByTag(db, params.tag);
      const { fault = null, pace = null, drill = null } = body;
      const now = fleet.station(tag)?.latest;
      // nobody moves the wires of a machine that turns or is about to
      if (body.wires && now && (now.state === 'running' || now.state === 'stopping' || now.state === 'asleep'))
        throw new ProblemError(409, 'Turning', `${tag} turns, or may wake by itself. Wires are moved at a machine that stands: stop it first.`);
      const act = () => plant.act(tag, body);
      return noted(body) ? audited(db, authorOf(body), 'bench', tag, { fault, pace, ...(drill && { drill }) }, act) : act();
    },
  );

  app.put(
    '/machines/:tag/bench',
    {
      schema: {
        tags: ['bench'],
        params: TagParams,
        body: AuthorOnly,
        response: { 200: BenchView, 404: Problem, 409: Problem, 422: Problem, 424: Problem },
      },
    },
    async ({ params, body }) => {
      const { tag } = await machineByTag(db, params.tag);
      const author = authorOf(body);
      return claims.during(tag, author, 'bench', async () => {
        const { name, area, bookId, size, region, supply, unitId, driven, plate } = await detailOf(db, await machineByTag(db, tag));
        const stand = { tag, name, area, bookId, size, region, supply, unitId, driven, plate: plate.plate };
        return audited(db, author, 'put on the bench', tag, { unitId }, () => plant.put(stand));
      });
    },
  );
};
