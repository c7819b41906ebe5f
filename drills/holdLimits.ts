/** Below this no shaft is said to turn, rpm: a drive that looks for a turning motor turns none. */
export const turning = 60;
/** A fall is told from the shaft's own ripple by this, rpm. */
export const fall = 8;
/** Without a fall within this the motor ran on, ms. */
export const longest = 4000;
/** After a fall it is watched for this long, ms: nothing may start again. */
export const after = 1200;
/** A shaft that gains this much again, rpm, with a share of its current in the motor, was started. */
export const rise = 24;
export const currentShare = 0.25;
/** A machine that does not stand within this is left out of a batch, ms. */
export const soon = 1500;
