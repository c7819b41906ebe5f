/** Timing of hold to run. No schema stands here, so that the application can take it without the schema library. */

/** A hold lapses on the server after this long without a repeat, ms. */
export const holdLapse = 600;
/** A client repeats its hold this often, ms. */
export const holdRepeat = 150;
