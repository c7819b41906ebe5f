/** Every way in which what holds a motor is lost. */
import { setTimeout as pause } from 'node:timers/promises';
import { present } from '@yare/core';
import type { Device, Press } from '../apps/server/test/device';
import type { DrillStack, Watcher } from './stack';

export interface Held {
  watcher: Watcher;
  device: Device;
  press: Press;
}

export interface Way {
  name: string;
  /** one loss for all that is held, as the end of a process is */
  together?: boolean;
  /** loses it; the clock runs from the call */
  lose(held: Held): Promise<void> | void;
  /** beforehand: what must be there when it is lost */
  from?(held: Held): Promise<void>;
  /** afterwards, while it is still watched: what could start it again */
  provoke?(held: Held): Promise<void>;
  /** once all have been watched */
  mend?(held: readonly Held[]): Promise<void>;
}

const once = <T extends unknown[]>(work: (...a: T) => Promise<void> | void) => {
  let done: Promise<void> | null = null;
  return { go: (...a: T) => (done ??= Promise.resolve(work(...a))), again: () => void (done = null) };
};

/** @param deviceFor a fresh client that watches a machine */
export function waysOf(stack: DrillStack, deviceFor: (tag: string) => Promise<Device>) {
  /** Everything a connection once said, said again on a fresh one: its begin, its repeats, its release. */
  async function replay({ watcher, press }: Held): Promise<void> {
    const stranger = await deviceFor(watcher.tag);
    const begin = (ticket: string) =>
      stranger.say({ kind: 'begin', tag: watcher.tag, author: 'Replay', frequency: 12, ticket, sent: performance.now() });
    for (let i = 0; i < 8; i++) {
      begin(press.ticket);
      stranger.say({ kind: 'repeat', ticket: press.ticket, sent: performance.now() });
      await pause(100);
    }
    stranger.close();
  }

  /** Another tab of the same page, which has heard the ticket of each hold. */
  const elsewhere = new Map<string, Device>();
  async function openElsewhere({ watcher }: Held): Promise<void> {
    elsewhere.set(watcher.tag, await deviceFor(watcher.tag));
  }

  /** Another tab goes on repeating a ticket as often as it can. */
  async function repeatElsewhere({ watcher, press }: Held): Promise<void> {
    const other = present(elsewhere.get(watcher.tag));
    for (let i = 0; i < 50; i++) {
      other.say({ kind: 'repeat', ticket: press.ticket, sent: performance.now() });
      if (i % 10 === 9) other.press(watcher.tag, 12, { ticket: press.ticket });
      await pause(40);
    }
    other.close();
  }

  const killServer = once(() => stack.server.stop('SIGKILL'));
  const stallServer = once(async () => {
    stack.server.child.kill('SIGSTOP');
    await pause(800);
    stack.server.child.kill('SIGCONT');
  });
  const stallBench = once(async () => {
    stack.bench.child.kill('SIGSTOP');
    // longer than the server waits for an answer
    await pause(850);
    stack.bench.child.kill('SIGCONT');
  });
  const cutLink = once(() => stack.cable.cut());
  const killDatabase = once(() => {
    const pid = stack.database.pid();
    if (pid) process.kill(pid, 'SIGKILL');
  });

  const ways: Way[] = [
    { name: 'release', lose: ({ device, press }) => device.letGo(press) },
    {
      name: 'close',
      lose: ({ device }) => {
        device.fallSilent();
        device.socket.close();
      },
    },
    { name: 'terminate', lose: ({ device }) => device.close() },
    { name: 'silence', lose: ({ device }) => device.fallSilent() },
    { name: 'stall of the server', together: true, lose: () => stallServer.go(), mend: async () => stallServer.again() },
    { name: 'stall of the bench', together: true, lose: () => stallBench.go(), mend: async () => stallBench.again() },
    {
      name: 'kill',
      together: true,
      lose: () => killServer.go(),
      provoke: async (held) => replay(held),
      mend: async () => killServer.again(),
    },
    {
      name: 'link cut',
      together: true,
      lose: () => cutLink.go(),
      mend: async () => {
        stack.cable.join();
        cutLink.again();
      },
    },
    {
      name: 'database gone',
      together: true,
      lose: () => killDatabase.go(),
      mend: async () => {
        await stack.startDatabase();
        killDatabase.again();
        await databaseBack();
      },
    },
    {
      name: 'time-out made long',
      lose: ({ watcher }) => watcher.setTimeout(60),
      mend: async (held) => {
        for (const { watcher } of held) await watcher.setTimeout(1);
      },
    },
    {
      name: 'outside master',
      // as a controller does: again and again, for a while
      lose: async ({ watcher }) => {
        for (let i = 0; i < 8; i++) {
          await watcher.meddle(45).catch(() => undefined);
          await pause(30);
        }
      },
    },
    { name: 'replay', lose: ({ device }) => device.close(), provoke: replay },
    // its ticket in another tab, from the moment the first one is gone, or says no more
    { name: 'gone, repeated by another', lose: ({ device }) => device.close(), provoke: repeatElsewhere, from: openElsewhere },
    { name: 'silent, repeated by another', lose: ({ device }) => device.fallSilent(), provoke: repeatElsewhere, from: openElsewhere },
    {
      name: 'forged release',
      lose: ({ device, press }) => device.letGo(press),
    },
  ];

  /** Requests are answered again. */
  async function databaseBack(): Promise<void> {
    for (let i = 0; i < 300; i++) {
      const health = await stack.call<{ database: boolean }>('GET', '/health').catch(() => null);
      if (health?.body?.database) return;
      await pause(100);
    }
    throw new Error('the server did not find its database again');
  }

  return { ways, killServer };
}
