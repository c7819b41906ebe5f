import { Type, type FastifyPluginAsyncTypebox } from '@fastify/type-provider-typebox';
import { Author, Id, PhotoMeta, Problem, TagParams } from '@yare/contract';
import { begun } from '../aside/aside';
import { audit } from '../audit/audit';
import { authorOf } from '../audit/people';
import type { Context } from '../context';
import { urlOf, type Db } from '../db/connect';
import { at } from '../db/time';
import { machineByTag } from '../machines/machines';
import { notFound, ProblemError } from '../problem';
import { mostPhotoBytes, mostPhotos } from './pictures';

const IdParams = Type.Object({ id: Id });
/** The author travels in the address where the body is the picture itself. */
const AuthorQuery = Type.Object({ author: Author });
const largestPhoto = 8 * 1024 * 1024;

/** Photos of a machine without their pictures, newest first. */
async function photosOf(db: Db, machineId: number): Promise<PhotoMeta[]> {
  const rows = await db('photos')
    .where({ machine_id: machineId })
    .orderBy('id', 'desc')
    .limit(mostPhotos)
    .select<Array<Omit<PhotoMeta, 'at'> & { at: Date }>>(['id', 'type', 'author', 'at', db.raw('length(data) as bytes')]);
  return rows.map(at);
}

/** @throws ProblemError 409 when a machine has all the photos it may, or the plant */
async function refuseTooMany(trx: Db, m: { id: number; tag: string }): Promise<void> {
  const [of] = await trx('photos').where({ machine_id: m.id }).count({ count: 'id' });
  if (Number(of?.count ?? 0) >= mostPhotos)
    throw new ProblemError(
      409,
      'Enough photos',
      `${m.tag} has ${mostPhotos} photos, which is all there is room for. Remove one, then take this one again.`,
    );
  const all = await trx.raw<{ rows: Array<{ bytes: string | null }> }>('select sum(length(data)) as bytes from photos');
  if (Number(all.rows[0]?.bytes ?? 0) >= mostPhotoBytes)
    throw new ProblemError(
      409,
      'Enough photos',
      `The photos of all machines take ${Math.round(mostPhotoBytes / 1e6)} MB, which is all there is room for. Remove some first.`,
    );
}

/** Photos of plates and machines. */
export const photoRoutes: FastifyPluginAsyncTypebox<Context> = async (app, { db, aside, pictures }) => {
  app.addContentTypeParser(
    ['image/jpeg', 'image/png', 'image/webp', 'image/heic', 'image/heif'],
    { parseAs: 'buffer', bodyLimit: largestPhoto },
    (_request, body, done) => done(null, body),
  );

  app.get(
    '/machines/:tag/photos',
    { schema: { tags: ['library'], params: TagParams, response: { 200: Type.Array(PhotoMeta), 404: Problem } } },
    async ({ params }) => photosOf(db, (await machineByTag(db, params.tag)).id),
  );

  app.post(
    '/machines/:tag/photos',
    {
      bodyLimit: largestPhoto,
      schema: {
        tags: ['library'],
        params: TagParams,
        querystring: AuthorQuery,
        response: { 200: PhotoMeta, 404: Problem, 409: Problem, 415: Problem },
      },
    },
    async ({ params, query, body }) => {
      const m = await machineByTag(db, params.tag);
      const data = await pictures.picture(body);
      const author = authorOf(query);
      return db.transaction(async (trx) => {
        // two that come at once are counted one after the other
        await trx.raw('LOCK TABLE photos IN EXCLUSIVE MODE');
        await refuseTooMany(trx, m);
        await trx('photos').insert({ machine_id: m.id, type: 'image/jpeg', data, author });
        const [photo] = await photosOf(trx, m.id);
        if (!photo) throw notFound('such photo');
        await audit(trx, author, 'photo of the plate', m.tag, { photo: photo.id, bytes: photo.bytes });
        return photo;
      });
    },
  );

  app.delete(
    '/photos/:id',
    { schema: { tags: ['library'], params: IdParams, querystring: AuthorQuery, response: { 200: Type.Object({}), 404: Problem } } },
    async ({ params: { id }, query }) => {
      await db.transaction(async (trx) => {
        const [row] = await trx('photos').where({ id }).delete().returning(['machine_id', 'author', 'at']);
        if (!row) throw notFound('such photo');
        const m = await trx('machines').where({ id: row.machine_id }).first('tag');
        await audit(trx, authorOf(query), 'remove photo', m?.tag ?? null, { photo: id, takenBy: row.author, at: row.at.toISOString() });
      });
      return {};
    },
  );

  app.get('/photos/:id', { schema: { tags: ['library'], params: IdParams } }, async ({ params }, reply) => {
    const row = await db('photos').where({ id: params.id }).first('type');
    if (!row) throw notFound('photo');
    // megabytes out of the database are unpacked aside
    const picture = await begun(aside.make('photo', { database: urlOf(db), id: params.id }));
    return reply.type(row.type).header('cache-control', 'private, max-age=31536000, immutable').send(picture);
  });
};
