import type { FastifyInstance } from 'fastify';
import { Type } from '@sinclair/typebox';
import { allBooks, settingsOf } from '@yare/books';
import {
  Author,
  Id,
  MotorEdit,
  PhotoMeta,
  Problem,
  SavedMotor,
  ShortList,
  ShortListEdit,
  TagParams,
  Text,
  type MotorEdit as MotorEditType,
  type ShortListEdit as ShortListEditType,
} from '@yare/contract';
import type { Context } from '../context';
import type { Db } from '../db/connect';
import { audit, machineByTag } from '../machines';
import { authorOf } from '../people';
import { mostPhotoBytes, mostPhotos, pictureOf } from '../photos';
import { notFound, ProblemError } from '../problem';

type Row = Record<string, unknown> & { at: Date };
const told = <T>(row: Row): T => ({ ...row, at: row.at.toISOString() }) as T;
const IdParams = Type.Object({ id: Id });
const BookParams = Type.Object({ bookId: Text(40) });
/** The author travels in the address where the body is the picture itself. */
const AuthorQuery = Type.Object({ author: Author });
const largestPhoto = 8 * 1024 * 1024;
const shortListFields = ['id', 'name', 'codes', 'author', 'at'];

/** @throws ProblemError 409 when a machine has all the photos it may, or the plant */
async function refuseTooMany(trx: Db, m: { id: number; tag: string }): Promise<void> {
  const { count } = (await trx('photos').where({ machine_id: m.id }).count('id as count').first()) as { count: string };
  if (Number(count) >= mostPhotos)
    throw new ProblemError(
      409,
      'Enough photos',
      `${m.tag} has ${mostPhotos} photos, which is all there is room for. Remove one, then take this one again.`,
    );
  const { bytes } = (await trx('photos')
    .sum({ bytes: trx.raw('length(data)') })
    .first()) as { bytes: string | null };
  if (Number(bytes ?? 0) >= mostPhotoBytes)
    throw new ProblemError(
      409,
      'Enough photos',
      `The photos of all machines take ${Math.round(mostPhotoBytes / 1e6)} MB, which is all there is room for. Remove some first.`,
    );
}

/** What is kept for reuse: motors, photos of plates, short lists of settings. */
export async function libraryRoutes(app: FastifyInstance, { db }: Context): Promise<void> {
  app.get('/motors', { schema: { tags: ['library'], response: { 200: Type.Array(SavedMotor) } } }, async () =>
    ((await db('motors').orderBy('name').limit(500)) as Row[]).map((r) => told<SavedMotor>(r)),
  );

  app.post<{ Body: MotorEditType }>(
    '/motors',
    { schema: { tags: ['library'], body: MotorEdit, response: { 200: SavedMotor, 409: Problem } } },
    async (request) => {
      const name = request.body.name.trim();
      const author = authorOf(request.body);
      const [row] = (await db('motors')
        .insert({ name, plate: JSON.stringify(request.body.plate), author })
        .onConflict('name')
        .ignore()
        .returning('*')) as Row[];
      if (!row)
        throw new ProblemError(409, 'Name taken', `A motor called “${name}” is saved already. Give this one another name.`, { field: 'name' });
      await audit(db, author, 'save motor', null, { name });
      return told<SavedMotor>(row);
    },
  );

  app.delete<{ Params: { id: number }; Querystring: { author: string } }>(
    '/motors/:id',
    { schema: { tags: ['library'], params: IdParams, querystring: AuthorQuery } },
    async (request) => {
      const [row] = (await db('motors').where({ id: request.params.id }).delete().returning('name')) as Array<{ name: string }>;
      if (!row) throw notFound('saved motor');
      await audit(db, authorOf(request.query), 'remove saved motor', null, row);
      return {};
    },
  );

  app.addContentTypeParser(['image/jpeg', 'image/png'], { parseAs: 'buffer', bodyLimit: largestPhoto }, (_request, body, done) => done(null, body));

  app.get<{ Params: { tag: string } }>(
    '/machines/:tag/photos',
    { schema: { tags: ['library'], params: TagParams, response: { 200: Type.Array(PhotoMeta), 404: Problem } } },
    async (request) => {
      const m = await machineByTag(db, request.params.tag);
      const rows = (await db('photos')
        .where({ machine_id: m.id })
        .orderBy('id', 'desc')
        .limit(mostPhotos)
        .select('id', 'type', 'author', 'at', db.raw('length(data) as bytes'))) as Row[];
      return rows.map((r) => told<PhotoMeta>(r));
    },
  );

  app.post<{ Params: { tag: string }; Querystring: { author: string }; Body: Buffer }>(
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
    async (request) => {
      const m = await machineByTag(db, request.params.tag);
      const data = await pictureOf(request.body);
      const author = authorOf(request.query);
      return db.transaction(async (trx) => {
        // two that come at once are counted one after the other
        await trx.raw('LOCK TABLE photos IN EXCLUSIVE MODE');
        await refuseTooMany(trx, m);
        const [row] = (await trx('photos')
          .insert({ machine_id: m.id, type: 'image/jpeg', data, author })
          .returning(['id', 'type', 'author', 'at', db.raw('length(data) as bytes')])) as Row[];
        await audit(trx, author, 'photo of the plate', m.tag, { photo: row!.id, bytes: row!.bytes });
        return told<PhotoMeta>(row!);
      });
    },
  );

  app.delete<{ Params: { id: number }; Querystring: { author: string } }>(
    '/photos/:id',
    { schema: { tags: ['library'], params: IdParams, querystring: AuthorQuery, response: { 404: Problem } } },
    async (request) => {
      const { id } = request.params;
      await db.transaction(async (trx) => {
        const [row] = (await trx('photos').where({ id }).delete().returning(['machine_id', 'author', 'at'])) as Array<{
          machine_id: number;
          author: string;
          at: Date;
        }>;
        if (!row) throw notFound('such photo');
        const { tag } = (await trx('machines').where({ id: row.machine_id }).first('tag')) as { tag: string };
        await audit(trx, authorOf(request.query), 'remove photo', tag, { photo: id, takenBy: row.author, at: row.at.toISOString() });
      });
      return {};
    },
  );

  app.get<{ Params: { id: number } }>('/photos/:id', { schema: { tags: ['library'], params: IdParams } }, async (request, reply) => {
    const row = (await db('photos').where({ id: request.params.id }).first('type', 'data')) as { type: string; data: Buffer } | undefined;
    if (!row) throw notFound('photo');
    return reply.type(row.type).header('cache-control', 'private, max-age=31536000, immutable').send(row.data);
  });

  app.get<{ Params: { bookId: string } }>(
    '/books/:bookId/short-lists',
    { schema: { tags: ['settings'], params: BookParams, response: { 200: Type.Array(ShortList) } } },
    async (request) =>
      ((await db('short_lists').where({ book_id: request.params.bookId }).orderBy('name').limit(100).select(shortListFields)) as Row[]).map((r) =>
        told<ShortList>(r),
      ),
  );

  app.put<{ Params: { bookId: string }; Body: ShortListEditType }>(
    '/books/:bookId/short-lists',
    { schema: { tags: ['settings'], params: BookParams, body: ShortListEdit, response: { 200: ShortList, 422: Problem } } },
    async (request) => {
      const book = allBooks().find((b) => b.id === request.params.bookId);
      if (!book) throw notFound(`drive book ${request.params.bookId}`);
      const { codes } = request.body;
      const known = new Set(settingsOf(book, book.ratings[0]!.size).map((s) => s.code));
      const unknown = codes.find((c) => !known.has(c));
      if (unknown) throw new ProblemError(422, 'No such setting', `${book.family} has no setting ${unknown}.`, { field: 'codes' });
      const author = authorOf(request.body);
      const [row] = (await db('short_lists')
        .insert({ book_id: book.id, name: request.body.name.trim(), codes: JSON.stringify([...new Set(codes)]), author, at: new Date() })
        .onConflict(['book_id', 'name'])
        .merge()
        .returning(shortListFields)) as Row[];
      return told<ShortList>(row!);
    },
  );

  app.delete<{ Params: { id: number } }>('/short-lists/:id', { schema: { tags: ['settings'], params: IdParams } }, async (request) => {
    if ((await db('short_lists').where({ id: request.params.id }).delete()) === 0) throw notFound('short list');
    return {};
  });
}
