import { existsSync } from 'node:fs';
import Ajv from 'ajv';
import helmet from '@fastify/helmet';
import fastifyStatic from '@fastify/static';
import swagger from '@fastify/swagger';
import websocket from '@fastify/websocket';
import Fastify, { type FastifyInstance, type FastifyServerOptions } from 'fastify';
import type { Db } from './db/connect';
import { Fleet } from './link/fleet';
import { audit, machineByTag, noteInDrive, type MachineRow } from './machines';
import { ignoredInDrive, type Context } from './context';
import { notFound, problemDocuments } from './problem';
import { benchRoutes } from './routes/bench';
import { driveRoutes } from './routes/drive';
import { libraryRoutes } from './routes/library';
import { Audience, liveRoute } from './routes/live';
import { machineRoutes } from './routes/machines';
import { planRoutes } from './routes/plan';
import { recordingRoutes } from './routes/recordings';
import { sheetRoutes } from './routes/sheets';
import { HoldToRun } from './runs/holdToRun';
import { closeInterrupted, Recorder } from './runs/recorder';

export interface AppOptions {
  db: Db;
  /** where the drives answer: one Modbus TCP server, a unit for each machine */
  drives: { host: string; port: number };
  /** the bench's plant side, where a bench stands in for the plant */
  plant?: { host: string; port: number };
  /** folder of the exported application; none serves the interface alone */
  staticFolder?: string;
  logger?: FastifyServerOptions['logger'];
}

/** The server on a migrated, seeded database. Listening is the caller's; closing it stops motors first. */
export async function buildApp({ db, drives, plant, staticFolder, logger = false }: AppOptions): Promise<FastifyInstance> {
  const app = Fastify({
    logger,
    forceCloseConnections: true,
  });
  // words of an address are text and are read as figures; in a body a null stays a null and a text a text
  const spoken = new Ajv({ coerceTypes: 'array', useDefaults: true, strict: false });
  const written = new Ajv({ useDefaults: true, strict: false });
  app.setValidatorCompiler(({ schema, httpPart }) => (httpPart === 'body' ? written : spoken).compile(schema as object));
  problemDocuments(app);
  await closeInterrupted(db);
  const machines = (await db('machines').orderBy('id')) as MachineRow[];
  const fleet = new Fleet(
    drives,
    machines.map((m) => ({ tag: m.tag, bookId: m.book_id, size: m.size, unit: m.unit })),
    async (tag, values) => {
      const m = await machineByTag(db, tag);
      await noteInDrive(db, m, 'Link', values, ignoredInDrive(m));
    },
  );
  const audience = new Audience();
  const holdToRun = recordedRuns(db, fleet, audience, app);
  const context: Context = { db, fleet, holdToRun };

  await app.register(helmet, {
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'self'"],
        scriptSrc: ["'self'"],
        styleSrc: ["'self'", "'unsafe-inline'"],
        imgSrc: ["'self'", 'data:'],
        fontSrc: ["'self'"],
        connectSrc: ["'self'", 'ws:', 'wss:'],
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
  await app.register(websocket, { options: { maxPayload: 64 * 1024 } });
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
    await holdToRun.stop();
  });
  app.addHook('onClose', async () => {
    await fleet.stop();
  });
  return app;
}

/** Hold to run with a recording of every run, from command taken until it is given back. */
function recordedRuns(db: Db, fleet: Fleet, audience: Audience, app: FastifyInstance): HoldToRun {
  const recorders = new Map<string, Recorder>();
  fleet.onSample((s) => recorders.get(s.tag)?.add(s));
  const marks = { taken: 'Command taken', running: 'Start', stopping: 'Let go', ended: 'Command given back' } as const;
  return new HoldToRun(fleet, {
    began: async (run) => {
      const m = await machineByTag(db, run.tag);
      const title = run.tune ? `Tune, ${run.tune.kind}` : `Hold to run at ${run.frequency} Hz`;
      const recorder = await Recorder.begin(db, m.id, title, run.author);
      run.recordingId = recorder.id;
      recorders.set(run.tag, recorder);
      await audit(db, run.author, run.tune ? `tune ${run.tune.kind}` : 'hold to run', run.tag, { frequency: run.frequency, recording: recorder.id });
    },
    phase: (run, phase) => {
      audience.phase(run, phase);
      const recorder = recorders.get(run.tag);
      // progress of a measurement is told to the page and is no mark
      if (!recorder || (phase === 'running' && run.tune && run.tune.progress > 0)) return;
      const detail =
        phase === 'stopping' && run.reason && run.reason !== 'let go'
          ? `Stop: ${run.reason}`
          : phase === 'ended' && run.reason?.includes('link')
            ? `End: ${run.reason}`
            : marks[phase];
      const stored = recorder.mark(detail.slice(0, 80));
      if (phase !== 'ended') return void stored.catch((err: unknown) => app.log.error({ err }, 'mark'));
      recorders.delete(run.tag);
      const station = fleet.station(run.tag)!;
      station.fast = false;
      stored
        .then(() => recorder.end())
        .then(() => audience.phase(run, 'ended'))
        .catch((err: unknown) => app.log.error({ err }, 'recording'));
    },
  });
}
