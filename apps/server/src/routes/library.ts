import type { FastifyInstance } from 'fastify';
import { Type } from '@sinclair/typebox';
import { allBooks, settingsOf } from '@yare/books';
import {
  MotorEdit,
  PhotoMeta,
  Problem,
  SavedMotor,
  ShortList,
  ShortListEdit,
  TagParams,
  type MotorEdit as MotorEditType,
  type ShortListEdit as ShortListEditType,
} from '@yare/contract';
import type { Context } from '../context';
import { audit, machineByTag } from '../machines';
import { authorOf } from '../people';
import { notFound, ProblemError } from '../problem';

type Row = Record<string, unknown> & { at: Date };
const told = <T>(row: Row): T => ({ ...row, at: row.at.toISOString() }) as T;
const IdParams = Type.Object({ id: Type.Integer({ minimum: 1, maximum: 2147483647 }) });
const BookParams = Type.Object({ bookId: Type.String({ maxLength: 40 }) });
/** The author travels in the address where the body is the picture itself. */
const PhotoQuery = Type.Object({ author: Type.String({ minLength: 1, maxLength: 60 }) });
const largestPhoto = 8 * 1024 * 1024;
const shortListFields = ['id', 'name', 'codes', 'author', 'at'];

/** First bytes of the pictures that are taken: what a browser calls a picture must be one. */
const isPicture = (type: string, data: Buffer): boolean =>
  type === 'image/png'
    ? data.subarray(0, 4).equals(Buffer.from([0x89, 0x50, 0x4e, 0x47]))
    : data.subarray(0, 3).equals(Buffer.from([0xff, 0xd8, 0xff]));

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
    { schema: { tags: ['library'], params: IdParams, querystring: PhotoQuery } },
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
        .limit(20)
        .select('id', 'type', 'author', 'at', db.raw('length(data) as bytes'))) as Row[];
      return rows.map((r) => told<PhotoMeta>(r));
    },
  );

  app.post<{ Params: { tag: string }; Querystring: { author: string }; Body: Buffer }>(
    '/machines/:tag/photos',
    {
      bodyLimit: largestPhoto,
      schema: { tags: ['library'], params: TagParams, querystring: PhotoQuery, response: { 200: PhotoMeta, 404: Problem, 415: Problem } },
    },
    async (request) => {
      const m = await machineByTag(db, request.params.tag);
      const type = (request.headers['content-type'] ?? '').split(';')[0]!;
      if (!Buffer.isBuffer(request.body) || !isPicture(type, request.body))
        throw new ProblemError(415, 'No picture', 'A photo of the plate must be a JPEG or PNG picture.');
      const author = authorOf(request.query);
      const [row] = (await db('photos')
        .insert({ machine_id: m.id, type, data: request.body, author })
        .returning(['id', 'type', 'author', 'at', db.raw('length(data) as bytes')])) as Row[];
      await audit(db, author, 'photo of the plate', m.tag, { photo: row!.id, bytes: row!.bytes });
      return told<PhotoMeta>(row!);
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
