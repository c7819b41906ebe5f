import Fastify, { type FastifyInstance, type FastifyReply } from 'fastify';
import { BenchAct, BenchStand, hostnameOf, isLoopback } from '@yare/contract';
import type { PlantSide } from './plantSide';

/**
 * The plant side over HTTP on loopback: panels, handles and faults. It stands apart from the Modbus server on purpose: nothing that crosses
 * here reaches a drive's registers but through its wires.
 */
export async function servePlant(
  sides: ReadonlyMap<string, PlantSide>,
  put: (stand: BenchStand) => PlantSide,
  host: string,
  port: number,
): Promise<{ port: number; app: FastifyInstance }> {
  /** Does something to a machine and shows how it stands; what it refuses is told. */
  const shown = (reply: FastifyReply, work: () => PlantSide) => {
    try {
      return work().view();
    } catch (error) {
      if (!(error instanceof RangeError)) throw error;
      return reply.status(422).send({ sentence: error.message });
    }
  };
  const app = Fastify({ forceCloseConnections: true, ajv: { customOptions: { strict: false, removeAdditional: false, coerceTypes: false } } });
  // a page whose name was made to lead here must not work the panels
  app.addHook('onRequest', async (request, reply) => {
    const name = hostnameOf(request.headers.host);
    if (name === null || !(isLoopback(name) || name === host)) return reply.status(421).send({ sentence: 'The bench does not go by that name.' });
  });
  app.get<{ Params: { tag: string } }>('/machines/:tag', async (request, reply) => {
    const side = sides.get(request.params.tag);
    return side ? side.view() : reply.status(404).send({ sentence: `The bench has no ${request.params.tag}.` });
  });
  app.get<{ Params: { tag: string; id: string } }>('/machines/:tag/readings/:id', async (request, reply) => {
    const side = sides.get(request.params.tag);
    if (!side) return reply.status(404).send({ sentence: `The bench has no ${request.params.tag}.` });
    try {
      return { outcome: side.measure(request.params.id) };
    } catch (error) {
      if (!(error instanceof RangeError)) throw error;
      return reply.status(404).send({ sentence: error.message });
    }
  });
  app.post<{ Params: { tag: string }; Body: BenchAct }>('/machines/:tag', { schema: { body: BenchAct } }, async (request, reply) => {
    const side = sides.get(request.params.tag);
    if (!side) return reply.status(404).send({ sentence: `The bench has no ${request.params.tag}.` });
    return shown(reply, () => {
      side.act(request.body, performance.now());
      return side;
    });
  });
  app.put<{ Body: BenchStand }>('/machines', { schema: { body: BenchStand } }, async (request, reply) => shown(reply, () => put(request.body)));
  await app.listen({ host, port });
  const address = app.server.address();
  return { port: typeof address === 'object' && address ? address.port : port, app };
}
