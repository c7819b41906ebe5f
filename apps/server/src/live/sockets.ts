import { nanoid } from 'nanoid';
import type { LiveSample, MachineSeen, ServerMessage } from '@yare/contract';
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
  /** it has answered since it was last asked whether it is there */
  answers: boolean;
}

/** Every client's socket: samples and run phases are fanned out to them. */
export class Sockets {
  private readonly clients = new Set<Client>();
  private next = 1;
  private readonly told = new WeakMap<LiveSample, { number: number; text: string }>();
  private numbered = 0;

  add(socket: WebSocket, device: number | null): Client {
    const client: Client = {
      id: `c${this.next++}`,
      socket,
      device,
      tags: new Set(),
      waiting: new Map(),
      ticket: '',
      lateness: new Lateness(),
      answers: true,
    };
    this.clients.add(client);
    socket.on('pong', () => (client.answers = true));
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

  /**
   * Sends a part of the clients what waits for them, so that a hundred of them never take the thread at once.
   * @param turn which part, of so many
   */
  flush(turn: number, of: number): void {
    // those who watch the same machines are sent the same text
    const texts = new Map<string, string>();
    let n = 0;
    for (const c of this.clients) {
      if (n++ % of !== turn || c.waiting.size === 0 || c.socket.bufferedAmount > slow) continue;
      const told = [...c.waiting.values()].map((s) => this.toldOnce(s));
      c.waiting.clear();
      const key = told.map((t) => t.number).join();
      const text = texts.get(key) ?? `{"kind":"live","samples":[${told.map((t) => t.text).join()}]}`;
      texts.set(key, text);
      this.sendText(c, text);
    }
  }

  /** A sample as text, made once for whoever is sent it. */
  private toldOnce(sample: LiveSample): { number: number; text: string } {
    let told = this.told.get(sample);
    if (!told) this.told.set(sample, (told = { number: ++this.numbered, text: JSON.stringify(sample) }));
    return told;
  }

  /** Ends sockets whose other end no longer answers, and asks the rest whether they do. */
  sweep(): void {
    for (const c of this.clients) {
      if (!c.answers) c.socket.terminate();
      c.answers = false;
      c.socket.ping();
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

  /** What the server saw at a machine, for whoever looks at it. */
  seen(tag: string, seen: MachineSeen): void {
    for (const c of this.clients) if (c.tags.has(tag)) this.send(c, { kind: 'seen', tag, seen });
  }

  /** A fresh ticket for the next press of a connection. */
  giveTicket(client: Client): void {
    client.ticket = freshTicket();
    this.send(client, { kind: 'ticket', ticket: client.ticket });
  }

  send(client: Client, message: ServerMessage): void {
    this.sendText(client, JSON.stringify(message));
  }

  private sendText({ socket }: Client, text: string): void {
    if (socket.readyState !== 1) return;
    if (socket.bufferedAmount > dead) return socket.terminate();
    socket.send(text);
  }
}

/** 126 bits nobody can guess. */
export const freshTicket = (): string => nanoid();
