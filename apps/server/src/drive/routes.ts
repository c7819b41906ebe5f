import { Type, type FastifyPluginAsyncTypebox } from '@fastify/type-provider-typebox';
import { AuthorOnly, DriveEdit, Problem, Sheet, TagParams } from '@yare/contract';
import { audited } from '../audit/audit';
import { authorOf } from '../audit/people';
import { linkFailed, refuseUnknownDrive, type Context } from '../context';
import { refuseWhileLocked } from '../lock/locks';
import { machineByTag } from '../machines/machines';
import { notFound } from '../problem';
import { noteInDrive } from '../sheets/sheets';
import { changeDrive } from './changeDrive';

/** Which drive stands at a machine, what it holds and what it keeps. */
export const driveRoutes: FastifyPluginAsyncTypebox<Context> = async (app, { db, fleet, claims }) => {
  app.put(
    '/machines/:tag/drive',
    { schema: { tags: ['drive'], params: TagParams, body: DriveEdit, response: { 200: Sheet, 404: Problem, 409: Problem, 422: Problem } } },
    async ({ params, body }) => {
      const { id, tag } = await machineByTag(db, params.tag);
      const author = authorOf(body);
      const { bookId, size, region } = body;
      refuseUnknownDrive(bookId, size);
      return claims.during(tag, author, 'drive', async () => {
        const { draft, another } = await changeDrive(db, id, { author, bookId, size, region });
        if (another) fleet.relink({ tag, bookId, size, region });
        return draft;
      });
    },
  );

  app.post(
    '/machines/:tag/read',
    { schema: { tags: ['drive'], params: TagParams, body: AuthorOnly, response: { 200: Sheet, 404: Problem, 409: Problem, 424: Problem } } },
    async ({ params, body }) => {
      const { tag } = await machineByTag(db, params.tag);
      const author = authorOf(body);
      return claims.during(tag, author, 'read', async () => {
        // the claim keeps the drive of the record where it is from here on
        const m = await machineByTag(db, tag);
        const values = await fleet
          .stationOf(tag)
          .link.readSettings()
          .catch((error: unknown) => linkFailed(m, error, 'What was last read is still shown. Check its power and the link, then read again.'));
        const sheet = await noteInDrive(db, m, author, values);
        if (!sheet) throw notFound(`drive of ${tag} any more`);
        return sheet;
      });
    },
  );

  app.post(
    '/machines/:tag/keep',
    {
      schema: {
        tags: ['drive'],
        params: TagParams,
        body: AuthorOnly,
        response: { 200: Type.Object({ kept: Type.Boolean() }), 404: Problem, 409: Problem, 423: Problem, 424: Problem },
      },
    },
    async ({ params, body }) => {
      const { tag } = await machineByTag(db, params.tag);
      const author = authorOf(body);
      return claims.during(tag, author, 'keep', async () => {
        const m = await machineByTag(db, tag);
        await refuseWhileLocked(db, m);
        const keep = async () => ({ kept: await fleet.stationOf(tag).link.keep() });
        return audited(db, author, 'keep in drive', tag, {}, keep, (r) => r).catch((error: unknown) =>
          linkFailed(m, error, 'Whether it kept anything is not known: what it holds in working memory may be gone at power-off.'),
        );
      });
    },
  );
};
