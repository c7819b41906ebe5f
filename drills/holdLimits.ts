/** Below this no shaft is said to turn, rpm: a drive that looks for a turning motor turns none. */
export const turning = 60;
/**
 * A shaft that changes by less than `steady`, rpm, in each of `settledFor` fifths of a second, or by less than `settled` in `ripplesFor` of them,
 * turns with its field and its load: a heavy fan that still catches up gains 2 rpm in each and would go on gaining. It is given so many windows.
 */
export const steady = 0.15;
export const settled = 2;
export const settledFor = 4;
export const ripplesFor = 10;
export const mostWindows = 250;
/** Below this current, A, no drive turns its motor: the least of the plant magnetises with more. A fan may go on by the wind of others. */
export const noCurrent = 0.05;
/** Below this a shaft stands, rpm. */
export const standing = 15;
/** A fall is told by this, rpm, from the shaft's own ripple, and from the fastest it was within so many ms. */
export const fall = 8;
export const lookBack = 1000;
/** It falls once it is slower by this, rpm, than it was while it was held. */
export const leastLoss = 0.3;
/** Or once its current is less by this share. */
export const leastDrop = 0.03;
/** Without a fall within this the motor ran on, ms. */
export const longest = 4000;
/** After a fall it is watched for this long, ms: nothing may start again. */
export const after = 1200;
/** A shaft that gains this much again, rpm, with a share of its current in the motor, was started. */
export const rise = 24;
export const currentShare = 0.25;
/** A machine that does not stand within this is left out of a batch, ms. */
export const soon = 1500;
