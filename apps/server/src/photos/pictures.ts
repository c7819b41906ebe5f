import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { join } from 'node:path';
import { buffer } from 'node:stream/consumers';
import fastq from 'fastq';
import { ProblemError } from '../problem';
import { kindOf } from './kinds';

/** Photos a machine may have. */
export const mostPhotos = 20;
/** What the photos of a plant may take altogether, bytes. */
export const mostPhotoBytes = 500e6;
/** A picture that takes longer is none, ms. */
const longest = 20_000;
/** Pictures that may wait for their turn. */
const mostWaiting = 24;

const noPicture = () =>
  new ProblemError(
    415,
    'No picture',
    'This file is no JPEG, PNG, WebP or HEIC picture that can be read: a photo of the plate must be one. Nothing was kept.',
  );

/** Has one picture decoded by a process of its own. @throws ProblemError 415 when it cannot be, or takes too long */
async function decode(file: Buffer): Promise<Buffer> {
  const child = spawn(process.execPath, ['--import', 'tsx', join(process.cwd(), 'apps/server/src/photos/decode.ts')], {
    stdio: ['pipe', 'pipe', 'ignore'],
    // nothing of the server's own environment goes there
    env: { UV_THREADPOOL_SIZE: '2', NODE_ENV: 'production' },
    timeout: longest,
    killSignal: 'SIGKILL',
  });
  // one that ends before it has read all says so by its end
  child.stdin.on('error', () => undefined);
  child.stdin.end(file);
  const [jpeg, [code]] = await Promise.all([buffer(child.stdout), once(child, 'close') as Promise<[number | null]>]);
  if (code !== 0 || jpeg.length === 0) throw noPicture();
  return jpeg;
}

/** Two at once: pictures take no processor from those who hold a button. */
const turns = fastq.promise(decode, 2);

/**
 * A picture as it is kept: told by its first bytes, decoded, turned upright, made no larger than it need be and written anew as JPEG, so that
 * nothing but the picture is kept of a file, and not where it was taken.
 * @throws ProblemError 415 when it cannot be decoded, 503 when too many wait
 */
export async function pictureOf(file: unknown): Promise<Buffer> {
  if (!Buffer.isBuffer(file) || kindOf(file) === null) throw noPicture();
  if (turns.length() >= mostWaiting)
    throw new ProblemError(503, 'Busy', 'The server has many pictures to read at this moment. This one was not kept; try again in a minute.');
  return turns.push(file);
}
