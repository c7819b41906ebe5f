import { existsSync } from 'node:fs';
import type { IncomingMessage } from 'node:http';
import type { TLSSocket } from 'node:tls';
import Ajv from 'ajv';
import helmet from '@fastify/helmet';
import fastifyStatic from '@fastify/static';
import swagger from '@fastify/swagger';
import websocket from '@fastify/websocket';
import Fastify, { type FastifyInstance, type FastifyServerOptions } from 'fastify';
import { Claims } from './claims';
import type { Db } from './db/connect';
import type { DatabaseWatch } from './db/watch';
import { Devices } from './devices';
import { door } from './door';
import { Fleet } from './link/fleet';
import { machineByTag, noteInDrive, type MachineRow } from './machines';
import { ignoredInDrive, type Context } from './context';
import { notFound, problemDocuments } from './problem';
import { benchRoutes } from './routes/bench';
import { deviceRoutes } from './routes/devices';
import { driveRoutes } from './routes/drive';
import { libraryRoutes } from './routes/library';
import { Audience, liveRoute } from './routes/live';
import { machineRoutes } from './routes/machines';
import { planRoutes } from './routes/plan';
import { recordingRoutes } from './routes/recordings';
import { sheetRoutes } from './routes/sheets';
import type { HoldTiming } from './runs/run';
import { recordedRuns } from './runs/recordedRuns';
import { closeInterrupted } from './runs/recorder';
import { Space } from './space';

export interface AppOptions {
  db: Db;
  /** where the drives answer: one Modbus TCP server, a unit for each machine */
  drives: { host: string; port: number };
  /** the bench's plant side, where a bench stands in for the plant */
  plant?: { host: string; port: number };
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
  /** for tests on busy machines */
  timing?: HoldTiming;
}

const storing = new Set(['POST', 'PUT']);
const clears = /\/(put-out|unlock|write\/stop)$/;

/** The page's own live channel, for the policy of what it may connect to; the host was checked before. */
const socketOrigin = (request: IncomingMessage): string => `${(request.socket as TLSSocket).encrypted ? 'wss' : 'ws'}://${request.headers.host}`;

/** The server on a migrated, seeded database. Listening is the caller's; closing it stops motors first. */
export async function buildApp(options: AppOptions): Promise<FastifyInstance> {
  const { db, drives, plant, staticFolder, logger = false, watch, names = [], trustLoopback = true, serverFactory } = options;
  const app = Fastify({
    logger,
    forceCloseConnections: true,
    ...(serverFactory && { serverFactory }),
  });
  // words of an address are text and are read as figures; in a body a null stays a null and a text a text
  const spoken = new Ajv({ coerceTypes: 'array', useDefaults: true, strict: false });
  const written = new Ajv({ useDefaults: true, strict: false });
  app.setValidatorCompiler(({ schema, httpPart }) => (httpPart === 'body' ? written : spoken).compile(schema as object));
  problemDocuments(app);
  await closeInterrupted(db);
  const machines = (await db('machines').orderBy('id')) as MachineRow[];
  const claims = new Claims();
  const fleet = new Fleet(
    drives,
    machines.map((m) => ({ tag: m.tag, bookId: m.book_id, size: m.size, unit: m.unit })),
    claims,
    async (tag, values) => {
      const m = await machineByTag(db, tag);
      await noteInDrive(db, m, 'Link', values, ignoredInDrive(m));
    },
  );
  const audience = new Audience();
  const devices = new Devices(db);
  const space = new Space(options.freeSpace ?? (async () => Infinity));
  const runs = recordedRuns({
    db,
    watch,
    fleet,
    claims,
    space,
    log: app.log,
    told: (run, phase) => audience.phase(run, phase),
    timing: options.timing,
  });
  const context: Context = { db, fleet, holdToRun: runs.holdToRun, claims, devices, space };

  // before the door: a refused upgrade is then closed too
  await app.register(websocket, { options: { maxPayload: 64 * 1024 } });
  await app.register(door, { names, trustLoopback, devices });

  await app.register(helmet, {
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'self'"],
        scriptSrc: ["'self'"],
        styleSrc: ["'self'", "'unsafe-inline'"],
        imgSrc: ["'self'", 'data:'],
        fontSrc: ["'self'"],
        // a socket's origin is not 'self' to every browser: it is named
        connectSrc: ["'self'", (request) => socketOrigin(request as IncomingMessage)],
        workerSrc: ["'self'"],
        objectSrc: ["'none'"],
        frameAncestors: ["'none'"],
        baseUri: ["'self'"],
      },
    },
    hsts: false,
    crossOriginOpenerPolicy: false,
    originAgentCluster: false,
  });
  await app.register(swagger, { openapi: { openapi: '3.1.0', info: { title: 'Yare Pilot', version: '0.1.0' } } });
  await app.register(
    async (api) => {
      api.get('/health', { schema: { tags: ['health'] } }, async (_request, reply) => {
        const database = await db.raw('select 1').then(
          () => true,
          () => false,
        );
        const linked = [...fleet.stations.values()].filter((s) => s.latest.link === 'up').length;
        return reply.status(database ? 200 : 503).send({ ok: database, database, drives: { linked, of: fleet.stations.size } });
      });
      api.get('/openapi.json', { schema: { hide: true } }, async () => app.swagger());
      // what only clears up or stops something needs no room
      api.addHook('preValidation', async (request) => {
        if (storing.has(request.method) && !clears.test(request.url)) await space.refuseWhenFull();
      });
      await deviceRoutes(api, context, (device) => audience.online(device));
      await machineRoutes(api, context);
      await planRoutes(api, context);
      await driveRoutes(api, context);
      await libraryRoutes(api, context);
      await sheetRoutes(api, context);
      await recordingRoutes(api, context);
      await benchRoutes(api, context, plant);
      await liveRoute(api, { ...context, audience });
    },
    { prefix: '/api/v1' },
  );
  if (staticFolder && existsSync(staticFolder)) {
    // hashed names never change; the page itself is asked for anew each time
    await app.register(fastifyStatic, {
      root: staticFolder,
      setHeaders: (reply, path) => {
        reply.setHeader('cache-control', path.includes('/_expo/') ? 'public, max-age=31536000, immutable' : 'no-cache');
      },
    });
  }
  app.setNotFoundHandler((request, reply) => {
    if (request.method === 'GET' && !request.url.startsWith('/api/') && !/\.[a-z0-9]+$/i.test(request.url.split('?')[0]!) && staticFolder)
      return reply.sendFile('index.html');
    const { problem } = notFound(request.url.split('?')[0]!);
    return reply.status(404).type('application/problem+json').send(problem);
  });
  app.addHook('preClose', async () => {
    await runs.stop();
  });
  app.addHook('onClose', async () => {
    await fleet.stop();
  });
  return app;
}
