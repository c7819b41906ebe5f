import '@yare/books/all';
import { existsSync } from 'node:fs';
import Ajv from 'ajv';
import fastifyStatic from '@fastify/static';
import swagger from '@fastify/swagger';
import websocket from '@fastify/websocket';
import Fastify, { type FastifyInstance, type FastifyServerOptions } from 'fastify';
import { api } from './api';
import { Aside } from './aside/aside';
import type { PlantAddress } from './bench/plantSide';
import { Claims, notAlone } from './claims';
import type { Context } from './context';
import type { Db } from './db/connect';
import type { DatabaseWatch } from './db/watch';
import { Devices } from './devices/devices';
import { door } from './door/door';
import { serverPatience, usualPatience } from './door/listen';
import { contentPolicy } from './door/policy';
import { Fleet } from './link/fleet';
import { Sockets } from './live/sockets';
import { machineByTag } from './machines/machines';
import { linked } from './machines/routes';
import { notFound, problemDocuments, unreadable, brokenOff } from './problem';
import { Pictures } from './photos/pictures';
import { recordedRuns } from './recordings/recordedRuns';
import { ArmedRecorders } from './recordings/armed';
import { closeInterrupted } from './recordings/recordings';
import type { HoldTiming } from './runs/run';
import { WatchedMachines } from './seen/watching';
import { noteInDrive } from './sheets/sheets';
import { Space } from './space';
import { Still } from './still/still';
import { logTrips } from './trips/tripLog';
import { TripWatch } from './trips/tripWatch';

export interface AppOptions {
  db: Db;
  /** where the drives answer: one Modbus TCP server, a unit for each machine */
  drives: { host: string; port: number };
  /** the bench's plant side, where a bench stands in for the plant */
  plant?: PlantAddress;
  /** folder of the exported application; none serves the interface alone */
  staticFolder?: string;
  logger?: FastifyServerOptions['logger'];
  /** tells at once when the database goes */
  watch?: DatabaseWatch;
  /** names and addresses the server is called by, besides loopback */
  names?: readonly string[];
  /** whether the server's own computer needs no pairing; it does not unless said */
  trustLoopback?: boolean;
  /** bytes free where the data lies */
  freeSpace?: () => Promise<number>;
  /** what listens instead of Fastify's own server */
  serverFactory?: FastifyServerOptions['serverFactory'];
  /** begins what stands beside it at once, and not when it is first wanted */
  ready?: boolean;
  /** for tests on busy machines */
  timing?: HoldTiming;
  /** the time of day, ms; the computer's own unless given */
  now?: () => number;
  /** the clock that pauses are measured by, which nobody sets, ms; the process's own unless given */
  steady?: () => number;
}

/** Words of an address are text and are read as figures; in a body a null stays a null and a text a text. */
const ofAddress = new Ajv({ coerceTypes: 'array', useDefaults: true, strict: false, strictNumbers: true });
const ofBody = new Ajv({ useDefaults: true, strict: false, strictNumbers: true });

/** What everything else stands on: links to the drives, claims, runs with their records. */
async function foundations(
  { db, drives, watch, freeSpace, timing, now = Date.now, steady = () => performance.now() }: AppOptions,
  log: FastifyInstance['log'],
) {
  await closeInterrupted(db);
  const machines = await db('machines').orderBy('id');
  const claims = new Claims(() => (watch?.away ? notAlone() : null));
  const fleet = new Fleet(drives, machines.map(linked), claims, async (tag, values) => {
    await noteInDrive(db, await machineByTag(db, tag), 'Link', values);
  });
  const sockets = new Sockets();
  const space = new Space(freeSpace ?? (async () => Infinity));
  const runs = recordedRuns({ db, watch, fleet, claims, space, log, told: (run, phase) => sockets.phase(run, phase), timing });
  logTrips(db, fleet, (error) => log.error({ error }, 'a trip could not be logged'));
  const trips = new TripWatch(db, fleet, (error) => log.error({ error }, 'what a drive remembers of a trip could not be read'));
  const recorders = new ArmedRecorders(db, fleet, space, (error, what) => log.error({ error }, what));
  await recorders.restore();
  const watched = new WatchedMachines(
    db,
    fleet,
    now,
    (tag, seen) => sockets.seen(tag, seen),
    (error) => log.error({ error }, 'what was seen could not be kept'),
  );
  await watched.restore();
  const context: Context = {
    db,
    fleet,
    holdToRun: runs.holdToRun,
    claims,
    devices: new Devices(db),
    space,
    recorders,
    watched,
    aside: new Aside(),
    pictures: new Pictures(),
    now,
    steady,
  };
  const still = new Still(fleet, claims, steady);
  watch?.onLost(() => {
    claims.loseAll();
    void still.stop();
  });
  return { context, sockets, runs, trips, still };
}

/** The server on a migrated, seeded database. Listening is the caller's; closing it stops motors first. */
export async function buildApp(options: AppOptions): Promise<FastifyInstance> {
  const { plant, staticFolder, logger = false, names = [], trustLoopback = true, serverFactory } = options;
  const { requestTimeout, ...http } = serverPatience(usualPatience);
  const app = Fastify({
    logger,
    forceCloseConnections: true,
    requestTimeout,
    http,
    frameworkErrors: unreadable,
    clientErrorHandler: brokenOff,
    ...(serverFactory && { serverFactory }),
  });
  app.setValidatorCompiler<object>(({ schema, httpPart }) => (httpPart === 'body' ? ofBody : ofAddress).compile(schema));
  // what a route answers is its own affair, held against its schema by a test: a writer made from the schema is made at the first answer, and takes
  // a tenth of a second at that moment
  app.setSerializerCompiler(() => JSON.stringify);
  problemDocuments(app);
  const { context, sockets, runs, trips, still } = await foundations(options, app.log);
  if (options.ready) await context.pictures.begin();

  // before the door: a refused upgrade is then closed too
  await app.register(websocket, { options: { maxPayload: 64 * 1024 } });
  await app.register(door, { names, trustLoopback });
  await app.register(contentPolicy);
  await app.register(swagger, { openapi: { openapi: '3.1.0', info: { title: 'Yare Pilot', version: '0.1.0' } } });
  await app.register(api, { ...context, sockets, plant, still, watch: options.watch, prefix: '/api/v1' });
  if (staticFolder && existsSync(staticFolder))
    await app.register(fastifyStatic, { root: staticFolder, setHeaders: cacheHeaders, preCompressed: true, wildcard: false });
  app.setNotFoundHandler((request, reply) => {
    const [path = ''] = request.url.split('?');
    const reads = request.method === 'GET' && staticFolder !== undefined;
    if (reads && isPage(path)) return reply.sendFile('index.html');
    reply.status(404);
    // the application tells a reader by itself what it does not know
    if (reads && String(request.headers.accept).includes('text/html')) return reply.sendFile('index.html');
    return reply.type('application/problem+json').send(notFound(path).problem);
  });
  app.addHook('preClose', async () => {
    await Promise.all([runs.stop(), still.stop(), trips.stop(), context.recorders.stop(), context.watched.stop()]);
  });
  app.addHook('onClose', () => Promise.all([context.fleet.stop(), context.aside.stop(), context.pictures.stop()]));
  return app;
}

/** Addresses of the application's pages, as its routes name them. */
const pages = /^\/(new|pair|trips|devices|m\/[^/]+(\/.*)?)?$/;
const isPage = (path: string): boolean => pages.test(path) && new URL(path, 'http://page').pathname === path;

/** Hashed names never change; the page itself is asked for anew each time. */
const cacheHeaders = (reply: { setHeader(name: string, value: string): unknown }, path: string): void => {
  reply.setHeader('cache-control', path.includes('/_expo/') ? 'public, max-age=31536000, immutable' : 'no-cache');
};
