import Ajv from 'ajv';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import type { WebSocket } from 'ws';
import { ClientMessage as ClientMessageSchema, type ClientMessage, type LiveSample, type ServerMessage } from '@yare/contract';
import type { Context } from '../context';
import { authorOf } from '../people';
import { ProblemError } from '../problem';
import { HoldRefused, type Run, type RunPhase } from '../runs/holdToRun';

const validate = new Ajv().compile<ClientMessage>(ClientMessageSchema);
const sendEvery = 100;
/** A client with this much unsent gets the newest values only, bytes. */
const slow = 64 * 1024;

interface Client {
  id: string;
  socket: WebSocket;
  tags: Set<string>;
  waiting: Map<string, LiveSample>;
}

/** Fans samples and run phases out to the sockets. */
export class Audience {
  private readonly clients = new Set<Client>();
  private next = 1;

  add(socket: WebSocket): Client {
    const client: Client = { id: `c${this.next++}`, socket, tags: new Set(), waiting: new Map() };
    this.clients.add(client);
    return client;
  }

  remove(client: Client): void {
    this.clients.delete(client);
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
      if (c.tags.has(run.tag) || c.id === run.client)
        this.send(c, {
          kind: 'run',
          tag: run.tag,
          press: run.press,
          phase,
          recordingId: run.recordingId,
          reason: run.reason,
          ...(run.tune && { tune: { ...run.tune } }),
        });
    }
  }

  send(client: Client, message: ServerMessage): void {
    if (client.socket.readyState === 1) client.socket.send(JSON.stringify(message));
  }
}

/** The one socket of each client: live values of what it watches, and hold to run. */
export async function liveRoute(app: FastifyInstance, { fleet, holdToRun, audience }: Context & { audience: Audience }): Promise<void> {
  const stopListening = fleet.onSample((s) => audience.sample(s));
  const timer = setInterval(() => audience.flush(), sendEvery);
  app.addHook('onClose', async () => {
    stopListening();
    clearInterval(timer);
  });

  // a page from elsewhere must not reach a motor through the browser of somebody who has this one open
  const fromHere = async (request: FastifyRequest) => {
    const { origin, host } = request.headers;
    if (origin !== undefined && new URL(origin).host !== host)
      throw new ProblemError(403, 'Foreign page', 'This channel is only for the application’s own page.');
  };
  app.get('/live', { websocket: true, preValidation: fromHere }, (socket, request) => {
    const client = audience.add(socket);
    const watch = (tags: readonly string[]) => {
      fleet.watch(client.tags, -1);
      client.tags = new Set(tags.filter((t) => fleet.station(t)));
      fleet.watch(client.tags, 1);
      for (const tag of client.tags) audience.send(client, { kind: 'live', samples: [fleet.station(tag)!.latest] });
    };
    const hold = (m: Extract<ClientMessage, { kind: 'hold' }>) => {
      try {
        holdToRun.hold(m.tag, client.id, authorOf(m), m.press, m.frequency, m.tune);
      } catch (error) {
        if (!(error instanceof HoldRefused)) request.log.error({ err: error }, 'hold');
        audience.send(client, {
          kind: 'refused',
          tag: m.tag,
          press: m.press,
          sentence: error instanceof HoldRefused ? error.message : 'The server failed on this. Nothing was started.',
        });
      }
    };
    socket.on('message', (raw: Buffer) => {
      let message: unknown;
      try {
        message = JSON.parse(raw.toString());
      } catch {
        return;
      }
      if (!validate(message)) return;
      if (message.kind === 'watch') watch(message.tags);
      else if (message.kind === 'hold') hold(message);
      else if (message.kind === 'release') holdToRun.release(message.tag, client.id, message.press);
      else audience.send(client, { kind: 'pong', sent: message.sent });
    });
    socket.on('close', () => {
      holdToRun.clientGone(client.id);
      fleet.watch(client.tags, -1);
      audience.remove(client);
    });
  });
}
