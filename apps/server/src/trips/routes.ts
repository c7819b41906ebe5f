import { setTimeout } from 'node:timers/promises';
import type { FastifyPluginAsyncTypebox } from '@fastify/type-provider-typebox';
import { AuthorOnly, LiveSample, Problem, TagParams, TripNow } from '@yare/contract';
import { ControlWord } from '@yare/core';
import { audited } from '../audit/audit';
import { authorOf } from '../audit/people';
import { linkFailed, type Context } from '../context';
import type { Fleet, Station } from '../link/fleet';
import { machineByTag } from '../machines/machines';
import { notFound, ProblemError } from '../problem';
import { lastLogged } from './tripLog';

/** A drive has this long to let go of its trip, ms. */
const longestReset = 1500;
const askEvery = 50;

/**
 * Resets a trip over the link: command is taken at rest, the reset is given once, and command goes back. Nothing starts by it: a start that
 * is given at the terminals has to be given anew.
 * @throws ProblemError 409 when there is no trip, or its cause is still there
 */
async function resetTrip(fleet: Fleet, station: Station, who: string): Promise<LiveSample> {
  const { link } = station;
  const before = await fleet.ask(station);
  if (before.link === 'up' && before.trip === null) throw new ProblemError(409, 'Not tripped', `${station.tag} has not tripped. Nothing was reset.`);
  station.holder = who;
  try {
    await link.takeCommand();
    const until = performance.now() + longestReset;
    // given again while it is waited for: a link that falls silent loses command, and the drive acts on the first alone
    do {
      await link.command(ControlWord.faultReset, 0);
      await setTimeout(askEvery);
    } while ((await fleet.ask(station)).trip !== null && performance.now() < until);
    await link.command(ControlWord.disableVoltage, 0);
  } finally {
    await link.giveCommand().catch(() => undefined);
    station.holder = null;
  }
  const after = await fleet.ask(station);
  if (after.trip)
    throw new ProblemError(
      409,
      'Trip stays',
      `${after.trip.name} is still there: the drive does not let go of it while its cause lasts. ${after.trip.sentence}`,
    );
  return after;
}

/** The trip in force, and its reset. */
export const tripRoutes: FastifyPluginAsyncTypebox<Context> = async (app, { db, fleet, claims }) => {
  app.get('/machines/:tag/trip', { schema: { tags: ['trip'], params: TagParams, response: { 200: TripNow, 404: Problem } } }, async ({ params }) => {
    const { tag } = await machineByTag(db, params.tag);
    const live = fleet.stationOf(tag).latest;
    if (!live.trip) throw notFound(`trip of ${tag}`);
    const logged = await lastLogged(db, tag);
    return { ...live.trip, seenAt: logged && logged.code === live.trip.code ? logged.at.toISOString() : null, live };
  });

  app.post(
    '/machines/:tag/trip/reset',
    { schema: { tags: ['trip'], params: TagParams, body: AuthorOnly, response: { 200: LiveSample, 404: Problem, 409: Problem, 424: Problem } } },
    async ({ params, body }) => {
      const m = await machineByTag(db, params.tag);
      const author = authorOf(body);
      return claims.during(m.tag, author, 'reset', () =>
        audited(db, author, 'reset trip', m.tag, {}, () => resetTrip(fleet, fleet.stationOf(m.tag), author)).catch((error: unknown) =>
          linkFailed(m, error, 'The trip was not reset.'),
        ),
      );
    },
  );
};
