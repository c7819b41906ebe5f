/** Below this no shaft is said to turn, rpm: a drive that looks for a turning motor turns none. */
export const turning = 60;
/** A shaft that changes by less than this, rpm, in each of so many fifths of a second, turns with its field and its load; it is given so many of them. */
export const settled = 2;
export const settledFor = 4;
export const ripplesFor = 10;
export const mostWindows = 250;
/** Below this a shaft stands, rpm. */
export const standing = 15;
/** A fall is told by this, rpm, from the shaft's own ripple, and from the fastest it was within so many ms. */
export const fall = 8;
export const lookBack = 1000;
/** It falls while it loses so much, rpm, in each so many ms: more than a shaft wanders. */
export const leastLoss = 1;
export const step = 80;
/** Without a fall within this the motor ran on, ms. */
export const longest = 4000;
/** After a fall it is watched for this long, ms: nothing may start again. */
export const after = 1200;
/** A shaft that gains this much again, rpm, with a share of its current in the motor, was started. */
export const rise = 24;
export const currentShare = 0.25;
/** A machine that does not stand within this is left out of a batch, ms. */
export const soon = 1500;
