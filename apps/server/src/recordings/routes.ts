import { Type, type FastifyPluginAsyncTypebox } from '@fastify/type-provider-typebox';
import { Id, MarkRequest, Problem, RecordingData, RecordingMeta, RecordingPage, TagParams } from '@yare/contract';
import { audit } from '../audit/audit';
import { authorOf } from '../audit/people';
import type { Context } from '../context';
import { machineByTag } from '../machines/machines';
import { ProblemError } from '../problem';
import { recordingCsv } from './csv';
import { listRecordings, recordingData, recordingMeta } from './recordings';

const IdParams = Type.Object({ id: Id });
const pageSize = 20;

/** Recordings of runs, and marks people put on them. */
export const recordingRoutes: FastifyPluginAsyncTypebox<Context> = async (app, { db }) => {
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

  app.get('/recordings/:id', { schema: { tags: ['recordings'], params: IdParams, response: { 200: RecordingData, 404: Problem } } }, ({ params }) =>
    recordingData(db, params.id),
  );

  app.get('/recordings/:id/csv', { schema: { tags: ['recordings'], params: IdParams } }, async ({ params }, reply) => {
    const recording = await recordingData(db, params.id);
    const name = `${recording.meta.tag}-${recording.meta.startedAt.slice(0, 19).replace(/:/g, '')}.csv`;
    return reply
      .type('text/csv; charset=utf-8')
      .header('content-disposition', `attachment; filename="${name}"`)
      .send(`\ufeff${recordingCsv(recording)}`);
  });

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
      await db('recording_marks').insert({ recording_id: meta.id, time, label, author });
      await audit(db, author, 'mark recording', meta.tag, { recording: meta.id, time, label });
      return recordingMeta(db, meta.id);
    },
  );
};
