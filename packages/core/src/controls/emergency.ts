import { EmergencyEnds, EmergencyOverride, ReversePermit } from '../drive';
import type { Machine } from '../machine';

/** A fan that has to go on while something burns. */
export interface EmergencySettings {
  /** Hz; 0 the drive knows of no emergency */
  frequency: number;
  /** see ReversePermit: 0 forward, 1 reverse */
  reverse: boolean;
  overrides: EmergencyOverride;
  /** see EmergencyEnds */
  ends: number;
}

export interface EmergencyState {
  active: boolean;
  /** how often, s in all, and trips it ran on through in all before the present one */
  count: number;
  seconds: number;
  ignoredBefore: number;
  /** s since a trip that stops even this */
  sinceTrip: number;
}

export const restingEmergency = (): EmergencyState => ({ active: false, count: 0, seconds: 0, ignoredBefore: 0, sinceTrip: 0 });

/** s after a trip that stops even an emergency, before it is cleared and tried again without end. */
const triesAgain = 5;

const ignoredNow = (m: Pick<Machine, 'ignored'>): number => m.ignored.reduce((sum, x) => sum + x, 0);

/** Trips it has run on through since it was made. */
export const ignoredInAll = (state: EmergencyState, m: Pick<Machine, 'ignored'>): number => state.ignoredBefore + ignoredNow(m);

/** One scan: whether it runs now, and whether a trip is to be cleared. Tells the machine what to run on through. */
export function stepEmergency(
  state: EmergencyState,
  s: EmergencySettings,
  asked: boolean,
  m: Machine,
  dt: number,
): { runs: boolean; clears: boolean } {
  const runs = s.frequency > 0 && (asked || (state.active && s.ends === EmergencyEnds.powerCycle));
  if (runs && !state.active) {
    state.count++;
    state.ignoredBefore += ignoredNow(m);
    m.ignored.fill(0);
    state.sinceTrip = triesAgain;
  }
  state.active = runs;
  m.conditions.emergency = runs ? s.overrides : EmergencyOverride.none;
  if (!runs) return { runs, clears: false };
  state.seconds += dt;
  if (m.trip === null) {
    state.sinceTrip = 0;
    return { runs, clears: false };
  }
  state.sinceTrip += dt;
  const clears = s.overrides !== EmergencyOverride.none && state.sinceTrip >= triesAgain;
  if (clears) state.sinceTrip = 0;
  return { runs, clears };
}

/** Hz, signed. */
export const emergencySpeed = (s: EmergencySettings): number => (s.reverse ? -s.frequency : s.frequency);

/** Whether the way it is to turn is one the drive may turn. */
export const emergencyTurns = (s: EmergencySettings, reversePermit: number): boolean => !s.reverse || reversePermit === ReversePermit.permitted;
