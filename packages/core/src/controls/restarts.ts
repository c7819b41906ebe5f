import { protections, type TripCause } from '../drive';

/** How a drive starts again by itself after a trip. */
export interface RestartSettings {
  /** times */
  autoRestarts: number;
  /** s */
  restartInterval: number;
}

export interface RestartState {
  /** restarts made since power came or a person reset it */
  made: number;
  /** s since the trip */
  sinceTrip: number;
}

/** What a tripped drive does now: wait for its interval, clear the trip by itself, or wait for a person. */
export type RestartAct = 'waits' | 'clears' | 'needs a person';

/** One scan of a tripped drive whose start is given. */
export function stepRestarts(state: RestartState, s: RestartSettings, cause: TripCause, dt: number): RestartAct {
  state.sinceTrip += dt;
  if (!protections[cause].autoRestart || state.made >= s.autoRestarts) return 'needs a person';
  if (state.sinceTrip < s.restartInterval) return 'waits';
  state.made++;
  return 'clears';
}
