import http, { type RequestListener, type Server } from 'node:http';
import https from 'node:https';
import net, { type AddressInfo, type Socket } from 'node:net';
import { hostnameOf, isLoopback } from '@yare/contract';
import type { Certificate } from './certificate';

/** First byte of every TLS connection (RFC 8446, section 5.1: content type handshake). */
const handshake = 0x16;
/** A connection that says nothing for this long is closed, ms. */
const longestSilence = 10_000;

export interface TwoDoors {
  /** what Fastify serves; it does not listen itself */
  factory: (handler: RequestListener) => Server;
  listen(host: string, port: number): Promise<number>;
  close(): Promise<void>;
}

/**
 * One port with two doors: HTTPS for everybody, plain HTTP for the server's own computer. Plain HTTP from elsewhere is only told the
 * address of the other door.
 * @param plainHere whether loopback may speak plain HTTP
 */
export function twoDoors({ cert, key }: Certificate, plainHere: boolean, names: readonly string[]): TwoDoors {
  let plain!: Server;
  let secure!: https.Server;
  const elsewhere = http.createServer((request, response) => {
    const name = hostnameOf(request.headers.host);
    if (name === null || !(isLoopback(name) || names.includes(name))) return void response.writeHead(421).end();
    response.writeHead(308, { location: `https://${request.headers.host}${request.url}`, 'content-length': 0 }).end();
  });
  const sockets = new Set<Socket>();
  const front = net.createServer((socket) => {
    sockets.add(socket);
    socket.on('close', () => sockets.delete(socket));
    socket.on('error', () => socket.destroy());
    socket.setTimeout(longestSilence, () => socket.destroy());
    // read without making it flow, so that whoever takes it over finds it as it came
    socket.once('readable', () => {
      const first = socket.read() as Buffer | null;
      socket.setTimeout(0);
      socket.removeAllListeners('timeout');
      if (first === null) return socket.destroy();
      socket.unshift(first);
      const mayPlain = plainHere && isLoopback(socket.remoteAddress ?? '');
      const door = first[0] === handshake ? secure : mayPlain ? plain : elsewhere;
      door.emit('connection', socket);
    });
  });
  return {
    factory: (handler) => {
      plain = http.createServer(handler);
      secure = https.createServer({ cert, key, minVersion: 'TLSv1.2' }, handler);
      secure.on('upgrade', (...asked) => void plain.emit('upgrade', ...asked));
      secure.on('tlsClientError', () => undefined);
      secure.on('clientError', (_error, socket) => socket.destroy());
      return plain;
    },
    listen: (host, port) =>
      new Promise((resolve, reject) => {
        front.once('error', reject);
        front.listen(port, host, () => resolve((front.address() as AddressInfo).port));
      }),
    close: () =>
      new Promise((done) => {
        front.close(() => done());
        for (const s of sockets) s.destroy();
      }),
  };
}
