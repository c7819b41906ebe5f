import type { FastifyPluginAsyncTypebox } from '@fastify/type-provider-typebox';
import { AuthorOnly, LiveSample, Problem, TagParams } from '@yare/contract';
import { audit } from '../audit/audit';
import { authorOf } from '../audit/people';
import type { Context } from '../context';
import { notFound, ProblemError } from '../problem';

const schema = { tags: ['drive'], params: TagParams, body: AuthorOnly, response: { 200: LiveSample, 404: Problem, 409: Problem } };

/**
 * Stops what somebody holds to run, from any paired device. A drive whose panel runs it takes no command from the link meanwhile, so there is nothing else
 * that could be stopped from here. It asks nothing of disk or database: what stops something waits for neither.
 */
export const stopRoutes: FastifyPluginAsyncTypebox<Context> = async (app, { db, fleet, holdToRun }) => {
  app.post('/machines/:tag/stop', { config: { needsNoRoom: true, needsNoDatabase: true }, schema }, async ({ params, body }) => {
    const station = fleet.station(params.tag);
    if (!station) throw notFound(`machine ${params.tag}`);
    const author = authorOf(body);
    if (!holdToRun.stopRun(station.tag, author))
      throw new ProblemError(409, 'Not ours', `Nobody holds ${station.tag} to run from here. What its panel has started is stopped at its panel.`);
    // the log comes after the stop, and a database that is away does not keep it from being one
    void audit(db, author, 'stop over link', station.tag, {}).catch((error: unknown) => app.log.error({ err: error }, 'stop over link'));
    return station.latest;
  });
};
