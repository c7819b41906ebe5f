import { on } from 'node:events';
import type { MessagePort } from 'node:worker_threads';

/** Pieces sent ahead of whoever takes them. */
const ahead = 8;
/** A port whose other end takes nothing for this long is given up, ms. */
const longestWait = 30_000;
/** Bytes of a piece, at most: none keeps the other thread long. */
const largest = 128 * 1024;

/** Cuts bytes into pieces none of which keeps the other thread long. */
export function* cut(bytes: Uint8Array): Generator<Uint8Array> {
  for (let at = 0; at < bytes.length; at += largest) yield bytes.subarray(at, at + largest);
}

/** Sends bytes through a port, no faster than they are taken. Ends quietly when the other end is gone. @throws Error when it takes nothing */
export async function send(port: MessagePort, pieces: AsyncIterable<Uint8Array> | Iterable<Uint8Array>): Promise<void> {
  let owed = 0;
  let open = true;
  let wake = (): void => undefined;
  port.on('message', () => {
    owed -= 1;
    wake();
  });
  port.once('close', () => {
    open = false;
    wake();
  });
  for await (const whole of pieces)
    for (const piece of cut(whole)) {
      while (owed >= ahead && open) await taken();
      if (!open) return;
      owed += 1;
      // memory of its own, handed over and not copied once more
      const own = new Uint8Array(piece);
      port.postMessage(own, [own.buffer]);
    }
  port.postMessage(null);

  function taken(): Promise<void> {
    return new Promise((resolve, reject) => {
      const timer = setTimeout(() => {
        port.close();
        reject(new Error('nothing was taken any more'));
      }, longestWait);
      wake = () => {
        clearTimeout(timer);
        resolve();
      };
    });
  }
}

/** What {@link send} sends, as it comes. @throws Error when it breaks off */
export async function* received(port: MessagePort): AsyncGenerator<Uint8Array> {
  try {
    for await (const [piece] of on(port, 'message', { close: ['close'] }) as AsyncIterable<[Uint8Array | null]>) {
      if (piece === null) return;
      yield piece;
      port.postMessage('taken');
    }
  } finally {
    port.close();
  }
  throw new Error('it broke off');
}
