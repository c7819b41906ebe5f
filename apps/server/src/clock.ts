/**
 * Ms since 1970 by the computer's clock when this process began, running on evenly from there: what is measured by it does not change when
 * somebody sets the clock.
 */
export const steadyNow = (): number => Math.round(performance.timeOrigin + performance.now());

/** The time of day, ms since 1970, of a moment told by {@link steadyNow}. */
export const timeOfDay = (steady: number): number => steady + Date.now() - steadyNow();
