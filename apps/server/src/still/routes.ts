import type { FastifyPluginAsyncTypebox } from '@fastify/type-provider-typebox';
import { AuthorOnly, LiveSample, Problem, TagParams } from '@yare/contract';
import { audit } from '../audit/audit';
import { authorOf } from '../audit/people';
import { linkFailed, type Context } from '../context';
import { machineByTag } from '../machines/machines';
import { notFound } from '../problem';
import type { Still } from './still';

const schema = { tags: ['wiring'], params: TagParams, body: AuthorOnly, response: { 200: LiveSample, 404: Problem, 409: Problem, 424: Problem } };

/** A machine kept still while its wires are tried. */
export const stillRoutes: FastifyPluginAsyncTypebox<Context & { still: Still }> = async (app, { db, fleet, still }) => {
  app.post('/machines/:tag/still', { schema }, async ({ params, body }) => {
    const m = await machineByTag(db, params.tag);
    await still.keep(m.tag, authorOf(body)).catch((error: unknown) => linkFailed(m, error, 'Command was not taken.'));
    return fleet.stationOf(m.tag).latest;
  });

  app.post('/machines/:tag/still/end', { config: { needsNoRoom: true, needsNoDatabase: true }, schema }, async ({ params, body }) => {
    const station = fleet.station(params.tag);
    if (!station) throw notFound(`machine ${params.tag}`);
    const author = authorOf(body);
    if (await still.end(station.tag, author)) await audit(db, author, 'tried wires', station.tag, {});
    return fleet.ask(station);
  });
};
