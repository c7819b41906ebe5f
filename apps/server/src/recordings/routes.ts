import { Type, type FastifyPluginAsyncTypebox } from '@fastify/type-provider-typebox';
import { linkChannel } from '@yare/commissioning/recording';
import {
  ArmRequest,
  AuthorOnly,
  Id,
  Keeping,
  KeepingEdit,
  RecordingRemoval,
  literals,
  MarkRequest,
  Problem,
  RecorderStatus,
  RecordingMeta,
  RecordingPage,
  TagParams,
} from '@yare/contract';
import { begun } from '../aside/aside';
import { audit } from '../audit/audit';
import { authorOf } from '../audit/people';
import type { Context } from '../context';
import { urlOf } from '../db/connect';
import { machineByTag } from '../machines/machines';
import { ProblemError } from '../problem';
import { listRecordings, recordingMeta } from './recordings';
import { keepingOf, setKeeping } from './keeping';
import { removeRecording } from './removal';
import { takingIn } from './takingIn';

const IdParams = Type.Object({ id: Id });
const pageSize = 20;
/** How often what is old is thinned or removed, as the plant wants it, ms. */
const tidyEvery = 3600_000;

const fileName = (meta: RecordingMeta, end: string): string => `${meta.tag}-${meta.startedAt.slice(0, 19).replace(/:/g, '')}.${end}`;

/** Recordings of runs, of armed recorders and of other instruments, and marks people put on them. */
export const recordingRoutes: FastifyPluginAsyncTypebox<Context> = async (app, context) => {
  const { db, recorders, aside, now } = context;
  const database = urlOf(db);
  app.get(
    '/machines/:tag/recordings',
    {
      schema: {
        tags: ['recordings'],
        params: TagParams,
        querystring: Type.Object({ before: Type.Optional(Id) }),
        response: { 200: RecordingPage, 404: Problem },
      },
    },
    async ({ params, query }) => {
      const m = await machineByTag(db, params.tag);
      const found = await listRecordings(db, m.id, query.before, pageSize + 1);
      const recordings = found.slice(0, pageSize);
      return { recordings, next: found.length > pageSize ? (recordings.at(-1)?.id ?? null) : null };
    },
  );

  app.get('/recordings/:id', { schema: { tags: ['recordings'], params: IdParams, response: { 200: RecordingMeta, 404: Problem } } }, ({ params }) =>
    recordingMeta(db, params.id),
  );

  app.get('/recordings/:id/samples', { schema: { tags: ['recordings'], params: IdParams } }, async ({ params }, reply) => {
    const { id } = await recordingMeta(db, params.id);
    return reply.type('application/octet-stream').send(await begun(aside.make('samples', { database, id })));
  });

  app.get('/recordings/:id/csv', { schema: { tags: ['recordings'], params: IdParams } }, async ({ params }, reply) => {
    const meta = await recordingMeta(db, params.id);
    const file = await begun(aside.make('csv', { database, id: meta.id }));
    return reply
      .type('text/csv; charset=utf-8')
      .header('content-disposition', `attachment; filename="${fileName(meta, 'csv')}"`)
      .send(file);
  });

  app.get(
    '/recordings/:id/comtrade',
    { schema: { tags: ['recordings'], params: IdParams, querystring: Type.Object({ form: literals(['ASCII', 'BINARY']) }) } },
    async ({ params, query }, reply) => {
      const meta = await recordingMeta(db, params.id);
      const file = await begun(aside.make('comtrade', { database, id: meta.id, form: query.form }));
      return reply
        .type('application/octet-stream')
        .header('content-disposition', `attachment; filename="${fileName(meta, 'cff')}"`)
        .send(file);
    },
  );

  await app.register(takingIn, context);

  app.post(
    '/recordings/:id/remove',
    {
      config: { needsNoRoom: true },
      schema: { tags: ['recordings'], params: IdParams, body: RecordingRemoval, response: { 200: Type.Object({}), 404: Problem, 409: Problem } },
    },
    async ({ params, body }) => {
      await removeRecording(db, params.id, authorOf(body), body.why.trim());
      return {};
    },
  );

  app.get('/keeping', { schema: { tags: ['recordings'], response: { 200: Keeping } } }, () => keepingOf(db));

  app.put('/keeping', { schema: { tags: ['recordings'], body: KeepingEdit, response: { 200: Keeping } } }, async ({ body }) => {
    const { author: _author, ...keeping } = body;
    await setKeeping(db, keeping, authorOf(body));
    return keepingOf(db);
  });

  const tidying = setInterval(() => void tidy().catch((err: unknown) => app.log.error({ err }, 'recordings could not be tidied')), tidyEvery);
  app.addHook('onClose', async () => clearInterval(tidying));
  const tidy = () => aside.do('tidy', { database, now: now() });

  app.get(
    '/machines/:tag/recorder',
    { schema: { tags: ['recordings'], params: TagParams, response: { 200: RecorderStatus, 404: Problem } } },
    async ({ params }) => recorders.status((await machineByTag(db, params.tag)).tag),
  );

  app.post(
    '/machines/:tag/recorder',
    { schema: { tags: ['recordings'], params: TagParams, body: ArmRequest, response: { 200: RecorderStatus, 404: Problem, 422: Problem } } },
    async ({ params, body }) => {
      const m = await machineByTag(db, params.tag);
      const { arming } = body;
      const wanted = [...arming.channels, ...('channel' in arming.trigger ? [arming.trigger.channel] : [])];
      const unknown = wanted.find((key) => !linkChannel(key));
      if (unknown) throw new ProblemError(422, 'No such channel', `The link tells no ${unknown}. Nothing was armed.`, { field: 'channels' });
      await recorders.arm(m, arming, authorOf(body));
      return recorders.status(m.tag);
    },
  );

  app.post(
    '/machines/:tag/recorder/end',
    {
      config: { needsNoRoom: true },
      schema: { tags: ['recordings'], params: TagParams, body: AuthorOnly, response: { 200: RecorderStatus, 404: Problem } },
    },
    async ({ params, body }) => {
      const m = await machineByTag(db, params.tag);
      await recorders.end(m, authorOf(body));
      return recorders.status(m.tag);
    },
  );

  app.post(
    '/recordings/:id/marks',
    { schema: { tags: ['recordings'], params: IdParams, body: MarkRequest, response: { 200: RecordingMeta, 404: Problem, 422: Problem } } },
    async ({ params, body }) => {
      const meta = await recordingMeta(db, params.id);
      const author = authorOf(body);
      const { time, label } = body.mark;
      if (meta.complete && time > meta.duration)
        throw new ProblemError(422, 'Outside', `The recording ends at ${meta.duration.toFixed(1)} s; a mark at ${time.toFixed(1)} s lies outside.`, {
          field: 'time',
        });
      await db.transaction(async (trx) => {
        await trx('recording_marks').insert({ recording_id: meta.id, time, label, author });
        await audit(trx, author, 'mark recording', meta.tag, { recording: meta.id, time, label });
      });
      return recordingMeta(db, meta.id);
    },
  );
};
