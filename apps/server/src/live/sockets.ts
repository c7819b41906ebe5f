import { nanoid } from 'nanoid';
import type { LiveSample, ServerMessage } from '@yare/contract';
import type { WebSocket } from 'ws';
import type { Run, RunPhase } from '../runs/run';
import { Lateness } from './lateness';

/** A client with this much unsent gets the newest values only, bytes. */
const slow = 64 * 1024;
/** A client with this much unsent does not read at all: it is closed, bytes. */
const dead = 1024 * 1024;

export interface Client {
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

/** Every client's socket: samples and run phases are fanned out to them. */
export class Sockets {
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
          ...(run.guided && { guide: run.guided.progress }),
        });
    }
  }

  /** A fresh ticket for the next press of a connection. */
  giveTicket(client: Client): void {
    client.ticket = freshTicket();
    this.send(client, { kind: 'ticket', ticket: client.ticket });
  }

  send(client: Client, message: ServerMessage): void {
    if (client.socket.readyState !== 1) return;
    if (client.socket.bufferedAmount > dead) return client.socket.terminate();
    client.socket.send(JSON.stringify(message));
  }
}

/** 126 bits nobody can guess. */
export const freshTicket = (): string => nanoid();
