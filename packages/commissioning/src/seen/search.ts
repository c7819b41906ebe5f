/**
 * A drive that starts on a turning motor first looks for it: it puts out its highest frequency at once and comes down until it has found the shaft, or
 * that none turns. What it shows meanwhile is no speed of anything, and belongs to no peak, no proof and no record.
 */

/** s in which a drive has looked its range through. */
const longest = 3;
/** Hz an output is at from one sample to the next that no ramp brings it to, and s between two samples past which that says nothing. */
const atOnce = 15;
const close = 0.35;
/** Hz by which an output has moved, and below which none turns. */
const moved = 0.3;
const rest = 0.1;
/** A search that stays where it began for so long, s, was none. */
const stays = 0.5;

/** Tells of a drive's output, sample by sample, whether it is looking for a turning motor. */
export class SearchWatch {
  private before: { time: number; size: number } | null = null;
  private since: { time: number; from: number; least: number } | null = null;

  /** @param time s @param frequency Hz, signed */
  look(time: number, frequency: number): boolean {
    const size = Math.abs(frequency);
    const { before, since } = this;
    this.before = { time, size };
    if (since === null) {
      if (before && before.size <= rest && size >= atOnce && time - before.time <= close) this.since = { time, from: size, least: size };
    } else {
      const stands = time - since.time > stays && since.least > since.from - moved;
      if (size > since.least + moved || size < 1 || time - since.time > longest || stands) this.since = null;
      else since.least = Math.min(since.least, size);
    }
    return this.since !== null;
  }
}

/**
 * Where a recorded run begins: its first output, or after a search the lowest it came to.
 * @param time s, ascending
 * @param frequency Hz, signed
 * @returns an index; the length when nothing was put out
 */
export function runBegins(time: ArrayLike<number>, frequency: ArrayLike<number>): number {
  const n = frequency.length;
  const size = (i: number): number => Math.abs(frequency[i] ?? 0);
  const at = (i: number): number => time[i] ?? 0;
  let first = 0;
  while (first < n && size(first) <= rest) first++;
  if (first === 0 || first === n || size(first) < atOnce || at(first) - at(first - 1) > close) return first;
  let lowest = first;
  for (let i = first; i < n && at(i) - at(first) <= longest && size(i) <= size(lowest) + moved; i++) if (size(i) < size(lowest)) lowest = i;
  return size(lowest) > size(first) - moved ? first : lowest;
}
