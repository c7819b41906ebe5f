import type { LiveSample } from '@yare/contract';
import { say } from '@yare/words/commissioning';

/** A machine whose figures are older than this is told as old by whoever shows them, ms. */
export const oldAfter = 1800;

/** What is known of a machine whose drive says nothing: no figure, whatever was last read. @param at ms since 1970 @param command why, in words */
export const noLink = (tag: string, at: number, command = say.driveDoesNotAnswer): LiveSample => ({
  tag,
  at,
  link: 'down',
  state: 'no link',
  outputFrequency: 0,
  searching: false,
  motorCurrent: 0,
  busVoltage: 0,
  motorSpeed: 0,
  torque: 0,
  reference: 0,
  motorHeat: 0,
  power: 0,
  driveTemperature: 0,
  feedback: 0,
  setpoint: 0,
  trip: null,
  holder: 'unknown',
  command,
  waits: null,
  unkept: false,
  stillUntil: null,
  doing: 'nothing',
  warns: [],
  pumps: [],
  words: { mode: 0, startedBy: 0, speedBy: 0, heldBack: 0, inputs: 0, outputs: 0, analogue: 0, second: 0 },
  another: null,
});
