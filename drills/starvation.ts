import { readFileSync } from 'node:fs';
import { performance } from 'node:perf_hooks';
import { present } from '@yare/core';

/** Waits are added up over so long, ms. */
const window = 200;

/** How long processes of this machine waited for a processor, and this one's own loop for its turn, within any {@link window}. */
export class Starvation {
  private worst = 0;
  private last = performance.now();
  private readonly looks: Array<{ at: number; waited: Map<number, number> }> = [];
  private readonly timer = setInterval(() => this.look(), 20);

  /** @param own whether the drill's own lateness counts as well: not where it works hard itself */
  constructor(
    private readonly pids: () => number[],
    private readonly own = true,
  ) {}

  /** ms a process stood ready without a processor since it began (the second figure of /proc/PID/schedstat, in ns). */
  private static waited(pid: number): number {
    try {
      return Number(readFileSync(`/proc/${pid}/schedstat`, 'utf8').split(' ')[1]) / 1e6;
    } catch {
      return 0;
    }
  }

  private look(): void {
    const now = performance.now();
    if (this.own) this.worst = Math.max(this.worst, now - this.last - 20);
    this.last = now;
    const waited = new Map(this.pids().map((pid) => [pid, Starvation.waited(pid)]));
    this.looks.push({ at: now, waited });
    while (now - present(this.looks[0]).at > window) this.looks.shift();
    for (const [pid, w] of waited) this.worst = Math.max(this.worst, w - (present(this.looks[0]).waited.get(pid) ?? w));
  }

  begin(): void {
    this.look();
    this.looks.splice(0, this.looks.length - 1);
    this.worst = 0;
  }

  /** The longest wait within any window since {@link begin}, ms: more than the drill can call its own time when it is large. */
  end(): number {
    this.look();
    return this.worst;
  }

  stop(): void {
    clearInterval(this.timer);
  }
}
