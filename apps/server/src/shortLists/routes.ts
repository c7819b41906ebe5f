import { Type, type FastifyPluginAsyncTypebox } from '@fastify/type-provider-typebox';
import { allBooks } from '@yare/books';
import { Id, Problem, ShortList, ShortListEdit, Text } from '@yare/contract';
import { authorOf } from '../audit/people';
import type { Context } from '../context';
import { json } from '../db/tables';
import { at } from '../db/time';
import { notFound, ProblemError } from '../problem';

const BookParams = Type.Object({ bookId: Text(40) });
const told = ['id', 'name', 'codes', 'author', 'at'] as const;
const mostLists = 100;

/** Short lists of settings people want to see together, by drive family. */
export const shortListRoutes: FastifyPluginAsyncTypebox<Context> = async (app, { db }) => {
  app.get(
    '/books/:bookId/short-lists',
    { schema: { tags: ['settings'], params: BookParams, response: { 200: Type.Array(ShortList) } } },
    async ({ params }) =>
      (
        await db('short_lists')
          .where({ book_id: params.bookId })
          .orderBy('name')
          .limit(mostLists)
          .select(...told)
      ).map(at),
  );

  app.put(
    '/books/:bookId/short-lists',
    { schema: { tags: ['settings'], params: BookParams, body: ShortListEdit, response: { 200: ShortList, 404: Problem, 422: Problem } } },
    async ({ params, body }) => {
      const book = allBooks().find((b) => b.id === params.bookId);
      if (!book) throw notFound(`drive book ${params.bookId}`);
      const known = new Set(book.settings.map((s) => s.code));
      const unknown = body.codes.find((c) => !known.has(c));
      if (unknown) throw new ProblemError(422, 'No such setting', `${book.family} has no setting ${unknown}.`, { field: 'codes' });
      const [row] = await db('short_lists')
        .insert({ book_id: book.id, name: body.name.trim(), codes: json([...new Set(body.codes)]), author: authorOf(body), at: new Date() })
        .onConflict(['book_id', 'name'])
        .merge()
        .returning([...told]);
      if (!row) throw notFound('short list');
      return at(row);
    },
  );

  app.delete('/short-lists/:id', { schema: { tags: ['settings'], params: Type.Object({ id: Id }) } }, async ({ params }) => {
    if ((await db('short_lists').where({ id: params.id }).delete()) === 0) throw notFound('short list');
    return {};
  });
};
