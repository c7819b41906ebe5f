import { InputJob, type CommandInputs } from '@yare/core';

/** Everything besides the contacts on a good day: signals half way, nobody at the keypad, a controller that says nothing, nothing wrong. */
export const quietInputs: Omit<CommandInputs, 'closed'> = {
  analogue: 0.5,
  second: 0.5,
  keypad: { start: false, stop: false },
  link: { alive: true, run: false, reference: 0 },
  borrowed: false,
  torqueAllowed: true,
  trip: null,
  present: 0,
};

/** Jobs whose contact is closed while nobody works it and nothing is wrong. */
export const restsClosed: readonly InputJob[] = [InputJob.stopOpens, InputJob.enable];
