import { formatFigure } from '@yare/core/units';

export const say = {
  andBothHaveTheJob: ({ a, code, b, code2, text }: { a: string; code: string; b: string; code2: string; text: string }) =>
    `${a} (${code}) and ${b} (${code2}) both have the job ${text}: either contact does it, and the other cannot take it back.`,
  leaveUnused: ({ b }: { b: string }) => `Leave ${b} unused`,
  leaveUnused2: ({ a }: { a: string }) => `Leave ${a} unused`,
  give: ({ inputName, what }: { inputName: string; what: string }) => `Give ${inputName} ${what}`,
  theStop: 'the stop',
  useARunContactInstead: 'Use a run contact instead of a button',
  aButtonStartsItAnd: ({ inputName, code }: { inputName: string; code: string }) =>
    `A button starts it and no input stops it: ${inputName} (${code}) latches the start, and nothing at the terminals takes it away.`,
  doWithoutTheSelector: 'Do without the selector',
  makeItARunContact: 'Make it a run contact',
  isHandAndNoInput: ({ inputName, code, hand, hand2, hand3 }: { inputName: string; code: string; hand: boolean; hand2: boolean; hand3: boolean }) =>
    `${inputName} (${code}) is ${hand ? 'hand' : 'auto'} and no input is ${hand2 ? 'auto' : 'hand'}: ${hand3 ? 'it then runs by hand only' : 'it then runs in auto only'}.`,
  isInRemoteAndIn: ({
    name,
    text,
    code,
    text2,
    code2,
    guards,
  }: {
    name: string;
    text: string;
    code: string;
    text2: string;
    code2: string;
    guards: boolean;
  }) =>
    `${name} is ${text} (${code}) in remote and ${text2} (${code2}) in local: ${guards ? 'in local nobody guards that' : 'in local that job is not done'}, and the wire that does one job there does the other.`,
  letKeepItsJobIn: ({ name }: { name: string }) => `Let ${name} keep its job in local`,
  moveTo: ({ text, inputName }: { text: string; inputName: string }) => `Move ${text} to ${inputName}`,
  aSelectorIsWiredAnd: 'a selector is wired, and its position starts it',
  says: ({ name, code, text }: { name: string; code: string; text: string }) => `${name} ${code} says ${text}`,
  itStartsFromElsewhere: 'it starts from elsewhere',
  theSpeedComesFromElsewhere: 'the speed comes from elsewhere',
  noFrequencyAgainstFrostIs: 'no frequency against frost is set',
  noStrokesOfCleaningAre: 'no strokes of cleaning are set',
  whateverElseIsClosedNothing: 'whatever else is closed, nothing changes by it',
  whileIsInForce: ({ mode }: { mode: string }) => ` while ${mode} is in force`,
  hasTheJobAndDoes: ({ name, text, code, where, whyIdle }: { name: string; text: string; code: string; where: string; whyIdle: string }) =>
    `${name} has the job ${text} (${code}) and does nothing${where}: ${whyIdle}.`,
  goToCommand: 'Go to Command',
  leaveUnused3: ({ name }: { name: string }) => `Leave ${name} unused`,
  giveTheBrakeTo: ({ role }: { role: string }) => `Give the brake to ${role}`,
  worksABrakeAndNo: ({ name, code }: { name: string; code: string }) =>
    `${name} (${code}) works a brake, and no output has that job: the brake never opens and the motor runs against it.`,
  waitsForHzAndThe: ({ name, code, frequency, most }: { name: string; code: string; frequency: number; most: number }) =>
    `${name} (${code}) waits for ${formatFigure(frequency, 1)} Hz and the drive goes to ${formatFigure(most, 1)} Hz: it never switches.`,
  useHz: ({ most }: { most: number }) => `Use ${formatFigure(most, 1)} Hz`,
  closingTheEnableAtStarts: ({ inputName }: { inputName: string }) =>
    `Closing the enable at ${inputName} starts it whenever the run contact is closed already.`,
  wantTheRunContactClosed: 'Want the run contact closed anew',
  noWireTriedYet: 'no wire tried yet',
};
