import http, { type RequestListener, type Server } from 'node:http';
import https from 'node:https';
import net, { type AddressInfo, type Socket } from 'node:net';
import { hostnameOf, isLoopback } from '@yare/contract';
import { brokenOff } from '../problem';
import type { Certificate } from './certificate';

/** First byte of every TLS connection (RFC 8446, section 5.1: content type handshake). */
const handshake = 0x16;

/** How long a connection may take over what it has begun, ms, and how many of them one address may have. */
export interface Patience {
  /** the first byte, the handshake of TLS, and the head of a request, each */
  head: number;
  /** a whole request */
  request: number;
  /** how often it is looked */
  look: number;
  /** connections of one address beyond loopback: phones behind one router, and none that takes all there are */
  perAddress: number;
}
export const usualPatience: Patience = { head: 10_000, request: 180_000, look: 1000, perAddress: 128 };

/** The same as a server of Node takes it. */
export const serverPatience = ({ head, request, look }: Patience) => ({
  headersTimeout: head,
  requestTimeout: request,
  connectionsCheckingInterval: look,
});

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
export function twoDoors({ cert, key }: Certificate, plainHere: boolean, names: readonly string[], patience = usualPatience): TwoDoors {
  const limits = serverPatience(patience);
  let plain!: Server;
  let secure!: https.Server;
  const elsewhere = http.createServer(limits, (request, response) => {
    const name = hostnameOf(request.headers.host);
    if (name === null || !(isLoopback(name) || names.includes(name))) return void response.writeHead(421).end();
    response.writeHead(308, { location: `https://${request.headers.host}${request.url}`, 'content-length': 0 }).end();
  });
  elsewhere.on('clientError', brokenOff);
  const sockets = new Set<Socket>();
  const perAddress = new Map<string, number>();
  /** Counts a connection to its address; false when that has enough. */
  const mayStay = (socket: Socket): boolean => {
    const address = socket.remoteAddress ?? '';
    if (isLoopback(address)) return true;
    const count = (perAddress.get(address) ?? 0) + 1;
    if (count > patience.perAddress) return false;
    perAddress.set(address, count);
    socket.once('close', () => {
      const left = (perAddress.get(address) ?? 1) - 1;
      if (left > 0) perAddress.set(address, left);
      else perAddress.delete(address);
    });
    return true;
  };
  const front = net.createServer((socket) => {
    socket.on('error', () => socket.destroy());
    if (!mayStay(socket)) return void socket.destroy();
    sockets.add(socket);
    socket.on('close', () => sockets.delete(socket));
    socket.setTimeout(patience.head, () => socket.destroy());
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
      plain = http.createServer(limits, handler);
      secure = https.createServer({ cert, key, minVersion: 'TLSv1.2', handshakeTimeout: patience.head, ...limits }, handler);
      // a server of Node begins to look after its connections when it listens; these are handed theirs
      for (const server of [plain, secure, elsewhere]) server.emit('listening');
      secure.on('upgrade', (...asked) => void plain.emit('upgrade', ...asked));
      secure.on('tlsClientError', () => undefined);
      secure.on('clientError', brokenOff);
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
