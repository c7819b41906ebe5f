import type { IncomingMessage } from 'node:http';
import { TLSSocket } from 'node:tls';
import helmet from '@fastify/helmet';
import fp from 'fastify-plugin';

/** The page's own live channel, for the policy of what it may connect to; the host was checked before. */
const socketOrigin = ({ socket, headers }: Pick<IncomingMessage, 'socket' | 'headers'>): string =>
  `${socket instanceof TLSSocket && socket.encrypted ? 'wss' : 'ws'}://${headers.host}`;

/** What a page of this server may load and connect to: nothing from elsewhere. */
export const contentPolicy = fp(async (app) => {
  await app.register(helmet, {
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'self'"],
        scriptSrc: ["'self'"],
        styleSrc: ["'self'", "'unsafe-inline'"],
        imgSrc: ["'self'", 'data:'],
        fontSrc: ["'self'"],
        // a socket's origin is not 'self' to every browser: it is named
        connectSrc: ["'self'", (request) => socketOrigin(request)],
        workerSrc: ["'self'"],
        objectSrc: ["'none'"],
        frameAncestors: ["'none'"],
        baseUri: ["'self'"],
      },
    },
    hsts: false,
    crossOriginOpenerPolicy: false,
    originAgentCluster: false,
  });
});
