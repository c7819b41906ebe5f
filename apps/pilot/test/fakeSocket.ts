import '@yare/books/all';
import { bookById } from '@yare/books';
import type { ClientMessage, LiveSample, MachineSeen, ServerMessage } from '@yare/contract';
import { present } from '@yare/core';

/** A socket that remembers what was said to it, answers a ping, and says what a test lets it say. */
export class FakeSocket {
  static readonly OPEN = 1;
  static readonly CLOSED = 3;
  static all: FakeSocket[] = [];
  /** a server that has fallen silent answers nothing */
  static silent = false;
  /** machines a server no longer speaks of, though it is there */
  static readonly mute = new Set<string>();
  /** what the server in memory sees in what the drives say */
  static watching: { look(sample: LiveSample): MachineSeen | null } | null = null;
  private readonly told = new Map<string, LiveSample>();
  readyState = 1;
  sent: ClientMessage[] = [];
  onopen?: () => void;
  onmessage?: (e: { data: string }) => void;
  onclose?: () => void;
  constructor(readonly url: string) {
    FakeSocket.all.push(this);
  }
  send(raw: string) {
    const message = JSON.parse(raw) as ClientMessage;
    this.sent.push(message);
    // at once, so that no time of the machine that runs the tests is taken for silence
    if (message.kind !== 'ping' || FakeSocket.silent) return;
    this.hear({ kind: 'pong', sent: message.sent });
    // a server that is there goes on telling what it reads of every machine
    const samples = [...this.told.values()].filter((s) => !FakeSocket.mute.has(s.tag));
    if (samples.length > 0) this.hear({ kind: 'live', samples });
  }
  close() {
    this.readyState = 3;
    this.onclose?.();
  }
  hear(message: ServerMessage) {
    if (message.kind === 'live') for (const s of message.samples) this.told.set(s.tag, s);
    this.onmessage?.({ data: JSON.stringify(message) });
    if (message.kind !== 'live') return;
    for (const s of message.samples) {
      const seen = FakeSocket.watching?.look(s);
      if (seen) this.onmessage?.({ data: JSON.stringify({ kind: 'seen', tag: s.tag, seen } satisfies ServerMessage) });
    }
  }
}

/** The socket in use. */
export const socketNow = () => present(FakeSocket.all[FakeSocket.all.length - 1]);

export const liveSample = (tag: string, at: number, change: Partial<LiveSample> = {}): LiveSample => ({
  tag,
  at,
  link: 'up',
  waits: null,
  words: { mode: 0, startedBy: 0, speedBy: 0, heldBack: 0, inputs: 0, outputs: 0, analogue: 0, second: 0 },
  state: 'ready',
  outputFrequency: 0,
  searching: false,
  stillUntil: null,
  motorCurrent: 5,
  busVoltage: 566,
  motorSpeed: 0,
  torque: 0,
  reference: 0,
  motorHeat: 0,
  power: 0,
  feedback: 0,
  setpoint: 0,
  driveTemperature: 0,
  trip: null,
  holder: 'terminals',
  command: 'Terminals',
  unkept: false,
  doing: 'nothing',
  warns: [],
  pumps: [],
  another: null,
  ...change,
});

const { told } = bookById('osier-g');
/** What a drive of the general family says while its auto contact runs it and its loop has the speed. */
export const byProcess: LiveSample['words'] = {
  ...{ mode: present(told.mode.remote), startedBy: present(told.start['auto contact']), speedBy: present(told.speed.process), heldBack: 0 },
  ...{ inputs: 0xc001, outputs: 0, analogue: 42, second: 0 },
};
