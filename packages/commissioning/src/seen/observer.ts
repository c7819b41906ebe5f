import type { LiveSample } from '@yare/contract';

/**
 * Something that is seen to happen at a machine, told from its samples alone. `Found` is what was seen for good and is kept with what it rests on;
 * `Pending` is what is only under way. Pure: a look makes new ones.
 */
export interface Observer<Pending, Found> {
  begin: Pending;
  none: Found;
  look(pending: Pending, found: Found, sample: LiveSample): { pending: Pending; found: Found };
}

/** A sample that tells of a shaft that turns by what it was asked: no search, no stop. */
export const reallyRuns = (s: LiveSample): boolean =>
  s.link === 'up' && s.state === 'running' && !s.searching && Math.abs(s.outputFrequency) >= leastTurning;

/** Hz below which nobody sees a shaft turn. */
export const leastTurning = 0.5;
