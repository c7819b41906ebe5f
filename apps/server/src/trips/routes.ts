import { setTimeout } from 'node:timers/promises';
import { Type, type FastifyPluginAsyncTypebox } from '@fastify/type-provider-typebox';
import {
  AuthorOnly,
  Id,
  LiveSample,
  MachineNote,
  Problem,
  Tag,
  TagParams,
  TripAnswers,
  TripClose,
  TripDetail,
  TripList,
  TripNew,
  TripNow,
} from '@yare/contract';
import { ControlWord } from '@yare/core';
import { noSnapshot } from '@yare/core/trips';
import { audit, audited } from '../audit/audit';
import { authorOf } from '../audit/people';
import { linkFailed, type Context } from '../context';
import type { Fleet, Station } from '../link/fleet';
import { machineByTag } from '../machines/machines';
import { notFound, ProblemError } from '../problem';
import { recordingMeta } from '../recordings/recordings';
import { latestSheet } from '../sheets/sheets';
import { json } from '../db/tables';
import { lastLogged } from './tripLog';
import { listTrips, storeTrip, tripDetail, tripRow } from './trips';

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

const IdParams = Type.Object({ id: Id });
/** Most trips a list holds. */
const mostListed = 200;

/** The trip in force, its reset, and the cases of all that were. */
export const tripRoutes: FastifyPluginAsyncTypebox<Context> = async (app, { db, fleet, claims }) => {
  app.get('/machines/:tag/trip', { schema: { tags: ['trip'], params: TagParams, response: { 200: TripNow, 404: Problem } } }, async ({ params }) => {
    const { id, tag } = await machineByTag(db, params.tag);
    const live = fleet.stationOf(tag).latest;
    if (!live.trip) throw notFound(`trip of ${tag}`);
    const logged = await lastLogged(db, tag);
    const newest = await db('trips').where({ machine_id: id, code: live.trip.code }).whereNull('closed').orderBy('id', 'desc').first('id');
    return { ...live.trip, seenAt: logged && logged.code === live.trip.code ? logged.at.toISOString() : null, live, caseId: newest?.id ?? null };
  });

  app.post(
    '/machines/:tag/trip/reset',
    {
      config: { needsNoRoom: true },
      schema: { tags: ['trip'], params: TagParams, body: AuthorOnly, response: { 200: LiveSample, 404: Problem, 409: Problem, 424: Problem } },
    },
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

  app.get(
    '/trips',
    { schema: { tags: ['trip'], querystring: Type.Object({ tag: Type.Optional(Tag) }), response: { 200: TripList, 404: Problem } } },
    async ({ query }) => {
      const machineId = query.tag === undefined ? undefined : (await machineByTag(db, query.tag)).id;
      return { trips: await listTrips(db, { machineId, limit: mostListed }) };
    },
  );

  app.get('/trips/:id', { schema: { tags: ['trip'], params: IdParams, response: { 200: TripDetail, 404: Problem } } }, ({ params }) =>
    tripDetail(db, params.id),
  );

  app.post(
    '/machines/:tag/trips',
    { schema: { tags: ['trip'], params: TagParams, body: TripNew, response: { 200: TripDetail, 404: Problem, 422: Problem } } },
    async ({ params, body }) => {
      const m = await machineByTag(db, params.tag);
      const author = authorOf(body);
      const { code, snapshot, answers, seenIn } = body;
      const recording = seenIn && (await recordingMeta(db, seenIn.recordingId));
      if (recording && (recording.tag !== m.tag || seenIn.at > recording.duration))
        throw new ProblemError(422, 'Outside', `Recording ${recording.id} is of ${recording.tag} and ends at ${recording.duration.toFixed(1)} s.`);
      const at = recording && new Date(Date.parse(recording.startedAt) + seenIn.at * 1000);
      const inDrive = (await latestSheet(db, m, 'in drive'))?.values;
      const values = inDrive && Object.fromEntries(Object.entries(inDrive).map(([c, v]) => [c, v.value]));
      const source = seenIn ? 'recording' : code === null ? 'words' : 'display';
      const id = await storeTrip(db, m, { source, code, snapshot: { ...noSnapshot(), ...snapshot }, answers, inDrive: values ?? null, at, seenIn });
      await audit(db, author, 'trip told', m.tag, { trip: id, code });
      return tripDetail(db, id);
    },
  );

  app.post(
    '/trips/:id/answers',
    { schema: { tags: ['trip'], params: IdParams, body: TripAnswers, response: { 200: TripDetail, 404: Problem } } },
    async ({ params, body }) => {
      const author = authorOf(body);
      await db.transaction(async (trx) => {
        const row = await tripRow(trx, params.id);
        const { answers: before } = (await trx('trips').where({ id: row.id }).forUpdate().first('answers')) ?? { answers: {} };
        const answers = Object.fromEntries(Object.entries({ ...before, ...body.answers }).filter(([, a]) => a !== null));
        await trx('trips')
          .where({ id: row.id })
          .update({ answers: json(answers) });
        await audit(trx, author, 'trip answered', row.tag, { trip: params.id, answers: body.answers });
      });
      return tripDetail(db, params.id);
    },
  );

  app.post(
    '/trips/:id/close',
    { schema: { tags: ['trip'], params: IdParams, body: TripClose, response: { 200: TripDetail, 404: Problem, 409: Problem } } },
    async ({ params, body }) => {
      const author = authorOf(body);
      const row = await tripRow(db, params.id);
      const { cause, cure, proof } = body;
      const closed = { cause, cure, proof, author, at: new Date().toISOString() };
      await db.transaction(async (trx) => {
        const changed = await trx('trips')
          .where({ id: row.id })
          .whereNull('closed')
          .update({ closed: json(closed) });
        if (changed === 0) throw new ProblemError(409, 'Closed already', `${row.closed?.author ?? 'Somebody'} has closed this case already.`);
        await audit(trx, author, 'trip closed', row.tag, { trip: row.id, cause, cure, proof });
      });
      return tripDetail(db, row.id);
    },
  );

  app.post(
    '/trips/:id/reopen',
    { schema: { tags: ['trip'], params: IdParams, body: AuthorOnly, response: { 200: TripDetail, 404: Problem } } },
    async ({ params, body }) => {
      const row = await tripRow(db, params.id);
      await db.transaction(async (trx) => {
        await trx('trips')
          .where({ id: row.id })
          .update({ closed: trx.raw('null') as never });
        await audit(trx, authorOf(body), 'trip reopened', row.tag, { trip: row.id });
      });
      return tripDetail(db, row.id);
    },
  );

  app.put(
    '/machines/:tag/note',
    { schema: { tags: ['trip'], params: TagParams, body: MachineNote, response: { 200: MachineNote, 404: Problem } } },
    async ({ params, body }) => {
      const m = await machineByTag(db, params.tag);
      const author = authorOf(body);
      await db('machines').where({ id: m.id }).update({ note: body.note });
      await audit(db, author, 'note', m.tag, { note: body.note });
      return { author, note: body.note };
    },
  );
};
