import { Type, type FastifyPluginAsyncTypebox } from '@fastify/type-provider-typebox';
import { DraftEdit, Id, Problem, SettingsFile, Sheet, SheetKind, SheetRevisionPage, Sheets, TagParams } from '@yare/contract';
import { authorOf } from '../audit/people';
import type { Context } from '../context';
import { revise } from '../documents/documents';
import { machineByTag } from '../machines/machines';
import { notFound } from '../problem';
import { revisionsOf } from './revisions';
import { draftDocument, draftOf, editedDraft, latestSheet, sheetAt } from './sheets';

/** Settings sheets: the draft and its edits, what the drive holds, and what was before. */
export const sheetRoutes: FastifyPluginAsyncTypebox<Context> = async (app, { db }) => {
  app.get(
    '/machines/:tag/sheets',
    { schema: { tags: ['sheets'], params: TagParams, response: { 200: Sheets, 404: Problem } } },
    async ({ params }) => {
      const m = await machineByTag(db, params.tag);
      const [draft, inDrive, asFound] = await Promise.all([draftOf(db, m), latestSheet(db, m, 'in drive'), latestSheet(db, m, 'as found')]);
      return { draft, inDrive, asFound };
    },
  );

  app.get('/schemas/settings-file', { schema: { tags: ['sheets'] } }, async () => SettingsFile);

  app.put(
    '/machines/:tag/draft',
    { schema: { tags: ['sheets'], params: TagParams, body: DraftEdit, response: { 200: Sheet, 404: Problem, 409: Problem, 422: Problem } } },
    async ({ params, body }) => {
      const { id } = await machineByTag(db, params.tag);
      const author = authorOf(body);
      return revise(db, draftDocument(body.changes), id, { revision: body.revision, author }, (m, draft) => {
        if (!draft) throw notFound('draft of this machine');
        return editedDraft(m, draft, body.changes, author);
      });
    },
  );

  app.get(
    '/machines/:tag/revisions',
    {
      schema: {
        tags: ['sheets'],
        params: TagParams,
        querystring: Type.Object({ before: Type.Optional(Id) }),
        response: { 200: SheetRevisionPage, 404: Problem },
      },
    },
    async ({ params, query }) => revisionsOf(db, await machineByTag(db, params.tag), query.before),
  );

  app.get(
    '/machines/:tag/revisions/:kind/:revision',
    {
      schema: {
        tags: ['sheets'],
        params: Type.Composite([TagParams, Type.Object({ kind: SheetKind, revision: Id })]),
        response: { 200: Sheet, 404: Problem },
      },
    },
    async ({ params: { tag, kind, revision } }) => {
      const m = await machineByTag(db, tag);
      return sheetAt(db, m, kind, revision);
    },
  );
};
