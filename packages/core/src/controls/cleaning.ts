/** Turning a pump to and fro so that what has wound itself round its wheel comes off. */
export interface CleaningSettings {
  /** times it goes back and forth; 0 never */
  strokes: number;
  /** Hz, either way, and s of each way */
  frequency: number;
  time: number;
  /** h of running after which it is done by itself; 0 never */
  every: number;
  atStart: boolean;
  /** the high-load guard cleans instead of stopping */
  atLoad: boolean;
  /** times within an hour after which the pump counts as blocked */
  most: number;
}

export interface CleaningState {
  /** halves of strokes left; 0 when it does not clean */
  left: number;
  /** s into the present half, and s the ramp has been where it is asked */
  age: number;
  there: number;
  /** s of running since the last one */
  ran: number;
  /** ages of the cleanings of the last hour, s */
  recent: number[];
  /** it was asked for in the scan before */
  was: boolean;
}

export const restingCleaning = (): CleaningState => ({ left: 0, age: 0, there: 0, ran: 0, recent: [], was: false });

const hour = 3600;
/** s for the ramps down and up; a half that has not got to its speed by then ends without it. */
const patience = 60;

/** What may begin a cleaning. */
export interface CleaningCause {
  /** a fresh run */
  start: boolean;
  contact: boolean;
  load: boolean;
}

/**
 * One scan of a running pump: whether it cleans now, and whether it has been cleaned too often to be anything but blocked.
 * @param settled the ramp stands where it is asked to
 */
export function stepCleaning(
  state: CleaningState,
  s: CleaningSettings,
  cause: CleaningCause,
  settled: boolean,
  dt: number,
): 'no' | 'cleans' | 'blocked' {
  for (const [i, ago] of state.recent.entries()) state.recent[i] = ago + dt;
  if ((state.recent[0] ?? 0) > hour) state.recent.shift();
  const pressed = cause.contact && !state.was;
  state.was = cause.contact;
  if (s.strokes <= 0) return 'no';
  if (state.left === 0) {
    state.ran += dt;
    const due = pressed || (s.atStart && cause.start) || (s.atLoad && cause.load) || (s.every > 0 && state.ran >= s.every * hour);
    if (!due) return 'no';
    if (state.recent.length >= s.most) return 'blocked';
    state.recent.push(0);
    state.left = 2 * s.strokes;
    state.age = state.there = state.ran = 0;
    return 'cleans';
  }
  state.age += dt;
  if (settled) state.there += dt;
  if (state.there >= s.time || state.age >= s.time + patience) {
    state.left--;
    state.age = state.there = 0;
  }
  return state.left > 0 ? 'cleans' : 'no';
}

/** Hz, signed, of the present half: backward first. */
export const cleaningSpeed = (state: CleaningState, s: CleaningSettings): number => (state.left % 2 === 0 ? -s.frequency : s.frequency);
