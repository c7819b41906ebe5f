import { Type, type FastifyPluginAsyncTypebox } from '@fastify/type-provider-typebox';
import { AuthorOnly, DeviceView, Here, Id, PairRequest, Problem } from '@yare/contract';
import type { Context } from '../context';
import { unusedFor } from './devices';
import { deviceCookie } from '../door/door';
import { audit } from '../audit/audit';
import { authorOf } from '../audit/people';
import { notFound } from '../problem';

/** How the cookie of a paired device is set: for this server, its own pages and HTTPS only, as long as it is used now and then. */
const asCookie = { path: '/', httpOnly: true, secure: true, sameSite: 'strict', maxAge: unusedFor / 1000 } as const;

/** Which devices may use this server. */
export const deviceRoutes: FastifyPluginAsyncTypebox<Context & { online: (device: number) => boolean }> = async (app, { db, devices, online }) => {
  app.get(
    '/devices/here',
    { config: { openToAll: true, needsNoDatabase: true }, schema: { tags: ['devices'], response: { 200: Here } } },
    async ({ local, actor, cookies }, reply): Promise<Here> => {
      const token = cookies[deviceCookie];
      // every start of the page carries it on
      if (actor.device && token) void reply.setCookie(deviceCookie, token, asCookie);
      return { allowed: local || actor.device !== null, local, device: actor.device?.name ?? null };
    },
  );

  app.post(
    '/devices/pair',
    {
      config: { openToAll: true },
      schema: { tags: ['devices'], body: PairRequest, response: { 200: Here, 400: Problem, 403: Problem } },
    },
    async (request, reply): Promise<Here> => {
      const { address } = request.actor;
      const { device, token } = await devices.pair(request.body.code, request.body.name.trim() || 'Unnamed device', address);
      // from here on it is that device which acts
      request.actor.device = device;
      await audit(db, device.name, 'pair device', null, { device: device.id });
      void reply.setCookie(deviceCookie, token, asCookie);
      return { allowed: true, local: request.local, device: device.name };
    },
  );

  app.get('/devices', { schema: { tags: ['devices'], response: { 200: Type.Array(DeviceView) } } }, async (request): Promise<DeviceView[]> =>
    (await devices.list()).map((d) => ({
      id: d.id,
      name: d.name,
      pairedAt: d.paired_at.toISOString(),
      lastUsed: d.last_used.toISOString(),
      address: d.address,
      self: d.id === request.actor.device?.id,
      online: online(d.id),
    })),
  );

  app.post(
    '/devices/:id/put-out',
    {
      config: { needsNoRoom: true },
      schema: { tags: ['devices'], params: Type.Object({ id: Id }), body: AuthorOnly, response: { 200: Type.Object({}), 404: Problem } },
    },
    async (request) => {
      const author = authorOf(request.body);
      const device = await devices.putOut(request.params.id, author);
      if (!device) throw notFound('such paired device');
      await audit(db, author, 'put out device', null, { device: device.id, name: device.name });
      return {};
    },
  );
};
