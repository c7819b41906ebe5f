import fp from 'fastify-plugin';
import cookie from '@fastify/cookie';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import { hostnameOf, isLoopback } from '@yare/contract';
import { actingFor, type Actor } from './actor';
import type { Devices } from '../devices/devices';
import { notFound, ProblemError } from '../problem';

export interface DoorOptions {
  /** names and addresses this server is called by, besides loopback */
  names: readonly string[];
  /** whether the server's own computer needs no pairing */
  trustLoopback: boolean;
}

/** The cookie a paired device is known by: bound to this host, over HTTPS only. */
export const deviceCookie = '__Host-yare-device';

declare module 'fastify' {
  interface FastifyRequest {
    actor: Actor;
    /** from the server's own computer, and trusted as that */
    local: boolean;
  }
  interface FastifyContextConfig {
    /** whether a stranger is answered here; no route is unless it says so */
    openToAll?: boolean;
    /** what only clears up or stops something, and is done on a full disk too */
    needsNoRoom?: boolean;
    /** what is answered, or stopped, while the database is away; anything else is told so at once */
    needsNoDatabase?: boolean;
  }
}

const plainAddress = (address: string): string => address.replace(/^::ffff:/, '');

/** The origin a page of this server has, as the request was made. */
export const ownOrigin = (request: Pick<FastifyRequest, 'protocol' | 'headers'>): string => `${request.protocol}://${request.headers.host}`;

/** Whose page a request comes from, as browsers say (W3C Fetch Metadata Request Headers); `none` is an address somebody typed. */
const ownPage = new Set(['same-origin', 'none']);

/** What every request must do, whatever it asks for: call the server by a name it has. */
export const door = fp(
  async (app: FastifyInstance, { names, trustLoopback }: DoorOptions) => {
    const own = new Set(names.map((n) => n.toLowerCase()));
    await app.register(cookie);
    app.decorateRequest('actor', null as unknown as Actor);
    app.decorateRequest('local', false);

    const refuseWrongHost = (request: FastifyRequest): void => {
      const name = hostnameOf(request.headers.host);
      if (name === null || !(isLoopback(name) || own.has(name)))
        throw new ProblemError(421, 'Wrong host', 'This server does not go by that name. Call it by an address it was started with.');
    };

    app.addHook('onRequest', async (request) => {
      const { socket } = request.raw;
      request.actor = { device: null, address: plainAddress(request.ip), gone: () => socket.destroyed };
      refuseWrongHost(request);
      request.local = trustLoopback && isLoopback(request.actor.address);
    });
    // after the body was read, so that everything the handler begins is done for this actor
    app.addHook('preHandler', (request, _reply, done) => actingFor(request.actor, done));
  },
  { name: 'door' },
);

/**
 * Who is answered by the routes of a plugin: at the server's own computer everybody, elsewhere paired devices. It stands on the routes and
 * on what the plugin does not find, so an address spelt otherwise meets it wherever the router takes it; a route that is open to all says so
 * itself ({@link FastifyContextConfig.openToAll}). All of it before anything of the request is read.
 */
export function onlyPaired(routes: FastifyInstance, devices: Devices): void {
  routes.addHook('onRequest', async (request) => {
    const { origin, 'sec-fetch-site': site } = request.headers;
    // a page from elsewhere must not reach a motor through the browser of somebody who has this one open, nor read anything, be it as a picture
    const foreign = origin !== undefined && origin.toLowerCase() !== ownOrigin(request).toLowerCase();
    if (foreign || !ownPage.has(String(site ?? 'none')))
      throw new ProblemError(403, 'Foreign page', 'This server answers only its own page. Open its address itself.');
    if (request.local) return;
    request.actor.device = await devices.byToken(request.cookies[deviceCookie], request.actor.address);
    if (!request.actor.device && request.routeOptions.config.openToAll !== true)
      throw new ProblemError(
        401,
        'Not paired',
        'This device is not paired with the server, or was removed. Run “npm run pair” at the server and scan what it shows.',
      );
  });
  routes.setNotFoundHandler((request, reply) => reply.status(404).type('application/problem+json').send(notFound(request.url).problem));
}
