/** Below this nothing is said to turn, Hz. */
export const turning = 1.5;
/** A fall is told from the output's own ripple by this, Hz. */
export const fall = 0.05;
/** Without a fall within this the motor ran on, ms. */
export const longest = 4000;
/** After a fall it is watched for this long, ms: nothing may start again. */
export const after = 1200;
/** Output that rises again by this is a restart, Hz. */
export const rise = 0.4;
/** A machine that does not stand within this is left out of a batch, ms. */
export const soon = 1500;
