/** Filling an empty pipe slowly before the loop may have it, so that nothing hammers. */
export interface FillSettings {
  /** Hz; 0 never fills */
  frequency: number;
  /** share of the sensor's range at which the pipe counts as full */
  level: number;
  /** s it may take */
  time: number;
}

export interface FillState {
  filling: boolean;
  /** s */
  age: number;
}

export const restingFill = (): FillState => ({ filling: false, age: 0 });

/** A fresh run in process fills when the pipe is not full. @param feedback % of the range */
export function beginFill(state: FillState, s: FillSettings, feedback: number): void {
  state.filling = s.frequency > 0 && feedback < 100 * s.level;
  state.age = 0;
}

/** One scan: it fills, it is full, or it has taken longer than it may. */
export function stepFill(state: FillState, s: FillSettings, feedback: number, dt: number): 'no' | 'fills' | 'late' {
  if (!state.filling) return 'no';
  state.age += dt;
  if (feedback >= 100 * s.level) state.filling = false;
  else if (state.age > s.time) return 'late';
  return state.filling ? 'fills' : 'no';
}
