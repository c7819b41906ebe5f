/** Each half of the window, ms. */
const half = 30_000;

/**
 * How late messages of a client are, from the time they carry on the client's own clock: the least difference to ours within the last
 * half minute or so counts as no delay. (Two clocks that run apart by 100 millionths are 6 ms apart after a minute.)
 */
export class Lateness {
  private least = Infinity;
  private leastBefore = Infinity;
  private since = -Infinity;

  /** When a message was sent, on our clock, and never later than it came. */
  sentAt(sent: number, came: number): number {
    if (came - this.since > half) {
      this.leastBefore = came - this.since > 2 * half ? Infinity : this.least;
      this.least = Infinity;
      this.since = came;
    }
    this.least = Math.min(this.least, came - sent);
    return Math.min(came, sent + Math.min(this.least, this.leastBefore));
  }
}
