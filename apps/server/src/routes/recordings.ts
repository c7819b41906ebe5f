import { harmlessCell } from '@yare/commissioning';
import { Type } from '@sinclair/typebox';
import type { FastifyInstance } from 'fastify';
import Papa from 'papaparse';
import {
  Id,
  MarkRequest,
  Problem,
  RecordingData as RecordingDataSchema,
  RecordingMeta,
  RecordingPage,
  Tag,
  type RecordingData,
} from '@yare/contract';
import type { Context } from '../context';
import { audit, machineByTag } from '../machines';
import { authorOf } from '../people';
import { ProblemError } from '../problem';
import { listRecordings, recordingData, recordingMeta } from '../runs/recorder';

const IdParams = Type.Object({ id: Id });

/**
 * A recording as CSV: a heading with names and units, a row a sample, marks in the last column at the first sample not before them
 * (several joined by " | ").
 */
export function recordingCsv({ meta, time, data }: RecordingData): string {
  const marks = new Map<number, string[]>();
  for (const mark of meta.marks) {
    const at = time.findIndex((t) => t >= mark.time);
    const row = at === -1 ? time.length - 1 : at;
    marks.set(row, [...(marks.get(row) ?? []), mark.label]);
  }
  const fields = ['Time (s)', ...meta.channels.map((c) => `${c.name} (${c.unit})`), 'Mark'];
  const rows = time.map((t, i) => [
    t.toFixed(3),
    ...meta.channels.map((c) => data[c.key]![i]!.toFixed(c.decimals)),
    harmlessCell((marks.get(i) ?? []).join(' | ')),
  ]);
  return Papa.unparse({ fields, data: rows }, { newline: '\r\n' });
}

export async function recordingRoutes(app: FastifyInstance, { db }: Context): Promise<void> {
  app.get<{ Params: { tag: string }; Querystring: { before?: number } }>(
    '/machines/:tag/recordings',
    {
      schema: {
        tags: ['recordings'],
        params: Type.Object({ tag: Tag }),
        querystring: Type.Object({ before: Type.Optional(Id) }),
        response: { 200: RecordingPage, 404: Problem },
      },
    },
    async (request) => {
      const m = await machineByTag(db, request.params.tag);
      const rows = await listRecordings(db, m.id, request.query.before, 21);
      const page = rows.slice(0, 20);
      return { recordings: page, next: rows.length > 20 ? page[page.length - 1]!.id : null };
    },
  );

  app.get<{ Params: { id: number } }>(
    '/recordings/:id',
    { schema: { tags: ['recordings'], params: IdParams, response: { 200: RecordingDataSchema, 404: Problem } } },
    (request) => recordingData(db, request.params.id),
  );

  app.get<{ Params: { id: number } }>('/recordings/:id/csv', { schema: { tags: ['recordings'], params: IdParams } }, async (request, reply) => {
    const recording = await recordingData(db, request.params.id);
    const name = `${recording.meta.tag}-${recording.meta.startedAt.slice(0, 19).replace(/:/g, '')}.csv`;
    return reply
      .type('text/csv; charset=utf-8')
      .header('content-disposition', `attachment; filename="${name}"`)
      .send(`\ufeff${recordingCsv(recording)}`);
  });

  app.post<{ Params: { id: number }; Body: MarkRequest }>(
    '/recordings/:id/marks',
    { schema: { tags: ['recordings'], params: IdParams, body: MarkRequest, response: { 200: RecordingMeta, 404: Problem, 422: Problem } } },
    async (request) => {
      const meta = await recordingMeta(db, request.params.id);
      const author = authorOf(request.body);
      const { time, label } = request.body.mark;
      if (meta.complete && time > meta.duration)
        throw new ProblemError(422, 'Outside', `The recording ends at ${meta.duration.toFixed(1)} s; a mark at ${time.toFixed(1)} s lies outside.`, {
          field: 'time',
        });
      await db('recording_marks').insert({ recording_id: meta.id, time, label, author });
      await audit(db, author, 'mark recording', meta.tag, { recording: meta.id, time, label });
      return recordingMeta(db, meta.id);
    },
  );
}
