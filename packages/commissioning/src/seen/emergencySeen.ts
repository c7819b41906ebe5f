import type { Observer } from './observer';

/** An emergency run that was seen from its beginning to its end: s, the highest it ran at, Hz, and how many trips it had run through before it. */
export interface EmergencyFound {
  seconds: number;
  frequency: number;
  ignored: number;
}

/** s it has to last, and Hz below its emergency speed that it has to reach. */
const least = 5;
const within = 1;

/**
 * Emergency ventilation, asked for and let go again: it has to come to its speed and to stay there for a moment.
 * @param wanted Hz
 * @param ignored trips the drive's log says it ran through so far
 */
export const emergencyObserver = (
  wanted: number,
  ignored: () => number = () => 0,
): Observer<{ began: number; fastest: number; ignored: number } | null, EmergencyFound | null> => ({
  begin: null,
  none: null,
  look(pending, found, s) {
    if (s.link === 'down') return { pending: null, found };
    if (s.doing === 'emergency') {
      const fastest = s.searching ? 0 : Math.abs(s.outputFrequency);
      // what stands in the log when the run begins was run through before it
      const { began, ignored: before } = pending ?? { began: s.at, ignored: ignored() };
      return { pending: { began, ignored: before, fastest: Math.max(pending?.fastest ?? 0, fastest) }, found };
    }
    if (!pending) return { pending, found };
    const seconds = (s.at - pending.began) / 1000;
    const counts = seconds >= least && pending.fastest >= wanted - within;
    return { pending: null, found: counts ? { seconds, frequency: pending.fastest, ignored: pending.ignored } : found };
  },
});
