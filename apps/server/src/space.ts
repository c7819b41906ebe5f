import { statfs } from 'node:fs/promises';
import { ProblemError } from './problem';

/** Below this much free space nothing new is stored, bytes: what stops and clears up still needs some. */
const least = 200 * 1024 * 1024;
/** A look at the disk counts this long, ms. */
const fresh = 2000;

/** Free space where the data lies. */
export class Space {
  private looked = -Infinity;
  private known = Infinity;

  /** @param free bytes free at this moment */
  constructor(private readonly free: () => Promise<number>) {}

  private async now(): Promise<number> {
    if (performance.now() - this.looked > fresh) {
      this.looked = performance.now();
      // a disk that cannot be asked counts as it was last known
      this.known = await this.free().catch(() => this.known);
    }
    return this.known;
  }

  /** Why nothing new may be stored; null when there is room. */
  async full(): Promise<string | null> {
    const bytes = await this.now();
    if (bytes >= least) return null;
    return `The disk of the server is nearly full: ${Math.round(bytes / 1e6)} MB are left. Nothing was stored. Make room on the server, or remove photos, then try again.`;
  }

  /** @throws ProblemError 507 when the disk is nearly full */
  async refuseWhenFull(): Promise<void> {
    const why = await this.full();
    if (why) throw new ProblemError(507, 'Disk full', why);
  }
}

/** The smallest free space of several folders, bytes. */
export const freeIn = async (folders: readonly string[]): Promise<number> =>
  Math.min(...(await Promise.all(folders.map(async (f) => statfs(f).then((s) => s.bavail * s.bsize)))));
