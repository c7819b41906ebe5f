import WebSocket, { type ClientOptions } from 'ws';
import { present } from '@yare/core';
import { holdRepeat, type LiveSample, type RunGuide, type ServerMessage } from '@yare/contract';

type Ended = Extract<ServerMessage, { kind: 'run' }>;
type Refused = Extract<ServerMessage, { kind: 'refused' }>;

/** One press: its ticket, and where what was heard of it begins. */
export interface Press {
  tag: string;
  ticket: string;
  from: number;
}

/** One device on the socket, as a client of another making would speak to it. */
export class Device {
  readonly heard: ServerMessage[] = [];
  readonly socket: WebSocket;
  readonly ready: Promise<void>;
  private timer: ReturnType<typeof setInterval> | undefined;
  /** tickets as they came */
  readonly tickets: string[] = [];

  constructor(
    url: string,
    readonly name: string,
    options: ClientOptions & { watch?: string[] } = {},
  ) {
    this.socket = new WebSocket(url, options);
    this.socket.on('error', () => undefined);
    this.ready = new Promise((open, fail) => {
      this.socket.once('close', () => fail(new Error('closed before it was open')));
      this.socket.on('message', (raw) => {
        const message = JSON.parse(String(raw)) as ServerMessage;
        this.heard.push(message);
        if (message.kind !== 'ticket') return;
        this.tickets.push(message.ticket);
        this.say({ kind: 'watch', tags: options.watch ?? ['P-11', 'C-07', 'M-55'] });
        open();
      });
    });
    this.ready.catch(() => undefined);
  }

  say(message: object): void {
    if (this.socket.readyState === WebSocket.OPEN) this.socket.send(JSON.stringify(message));
  }

  /** Presses without repeating. */
  press(tag: string, frequency: number, more: { tune?: 'standstill' | 'rotating'; guide?: RunGuide; ticket?: string; sent?: number } = {}): Press {
    const ticket = more.ticket ?? present(this.tickets[this.tickets.length - 1]);
    const from = this.heard.length;
    this.say({ kind: 'begin', tag, author: this.name, frequency, sent: performance.now(), ...more, ticket });
    return { tag, ticket, from };
  }

  /** Presses and keeps pressing. */
  hold(tag: string, frequency: number, tune?: 'standstill' | 'rotating', guide?: RunGuide): Press {
    const press = this.press(tag, frequency, { ...(tune && { tune }), ...(guide && { guide }) });
    this.timer = setInterval(() => this.say({ kind: 'repeat', ticket: press.ticket, sent: performance.now() }), holdRepeat);
    return press;
  }

  /** stops repeating without a word, as a dead page does */
  fallSilent(): void {
    clearInterval(this.timer);
  }

  letGo({ ticket }: Press): void {
    this.fallSilent();
    this.say({ kind: 'release', ticket });
  }

  close(): void {
    this.fallSilent();
    this.socket.terminate();
  }

  /** What was told of runs begun here since a press. */
  runs({ tag, from }: Press): Ended[] {
    return this.heard.slice(from).filter((m): m is Ended => m.kind === 'run' && m.tag === tag && m.mine);
  }

  ended(press: Press): Ended | undefined {
    return this.runs(press).findLast((m) => m.phase === 'ended');
  }

  /** What was last heard of a machine. */
  live(tag: string): LiveSample | undefined {
    return this.heard.flatMap((m) => (m.kind === 'live' ? m.samples : [])).findLast((s) => s.tag === tag);
  }

  refused({ tag, from }: Press): Refused | undefined {
    return this.heard.slice(from).find((m): m is Refused => m.kind === 'refused' && m.tag === tag);
  }
}
