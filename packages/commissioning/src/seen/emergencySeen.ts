import type { Observer } from './observer';

/** An emergency run that was seen from its beginning to its end: s, and the highest it ran at, Hz. */
export interface EmergencyFound {
  seconds: number;
  frequency: number;
}

/** s it has to last, and Hz below its emergency speed that it has to reach. */
const least = 5;
const within = 1;

/** Emergency ventilation, asked for and let go again: it has to come to its speed and to stay there for a moment. @param wanted Hz */
export const emergencyObserver = (wanted: number): Observer<{ began: number; fastest: number } | null, EmergencyFound | null> => ({
  begin: null,
  none: null,
  look(pending, found, s) {
    if (s.link === 'down') return { pending: null, found };
    if (s.doing === 'emergency') {
      const fastest = s.searching ? 0 : Math.abs(s.outputFrequency);
      return { pending: { began: pending?.began ?? s.at, fastest: Math.max(pending?.fastest ?? 0, fastest) }, found };
    }
    if (!pending) return { pending, found };
    const seconds = (s.at - pending.began) / 1000;
    const counts = seconds >= least && pending.fastest >= wanted - within;
    return { pending: null, found: counts ? { seconds, frequency: pending.fastest } : found };
  },
});
