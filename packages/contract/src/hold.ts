/** Timing of hold to run. No schema stands here, so that the application can take it without the schema library. */

/** A hold lapses on the server after this long without a repeat, ms. */
export const holdLapse = 600;
/** A client repeats its hold this often, ms. */
export const holdRepeat = 150;
/** Longest link time-out a drive may have for hold to run, s: without its server the motor turns on no longer than this. */
export const longestLinkTimeout = 1;
/** A server that stood still longer than this, or a repeat that was longer on its way, no longer shows a hand on the button, ms. */
export const longestStall = 300;

/**
 * A machine is kept still for its wires to be tried until nobody has asked for it this long, ms: whoever has a finger on its start button has to hear of it
 * when a page goes. A page asks this often.
 */
export const stillLapse = 60_000;
export const stillRepeat = 1000;

/** Why a run stops or has ended. Programs decide on these; the sentence beside them is for people. */
export type StopCause =
  | 'let go'
  | 'silent'
  | 'gone'
  | 'put out'
  | 'stopped'
  | 'stalled'
  | 'server stopping'
  | 'tripped'
  | 'link lost'
  | 'time-out too long'
  | 'other master'
  | 'database'
  | 'locked'
  | 'not ready'
  | 'measured'
  | 'out of band'
  | 'not measured'
  | 'fault';

/** What a machine is claimed for: one act at a time. */
export type Purpose = 'hold' | 'tune' | 'write' | 'keep' | 'read' | 'drive' | 'address' | 'bench' | 'reset' | 'wires';

/** Why a press was refused before anything was done. */
export type RefusalCode =
  'ticket' | 'late' | 'claimed' | 'not alone' | 'no link' | 'not ready' | 'cannot measure' | 'no frequency' | 'disk' | 'fault';
