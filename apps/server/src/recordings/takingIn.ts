import type { Readable } from 'node:stream';
import type { FastifyPluginAsyncTypebox } from '@fastify/type-provider-typebox';
import { Problem, RecordingImport, RecordingMeta, TagParams } from '@yare/contract';
import type { Context } from '../context';
import { urlOf } from '../db/connect';
import { machineByTag } from '../machines/machines';
import { ProblemError } from '../problem';
import { tooLarge } from './imported';
import { recordingMeta } from './recordings';

/** Bytes a recording of another instrument may be sent with: hours of several channels. */
const largestFile = 48 * 1024 * 1024;

/** Takes in recordings of other instruments: a body of such a size goes on by pieces, as it comes, to be read and judged aside. */
export const takingIn: FastifyPluginAsyncTypebox<Context> = async (app, { db, aside }) => {
  const usual = app.validatorCompiler;
  // a body of any other kind would come as text, and not by pieces
  app.removeAllContentTypeParsers();
  app.addContentTypeParser('application/json', (_request, payload, done) => done(null, payload));
  app.setValidatorCompiler((route) => (route.httpPart === 'body' || !usual ? () => true : usual(route)));

  app.post(
    '/machines/:tag/recordings',
    {
      schema: { tags: ['recordings'], params: TagParams, body: RecordingImport, response: { 200: RecordingMeta, 404: Problem, 422: Problem } },
    },
    async (request) => {
      const m = await machineByTag(db, request.params.tag);
      if (!request.body) throw new ProblemError(400, 'Bad input', 'The request holds no recording. Nothing was taken in.');
      if (Number(request.headers['content-length'] ?? 0) > largestFile) throw tooLarge(largestFile);
      const { device, address } = request.actor;
      const input = { database: urlOf(db), machine: { id: m.id, tag: m.tag }, actor: { device, address }, largest: largestFile };
      const id = await aside.take('takeIn', input, request.body as unknown as Readable);
      return recordingMeta(db, id);
    },
  );
};
