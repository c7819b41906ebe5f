import type { FastifyPluginAsync } from 'fastify';
import { auditRoutes } from './audit/routes';
import { PlantClient, type PlantAddress } from './bench/plantSide';
import { benchRoutes } from './bench/routes';
import type { Context } from './context';
import type { DatabaseWatch } from './db/watch';
import { databaseAway } from './problem';
import { onlyPaired } from './door/door';
import { deviceRoutes } from './devices/routes';
import { driveRoutes } from './drive/routes';
import { learnedRoutes } from './learned/routes';
import { liveRoute } from './live/routes';
import type { Sockets } from './live/sockets';
import { lockRoutes } from './lock/routes';
import { machineRoutes } from './machines/routes';
import { motorRoutes } from './motors/routes';
import { photoRoutes } from './photos/routes';
import { plateRoutes } from './plate/routes';
import { leavingRoutes } from './leaving/routes';
import { proofRoutes } from './proofs/routes';
import { recordingRoutes } from './recordings/routes';
import { seenRoutes } from './seen/routes';
import { sheetRoutes } from './sheets/routes';
import { shortListRoutes } from './shortLists/routes';
import { tripRoutes } from './trips/routes';
import { surveyRoutes } from './survey/routes';
import { stillRoutes } from './still/routes';
import { stopRoutes } from './stop/routes';
import type { Still } from './still/still';
import { wiringRoutes } from './wiring/routes';
import { writeRoutes } from './write/routes';

const storing = new Set(['POST', 'PUT']);

export interface ApiOptions extends Context {
  sockets: Sockets;
  /** where the bench's plant side answers, where a bench stands in for the plant */
  plant: PlantAddress | undefined;
  still: Still;
  /** tells whether the database is away */
  watch?: DatabaseWatch;
}

/** Every resource below /api/v1, each a plugin of its own. */
export const api: FastifyPluginAsync<ApiOptions> = async (app, { sockets, plant, still, watch, ...of }) => {
  const { db, fleet, holdToRun, claims, devices, space, recorders, watched, aside, pictures, now, steady } = of;
  const context: Context = { db, fleet, holdToRun, claims, devices, space, recorders, watched, aside, pictures, now, steady };
  onlyPaired(app, devices);
  app.get('/health', { config: { needsNoDatabase: true }, schema: { tags: ['health'] } }, async (_request, reply) => {
    const database =
      !watch?.away &&
      (await db.raw('select 1').then(
        () => true,
        () => false,
      ));
    const up = [...fleet.stations.values()].filter((s) => s.latest.link === 'up').length;
    return reply.status(database ? 200 : 503).send({ ok: database, database, drives: { linked: up, of: fleet.stations.size } });
  });
  app.get('/openapi.json', { config: { needsNoDatabase: true }, schema: { hide: true } }, async () => app.swagger());
  // nobody waits for a database that is known to be away
  app.addHook('preValidation', async (request) => {
    if (watch?.away && !request.routeOptions.config.needsNoDatabase) throw databaseAway('Nothing was done. Try again when it is back.');
  });
  // what only clears up or stops something needs no room
  app.addHook('preValidation', async (request) => {
    if (storing.has(request.method) && !request.routeOptions.config.needsNoRoom) await space.refuseWhenFull();
  });
  for (const routes of [
    auditRoutes,
    driveRoutes,
    learnedRoutes,
    lockRoutes,
    machineRoutes,
    motorRoutes,
    photoRoutes,
    plateRoutes,
    proofRoutes,
    leavingRoutes,
    recordingRoutes,
    seenRoutes,
    sheetRoutes,
    shortListRoutes,
    stopRoutes,
    surveyRoutes,
    tripRoutes,
    wiringRoutes,
    writeRoutes,
  ])
    await app.register(routes, context);
  await app.register(deviceRoutes, { ...context, online: (device) => sockets.online(device) });
  await app.register(benchRoutes, { ...context, plant: new PlantClient(plant) });
  await app.register(stillRoutes, { ...context, still });
  await app.register(liveRoute, { ...context, sockets });
};
