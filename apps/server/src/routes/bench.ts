import { Type } from '@sinclair/typebox';
import type { FastifyInstance } from 'fastify';
import { AuthorOnly, BenchAct, type BenchStand, BenchView, Problem, Tag, TripMemory, type TripMemory as TripMemoryType } from '@yare/contract';
import type { Context } from '../context';
import { audited, detailOf, machineByTag } from '../machines';
import { authorOf } from '../people';
import { ProblemError } from '../problem';

const TagParams = Type.Object({ tag: Tag });
const answerWithin = 1500;

/** What of an act is worth a line in the audit: faults and pace, not every turn of a valve. */
const noted = (act: BenchAct): boolean => act.fault !== undefined || act.pace !== undefined;

const sent = (method: string, body: object) => ({ method, headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });

/** The plant side of the bench, handed through. A plant with real drives has none, and says so. */
export async function benchRoutes(app: FastifyInstance, { db, claims }: Context, plant: { host: string; port: number } | undefined): Promise<void> {
  const ask = async <T = BenchView>(path: string, init?: RequestInit): Promise<T> => {
    if (!plant) throw new ProblemError(404, 'No bench', 'There is no bench here: the drives of this plant are real.');
    let response: Response;
    try {
      response = await fetch(`http://${plant.host}:${plant.port}/machines${path}`, { ...init, signal: AbortSignal.timeout(answerWithin) });
    } catch {
      throw new ProblemError(424, 'Bench away', 'The bench does not answer. Whether anything was done at the machine is not sure: look again.');
    }
    const body = (await response.json()) as T & { sentence?: string; message?: string };
    if (!response.ok)
      throw new ProblemError(
        response.status < 500 ? response.status : 424,
        'Not at the bench',
        body.sentence ?? body.message ?? 'The bench refused.',
      );
    return body;
  };

  app.get<{ Params: { tag: string } }>(
    '/machines/:tag/bench',
    { schema: { tags: ['bench'], params: TagParams, response: { 200: BenchView, 404: Problem, 424: Problem } } },
    async (request) => ask(`/${(await machineByTag(db, request.params.tag)).tag}`),
  );

  app.get<{ Params: { tag: string } }>(
    '/machines/:tag/bench/trip',
    { schema: { tags: ['bench'], params: TagParams, response: { 200: TripMemory, 404: Problem, 424: Problem } } },
    async (request) => ask<TripMemoryType>(`/${(await machineByTag(db, request.params.tag)).tag}/trip`),
  );

  app.post<{ Params: { tag: string }; Body: BenchAct }>(
    '/machines/:tag/bench',
    { schema: { tags: ['bench'], params: TagParams, body: BenchAct, response: { 200: BenchView, 404: Problem, 422: Problem, 424: Problem } } },
    async (request) => {
      const { tag } = await machineByTag(db, request.params.tag);
      const author = authorOf(request.body);
      const { fault = null, pace = null } = request.body;
      const act = () => ask(`/${tag}`, sent('POST', request.body));
      return noted(request.body) ? audited(db, author, 'bench', tag, { fault, pace }, act) : act();
    },
  );

  app.put<{ Params: { tag: string }; Body: { author: string } }>(
    '/machines/:tag/bench',
    {
      schema: {
        tags: ['bench'],
        params: TagParams,
        body: AuthorOnly,
        response: { 200: BenchView, 404: Problem, 409: Problem, 422: Problem, 424: Problem },
      },
    },
    async (request) => {
      const { tag } = await machineByTag(db, request.params.tag);
      const author = authorOf(request.body);
      return claims.during(tag, author, 'bench', async () => {
        const { name, area, bookId, size, region, supply, unit, driven, plate } = await detailOf(db, await machineByTag(db, tag));
        const stand = { tag, name, area, bookId, size, region, supply, unit, driven, plate: plate.plate } as BenchStand;
        return audited(db, author, 'put on the bench', tag, { unit }, () => ask('', sent('PUT', stand)));
      });
    },
  );
}
