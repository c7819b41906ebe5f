import { randomBytes } from 'node:crypto';
import Ajv from 'ajv';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import type { WebSocket } from 'ws';
import {
  ClientMessage as ClientMessageSchema,
  longestStall,
  putOutCode,
  type ClientMessage,
  type LiveSample,
  type ServerMessage,
} from '@yare/contract';
import { actingFor } from '../actor';
import type { Context } from '../context';
import { authorOf } from '../people';
import { HoldRefused, type Run, type RunPhase } from '../runs/run';
import { Lateness } from './lateness';

const validate = new Ajv().compile<ClientMessage>(ClientMessageSchema);
const sendEvery = 100;
/** A client with this much unsent gets the newest values only, bytes. */
const slow = 64 * 1024;
/** A client with this much unsent does not read at all: it is closed, bytes. */
const dead = 1024 * 1024;
/** Most messages a client may send in a second. */
const mostMessages = 500;
/** A device that was put out has this long to hear it, ms. */
const farewell = 1000;

interface Client {
  id: string;
  socket: WebSocket;
  /** the paired device it is; null at the server's own computer */
  device: number | null;
  tags: Set<string>;
  waiting: Map<string, LiveSample>;
  /** what the next press of this connection spends */
  ticket: string;
  lateness: Lateness;
}

/** Fans samples and run phases out to the sockets. */
export class Audience {
  private readonly clients = new Set<Client>();
  private next = 1;

  add(socket: WebSocket, device: number | null): Client {
    const client: Client = { id: `c${this.next++}`, socket, device, tags: new Set(), waiting: new Map(), ticket: '', lateness: new Lateness() };
    this.clients.add(client);
    return client;
  }

  remove(client: Client): void {
    this.clients.delete(client);
  }

  online(device: number): boolean {
    return [...this.clients].some((c) => c.device === device);
  }

  ofDevice(device: number): Client[] {
    return [...this.clients].filter((c) => c.device === device);
  }

  sample(sample: LiveSample): void {
    for (const c of this.clients) if (c.tags.has(sample.tag)) c.waiting.set(sample.tag, sample);
  }

  flush(): void {
    for (const c of this.clients) {
      if (c.waiting.size === 0 || c.socket.bufferedAmount > slow) continue;
      this.send(c, { kind: 'live', samples: [...c.waiting.values()] });
      c.waiting.clear();
    }
  }

  phase(run: Run, phase: RunPhase): void {
    for (const c of this.clients) {
      const mine = c.id === run.client;
      if (c.tags.has(run.tag) || mine)
        this.send(c, {
          kind: 'run',
          tag: run.tag,
          run: run.id,
          mine,
          phase,
          recordingId: run.recordingId,
          cause: run.cause,
          reason: run.reason,
          ...(run.tune && { tune: { ...run.tune } }),
        });
    }
  }

  /** A fresh ticket for the next press of a connection. */
  giveTicket(client: Client): void {
    client.ticket = randomBytes(16).toString('base64url');
    this.send(client, { kind: 'ticket', ticket: client.ticket });
  }

  send(client: Client, message: ServerMessage): void {
    if (client.socket.readyState !== 1) return;
    if (client.socket.bufferedAmount > dead) return client.socket.terminate();
    client.socket.send(JSON.stringify(message));
  }
}

/** The one socket of each client: live values of what it watches, and hold to run. */
export async function liveRoute(app: FastifyInstance, { fleet, holdToRun, devices, audience }: Context & { audience: Audience }): Promise<void> {
  const stopListening = fleet.onSample((s) => audience.sample(s));
  const timer = setInterval(() => audience.flush(), sendEvery);
  app.addHook('onClose', async () => {
    stopListening();
    clearInterval(timer);
  });
  devices.onPutOut((id) => {
    for (const c of audience.ofDevice(id)) {
      holdToRun.clientGone(c.id, 'put out');
      // a ticket nobody was given: nothing can be begun with it
      c.ticket = randomBytes(16).toString('base64url');
      c.socket.close(putOutCode, 'put out');
      setTimeout(() => c.socket.terminate(), farewell);
    }
  });

  const begin = (client: Client, request: FastifyRequest, m: Extract<ClientMessage, { kind: 'begin' }>, late: number): void => {
    const refuse = (code: HoldRefused['code'], sentence: string) => audience.send(client, { kind: 'refused', tag: m.tag, code, sentence });
    const good = m.ticket === client.ticket;
    // spent, whatever comes of it
    if (good) audience.giveTicket(client);
    else return refuse('ticket', 'This press was not fresh: it belongs to another moment or another connection. Nothing was started; press again.');
    if (late > longestStall) return refuse('late', 'The press was too long on its way to the server. Nothing was started; press again.');
    try {
      holdToRun.begin({ tag: m.tag, client: client.id, author: authorOf(m), ticket: m.ticket, frequency: m.frequency, tune: m.tune });
    } catch (error) {
      if (error instanceof HoldRefused) return refuse(error.code, error.message);
      request.log.error({ err: error }, 'begin');
      refuse('fault', 'The server failed on this. Nothing was started.');
    }
  };

  app.get('/live', { websocket: true }, (socket, request) => {
    const client = audience.add(socket, request.actor.device?.id ?? null);
    audience.giveTicket(client);
    const watch = (tags: readonly string[]) => {
      fleet.watch(client.tags, -1);
      client.tags = new Set(tags.filter((t) => fleet.station(t)));
      fleet.watch(client.tags, 1);
      for (const tag of client.tags) audience.send(client, { kind: 'live', samples: [fleet.station(tag)!.latest] });
    };
    const hear = (message: ClientMessage): void => {
      const came = performance.now();
      if (message.kind === 'watch') return watch(message.tags);
      if (message.kind === 'release') return holdToRun.release(client.id, message.ticket);
      const at = client.lateness.sentAt(message.sent, came);
      if (message.kind === 'begin') begin(client, request, message, came - at);
      else if (message.kind === 'repeat') holdToRun.repeat(client.id, message.ticket, at);
      else audience.send(client, { kind: 'pong', sent: message.sent });
    };
    let second = 0;
    let messages = 0;
    socket.on('message', (raw: Buffer) => {
      const now = Math.floor(performance.now() / 1000);
      if (now !== second) [second, messages] = [now, 0];
      if (++messages > mostMessages) return socket.terminate();
      let message: unknown;
      try {
        message = JSON.parse(raw.toString());
      } catch {
        return;
      }
      if (validate(message)) actingFor(request.actor, () => hear(message));
    });
    socket.on('error', () => undefined);
    socket.on('close', () => {
      holdToRun.clientGone(client.id);
      fleet.watch(client.tags, -1);
      audience.remove(client);
    });
  });
}
