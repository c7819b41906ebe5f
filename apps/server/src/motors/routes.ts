import { Type, type FastifyPluginAsyncTypebox } from '@fastify/type-provider-typebox';
import { Author, Id, MotorEdit, Problem, SavedMotor } from '@yare/contract';
import { audit } from '../audit/audit';
import { authorOf } from '../audit/people';
import type { Context } from '../context';
import { json } from '../db/tables';
import { at } from '../db/time';
import { notFound, ProblemError } from '../problem';

const mostMotors = 500;

/** Motors kept for the next machine. */
export const motorRoutes: FastifyPluginAsyncTypebox<Context> = async (app, { db }) => {
  app.get('/motors', { schema: { tags: ['library'], response: { 200: Type.Array(SavedMotor) } } }, async () =>
    (await db('motors').orderBy('name').limit(mostMotors)).map(at),
  );

  app.post('/motors', { schema: { tags: ['library'], body: MotorEdit, response: { 200: SavedMotor, 409: Problem } } }, async ({ body }) => {
    const name = body.name.trim();
    const author = authorOf(body);
    const row = await db.transaction(async (trx) => {
      const [saved] = await trx('motors')
        .insert({ name, plate: json(body.plate), author })
        .onConflict('name')
        .ignore()
        .returning('*');
      if (saved) await audit(trx, author, 'save motor', null, { name });
      return saved;
    });
    if (!row) throw new ProblemError(409, 'Name taken', `A motor called “${name}” is saved already. Give this one another name.`, { field: 'name' });
    return at(row);
  });

  app.delete(
    '/motors/:id',
    { schema: { tags: ['library'], params: Type.Object({ id: Id }), querystring: Type.Object({ author: Author }) } },
    async ({ params, query }) => {
      await db.transaction(async (trx) => {
        const [row] = await trx('motors').where({ id: params.id }).delete().returning(['name']);
        if (!row) throw notFound('saved motor');
        await audit(trx, authorOf(query), 'remove saved motor', null, row);
      });
      return {};
    },
  );
};
