import { readFileSync } from 'node:fs';

/** Clock ticks of all processors so far: those stolen by other machines on the same host, and all. */
function ticks() {
  const all = /^cpu +(.*)$/m.exec(readFileSync('/proc/stat', 'utf8'))[1].split(' ').map(Number);
  return { stolen: all[7], all: all.slice(0, 8).reduce((a, b) => a + b, 0) };
}

/** ms a spell of quiet is looked for. */
const spell = 2000;

const sleep = (ms) => new Promise((done) => setTimeout(done, ms));

/**
 * Measuring on a virtual machine whose processor is lent to others: work during which the kernel counted more than `lent` of it as stolen is
 * done again, `again` times at most, each time after waiting for a quiet spell; how often that was is told.
 */
export class Quiet {
  /** Done again for it, and measured though disturbed. */
  disturbed = { again: 0, counted: 0 };

  /**
   * @param {{ lent: number, again: number, patience: number }} limits share of the processor; times; ms all the waiting of one run may take
   */
  constructor({ lent, again, patience }) {
    this.lent = lent;
    this.again = again;
    this.patience = patience;
  }

  /**
   * What some work came to, and the share of the processor that went to other machines in the meantime.
   * @template T
   * @param {() => Promise<T>} work
   * @returns {Promise<{ found: T, stolen: number }>}
   */
  async watched(work) {
    const before = ticks();
    const found = await work();
    const after = ticks();
    return { found, stolen: (after.stolen - before.stolen) / Math.max(1, after.all - before.all) };
  }

  /** Waits until other machines leave the processor alone, or patience is at its end. */
  async spellOfQuiet() {
    for (; this.patience > 0; this.patience -= spell) if ((await this.watched(() => sleep(spell))).stolen <= this.lent) return;
  }

  /**
   * What some work came to with the processor to itself, or the last time it was tried.
   * @template T
   * @param {() => Promise<T>} work
   * @returns {Promise<T>}
   */
  async undisturbed(work) {
    for (let left = this.again; ; left -= 1) {
      await this.spellOfQuiet();
      const { found, stolen } = await this.watched(work);
      if (stolen <= this.lent) return found;
      if (left <= 0 || this.patience <= 0) {
        this.disturbed.counted += 1;
        return found;
      }
      this.disturbed.again += 1;
    }
  }
}
