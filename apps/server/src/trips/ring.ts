import type { LiveSample } from '@yare/contract';

/** ms of the link that are kept of every machine, and between samples of it at least. */
const kept = 600_000;
const atLeast = 90;
/** ms without an answer from which a link was silent, and ms from its end within which that belongs to a trip. */
const silence = 2000;
const near = 20_000;

/** What the link told of one machine lately, and for how long it told nothing. */
export class Ring {
  private samples: LiveSample[] = [];
  private answered: number | null = null;
  private gap = { length: 0, end: -Infinity };

  add(s: LiveSample): void {
    if (s.link === 'down') return;
    const since = this.answered === null ? 0 : s.at - this.answered;
    if (since > silence) this.gap = { length: since, end: s.at };
    this.answered = s.at;
    const last = this.samples.at(-1);
    if (s.trip || (last && s.at - last.at < atLeast)) return;
    this.samples.push(s);
    while (this.samples[0] && s.at - this.samples[0].at > kept) this.samples.shift();
  }

  /** Samples up to a moment, ms, oldest first. */
  before = (at: number): LiveSample[] => this.samples.filter((s) => s.at <= at);

  /** s it was silent around a moment, ms. */
  silentAround = (at: number): number => (Math.abs(at - this.gap.end) < near ? this.gap.length / 1000 : 0);
}
