import Ajv from 'ajv';
import type { FastifyPluginAsyncTypebox } from '@fastify/type-provider-typebox';
import type { FastifyRequest } from 'fastify';
import { ClientMessage as ClientMessageSchema, longestStall, putOutCode, type ClientMessage } from '@yare/contract';
import { actingFor } from '../door/actor';
import type { Context } from '../context';
import { authorOf } from '../audit/people';
import { HoldRefused } from '../runs/run';
import { freshTicket, type Client, type Sockets } from './sockets';

const validate = new Ajv().compile<ClientMessage>(ClientMessageSchema);
/** A client is sent what is new this often, ms, and so many take turns at it. */
const sendEvery = 100;
const turns = 10;
/** A client that has not answered for this long is gone, whatever its connection says, ms. */
const sweepEvery = 15_000;
/** Most messages a client may send in a second. */
const mostMessages = 500;
/** A device that was put out has this long to hear it, ms. */
const farewell = 1000;

/** The one socket of each client: live values of what it watches, and hold to run. */
export const liveRoute: FastifyPluginAsyncTypebox<Context & { sockets: Sockets }> = async (app, { fleet, holdToRun, devices, sockets }) => {
  const stopListening = fleet.onSample((s) => sockets.sample(s));
  let turn = 0;
  const timer = setInterval(() => sockets.flush((turn = (turn + 1) % turns), turns), sendEvery / turns);
  const sweeping = setInterval(() => sockets.sweep(), sweepEvery);
  app.addHook('onClose', async () => {
    stopListening();
    clearInterval(timer);
    clearInterval(sweeping);
  });
  devices.onPutOut((id) => {
    for (const c of sockets.ofDevice(id)) {
      holdToRun.clientGone(c.id, 'put out');
      // a ticket nobody was given: nothing can be begun with it
      c.ticket = freshTicket();
      c.socket.close(putOutCode, 'put out');
      setTimeout(() => c.socket.terminate(), farewell);
    }
  });

  const begin = (client: Client, request: FastifyRequest, m: Extract<ClientMessage, { kind: 'begin' }>, late: number): void => {
    const refuse = (code: HoldRefused['code'], sentence: string) => sockets.send(client, { kind: 'refused', tag: m.tag, code, sentence });
    const good = m.ticket === client.ticket;
    // spent, whatever comes of it
    if (good) sockets.giveTicket(client);
    else return refuse('ticket', 'This press was not fresh: it belongs to another moment or another connection. Nothing was started; press again.');
    if (late > longestStall) return refuse('late', 'The press was too long on its way to the server. Nothing was started; press again.');
    try {
      holdToRun.begin({ tag: m.tag, client: client.id, author: authorOf(m), ticket: m.ticket, frequency: m.frequency, tune: m.tune, guide: m.guide });
    } catch (error) {
      if (error instanceof HoldRefused) return refuse(error.code, error.message);
      request.log.error({ err: error }, 'begin');
      refuse('fault', 'The server failed on this. Nothing was started.');
    }
  };

  app.get('/live', { websocket: true, config: { needsNoDatabase: true } }, (socket, request) => {
    // a hold is let go by its own rules
    const { device, address } = request.actor;
    const client = sockets.add(socket, device?.id ?? null);
    sockets.giveTicket(client);
    const watch = (tags: readonly string[]) => {
      fleet.watch(client.tags, -1);
      client.tags = new Set(tags.filter((t) => fleet.station(t)));
      fleet.watch(client.tags, 1);
      sockets.send(client, { kind: 'live', samples: [...client.tags].map((tag) => fleet.stationOf(tag).latest) });
    };
    const hear = (message: ClientMessage): void => {
      const came = performance.now();
      if (message.kind === 'watch') return watch(message.tags);
      if (message.kind === 'release') return holdToRun.release(client.id, message.ticket);
      const at = client.lateness.sentAt(message.sent, came);
      if (message.kind === 'begin') begin(client, request, message, came - at);
      else if (message.kind === 'repeat') holdToRun.repeat(client.id, message.ticket, at);
      else sockets.send(client, { kind: 'pong', sent: message.sent });
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
      if (validate(message)) actingFor({ device, address }, () => hear(message));
    });
    socket.on('error', () => undefined);
    socket.on('close', () => {
      holdToRun.clientGone(client.id);
      fleet.watch(client.tags, -1);
      sockets.remove(client);
    });
  });
};
