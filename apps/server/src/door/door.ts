import fp from 'fastify-plugin';
import { present } from '@yare/core';
import cookie from '@fastify/cookie';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import { hostnameOf, isLoopback } from '@yare/contract';
import { actingFor, type Actor } from './actor';
import type { Devices } from '../devices/devices';
import { ProblemError } from '../problem';

export interface DoorOptions {
  /** names and addresses this server is called by, besides loopback */
  names: readonly string[];
  /** whether the server's own computer needs no pairing */
  trustLoopback: boolean;
  devices: Devices;
}

/** The cookie a paired device is known by: bound to this host, over HTTPS only. */
export const deviceCookie = '__Host-yare-device';

declare module 'fastify' {
  interface FastifyRequest {
    actor: Actor;
    /** from the server's own computer, and trusted as that */
    local: boolean;
  }
}

/** What a stranger may ask: who he is here, and to be paired. */
const open = ['/api/v1/devices/here', '/api/v1/devices/pair'];
const harmless = new Set(['GET', 'HEAD', 'OPTIONS']);

const plainAddress = (address: string): string => address.replace(/^::ffff:/, '');

/** The origin a page of this server has, as the request was made. */
export const ownOrigin = (request: Pick<FastifyRequest, 'protocol' | 'headers'>): string => `${request.protocol}://${request.headers.host}`;

/**
 * Who gets in. A request must call the server by a name it has; a page from elsewhere may change nothing; beyond loopback only a paired
 * device is answered. All of it before anything of the request is read.
 */
export const door = fp(
  async (app: FastifyInstance, { names, trustLoopback, devices }: DoorOptions) => {
    const own = new Set(names.map((n) => n.toLowerCase()));
    await app.register(cookie);
    app.decorateRequest('actor', null as unknown as Actor);
    app.decorateRequest('local', false);

    const refuseForeign = (request: FastifyRequest): void => {
      const name = hostnameOf(request.headers.host);
      if (name === null || !(isLoopback(name) || own.has(name)))
        throw new ProblemError(421, 'Wrong host', 'This server does not go by that name. Call it by an address it was started with.');
      const { origin } = request.headers;
      const changes = !harmless.has(request.method) || request.headers.upgrade !== undefined;
      // a page from elsewhere must not reach a motor through the browser of somebody who has this one open
      if (changes && origin !== undefined && origin.toLowerCase() !== ownOrigin(request).toLowerCase())
        throw new ProblemError(403, 'Foreign page', 'This server takes changes only from its own page.');
    };

    app.addHook('onRequest', async (request) => {
      request.actor = { device: null, address: plainAddress(request.ip) };
      refuseForeign(request);
      request.local = trustLoopback && isLoopback(request.actor.address);
      const path = present(request.url.split('?')[0]);
      if (request.local || !path.startsWith('/api/')) return;
      request.actor.device = await devices.byToken(request.cookies[deviceCookie], request.actor.address);
      if (!request.actor.device && !open.includes(path))
        throw new ProblemError(
          401,
          'Not paired',
          'This device is not paired with the server, or was removed. Run “npm run pair” at the server and scan what it shows.',
        );
    });
    // after the body was read, so that everything the handler begins is done for this actor
    app.addHook('preHandler', (request, _reply, done) => actingFor(request.actor, done));
  },
  { name: 'door' },
);
