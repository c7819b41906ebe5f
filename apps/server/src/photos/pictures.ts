import { fork, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, rmSync } from 'node:fs';
import http, { type IncomingMessage } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { buffer } from 'node:stream/consumers';
import fastq from 'fastq';
import { ProblemError } from '../problem';
import { kindOf } from './kinds';

/** Photos a machine may have. */
export const mostPhotos = 20;
/** What the photos of a plant may take altogether, bytes. */
export const mostPhotoBytes = 500e6;
/** Pictures that may wait for their turn, and that have it at once. */
const mostWaiting = 24;
const atOnce = 2;

const noPicture = () =>
  new ProblemError(
    415,
    'No picture',
    'This file is no JPEG, PNG, WebP or HEIC picture that can be read: a photo of the plate must be one. Nothing was kept.',
  );

/** Has pictures decoded beside the server, in processes it does not begin itself. */
export class Pictures {
  private helper: Promise<{ process: ChildProcess; socket: string }> | null = null;
  private readonly folder = mkdtempSync(join(tmpdir(), 'yare-pictures-'));
  private begun = 0;
  /** pictures take no processor from those who hold a button */
  private readonly turns = fastq.promise((file: Buffer) => this.decode(file), atOnce);

  /** Begins the helper: the earlier, the smaller the server is that begins it. */
  begin(): Promise<{ process: ChildProcess; socket: string }> {
    return (this.helper ??= this.start());
  }

  private async start(): Promise<{ process: ChildProcess; socket: string }> {
    const socket = join(this.folder, `${++this.begun}.sock`);
    const helper = fork(join(process.cwd(), 'apps/server/src/photos/helper.ts'), [socket], {
      execArgv: ['--import', 'tsx'],
      stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
      // nothing of the server's own environment goes there
      env: { NODE_ENV: 'production' },
    });
    // one that ended is begun again with the next picture
    helper.once('exit', () => (this.helper = null));
    await once(helper, 'message');
    helper.unref();
    helper.channel?.unref();
    return { process: helper, socket };
  }

  /** @throws ProblemError 415 when it cannot be decoded, or takes too long */
  private async decode(file: Buffer): Promise<Buffer> {
    const { socket } = await this.begin();
    const request = http.request({ socketPath: socket, method: 'POST', headers: { 'content-length': file.length } });
    request.end(file);
    const [response] = (await once(request, 'response')) as [IncomingMessage];
    const jpeg = await buffer(response);
    if (response.statusCode !== 200) throw noPicture();
    return jpeg;
  }

  /**
   * A picture as it is kept: told by its first bytes, decoded, turned upright, made no larger than it need be and written anew as JPEG, so that
   * nothing but the picture is kept of a file, and not where it was taken.
   * @throws ProblemError 415 when it cannot be decoded, 503 when too many wait
   */
  async picture(file: unknown): Promise<Buffer> {
    if (!Buffer.isBuffer(file) || kindOf(file) === null) throw noPicture();
    if (this.turns.length() >= mostWaiting)
      throw new ProblemError(503, 'Busy', 'The server has many pictures to read at this moment. This one was not kept; try again in a minute.');
    return this.turns.push(file);
  }

  async stop(): Promise<void> {
    const helper = await this.helper;
    helper?.process.disconnect();
    rmSync(this.folder, { recursive: true, force: true });
  }
}
