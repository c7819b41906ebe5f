import type { FastifyPluginAsyncTypebox } from '@fastify/type-provider-typebox';
import { orNull, Problem, SurveyEdit, SurveyRevision, TagParams } from '@yare/contract';
import { authorOf } from '../audit/people';
import type { Context } from '../context';
import { revise } from '../documents/documents';
import { machineByTag } from '../machines/machines';
import { surveyDocument, surveyOf } from './survey';

/** What was found at the machine before anything was connected. */
export const surveyRoutes: FastifyPluginAsyncTypebox<Context> = async (app, { db }) => {
  app.get(
    '/machines/:tag/survey',
    { schema: { tags: ['plan'], params: TagParams, response: { 200: orNull(SurveyRevision), 404: Problem } } },
    async ({ params }) => surveyOf(db, (await machineByTag(db, params.tag)).id),
  );

  app.put(
    '/machines/:tag/survey',
    { schema: { tags: ['plan'], params: TagParams, body: SurveyEdit, response: { 200: SurveyRevision, 404: Problem, 409: Problem } } },
    async ({ params, body }) => {
      const { id } = await machineByTag(db, params.tag);
      return revise(db, surveyDocument, id, { revision: body.revision, author: authorOf(body) }, () => body.survey);
    },
  );
};
