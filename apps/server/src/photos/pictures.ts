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

interface Helper {
  process: ChildProcess;
  /** of its own, with the socket it listens on */
  folder: string;
  socket: string;
}

/** The helper ended: what it was asked may be asked again. */
const interrupted = () => new ProblemError(503, 'Busy', 'Reading the picture was interrupted. It was not kept; try again.');

/** Has pictures decoded beside the server, in processes it does not begin itself. */
export class Pictures {
  private helper: Promise<Helper> | null = null;
  /** pictures take no processor from those who hold a button */
  private readonly turns = fastq.promise((file: Buffer) => this.decode(file), atOnce);

  /** Begins the helper: the earlier, the smaller the server is that begins it. */
  begin(): Promise<Helper> {
    if (!this.helper) {
      const own = this.start(() => {
        // another may have taken its place
        if (this.helper === own) this.helper = null;
      });
      this.helper = own;
    }
    return this.helper;
  }

  private async start(over: () => void): Promise<Helper> {
    const folder = mkdtempSync(join(tmpdir(), 'yare-pictures-'));
    const socket = join(folder, 'helper.sock');
    const helper = fork(join(process.cwd(), 'apps/server/src/photos/helper.ts'), [socket], {
      execArgv: ['--import', 'tsx'],
      stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
      // nothing of the server's own environment goes there
      env: { NODE_ENV: 'production' },
    });
    // one that ended, or never began, is begun again with the next picture
    const ended = new Promise<never>((_, fail) =>
      helper.once('exit', () => {
        over();
        rmSync(folder, { recursive: true, force: true });
        fail(interrupted());
      }),
    );
    ended.catch(() => undefined);
    await Promise.race([once(helper, 'message'), ended]);
    helper.unref();
    helper.channel?.unref();
    return { process: helper, folder, socket };
  }

  /** @throws ProblemError 415 when it cannot be decoded, or takes too long */
  private async decode(file: Buffer): Promise<Buffer> {
    const helper = this.begin();
    const { socket } = await helper;
    const request = http.request({ socketPath: socket, method: 'POST', agent: false, headers: { 'content-length': file.length } });
    request.end(file);
    const answer = async () => {
      const [response] = (await once(request, 'response')) as [IncomingMessage];
      return { response, jpeg: await buffer(response) };
    };
    const { response, jpeg } = await answer().catch(() => {
      // its end may be heard of only later
      if (this.helper === helper) this.helper = null;
      throw interrupted();
    });
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
    const helper = await this.helper?.catch(() => null);
    if (!helper) return;
    helper.process.disconnect();
    rmSync(helper.folder, { recursive: true, force: true });
  }
}
