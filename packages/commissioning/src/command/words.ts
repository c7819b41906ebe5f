import type { DriveSettings } from '@yare/books';
import { InputJob, type HoldBack, type Lost, type Resolution, type SpeedGiver, type StartGiver } from '@yare/core';
import { say } from '@yare/words/command';

/** What a sentence about command needs to know: who would start, who has the speed. */
export type Command = Pick<Resolution, 'start' | 'startInput' | 'speed' | 'preset'>;

export const inputIds = ({ book }: Pick<DriveSettings, 'book'>): string[] => book.terminals.filter((t) => t.kind === 'digital in').map((t) => t.id);
export const analogueIds = ({ book }: Pick<DriveSettings, 'book'>): string[] =>
  book.terminals.filter((t) => t.kind === 'analogue in').map((t) => t.id);

/** Terminal of an input, counted from 0. */
export const inputName = (d: DriveSettings, n: number | null): string => (n === null ? '' : (inputIds(d)[n] ?? ''));
const at = (d: DriveSettings, n: number | null): string => (n === null ? '' : say.at2({ inputName: inputName(d, n) }));
export const hz = (x: number): string => say.hz2({ x, isInteger: Number.isInteger(x) ? 0 : 1 });

/** Who gives a start, as the subject of a sentence. */
export function starterText(d: DriveSettings, start: StartGiver, input: number | null): string {
  switch (start) {
    case 'hand contact':
      return say.theSelectorAtHand({ inputName: inputName(d, input) });
    case 'auto contact':
      return say.theSelectorAtAuto({ inputName: inputName(d, input) });
    case 'run contact':
      return say.theRunContact({ at: at(d, input) });
    case 'start button':
      return say.theStartButton({ at: at(d, input) });
    case 'jog contact':
      return say.theJogContact({ at: at(d, input) });
    case 'keypad':
      return say.theStartKeyOfThe;
    case 'link':
      return say.aControllerOnTheLink2;
    case 'nothing':
      return 'nothing';
  }
}

/** Who sets the speed, as the subject of a sentence. */
export function speedText(d: DriveSettings, speed: SpeedGiver, preset: number): string {
  const command = d.controls().command;
  const [first, second] = analogueIds(d);
  switch (speed) {
    case 'keypad':
      return say.theKeypadSpeedOf({ hz: hz(command.keypadSpeed) });
    case 'analogue':
      return say.theSignalAt({ first: first ?? 'the analogue input' });
    case 'second analogue':
      return say.theSignalAt2({ second: second ?? 'the second analogue input' });
    case 'preset':
      return preset > 0 ? say.presetOf({ preset, hz: hz(command.presets[preset - 1] ?? 0) }) : say.aPreset;
    case 'process':
      return say.theProcessLoop;
    case 'up and down':
      return say.theFasterAndSlowerContacts;
    case 'link':
      return say.theLink;
    case 'jog':
      return say.theJogSpeedOf({ hz: hz(command.jogSpeed) });
  }
}

const capital = (text: string): string => text.replace(/^./, (c) => c.toUpperCase());

/**
 * One sentence: who starts it and who sets its speed.
 * @param bySwitches the speed is the one with all preset switches open
 */
export function commandSentence(d: DriveSettings, r: Command, bySwitches = false): string {
  const speed = bySwitches
    ? say.theSpeedSwitchesSetIts({ speedText: speedText(d, r.speed, 0) })
    : say.setsItsSpeed({ speedText: speedText(d, r.speed, r.preset) });
  return r.start === 'nothing' ? say.nothingStartsIt({ speed }) : say.startsIt({ capital: capital(starterText(d, r.start, r.startInput)), speed });
}

/** What holds a start back, and what to do. */
export function holdText(d: DriveSettings, hold: HoldBack, r: Command): string {
  const input = (job: InputJob) => inputName(d, d.jobs.indexOf(job)) || say.itsInput;
  switch (hold) {
    case 'safe torque off':
      return say.safeTorqueOffIsOpen;
    case 'tripped':
      return say.itHasTrippedFindThe;
    case 'borrowed':
      return say.commandIsTakenOverThe;
    case 'selector both':
      return say.handAndAutoAreClosed;
    case 'selector off':
      return say.theSelectorStandsAtOff;
    case 'stop contact':
      return say.theStopContactIsOpen({ input: input(InputJob.stopOpens) });
    case 'stop key':
      return say.theStopKeyOfThe;
    case 'enable contact':
      return say.theEnableContactIsOpen({ input: input(InputJob.enable) });
    case 'both directions':
      return say.forwardAndReverseAreClosed;
    case 'live zero lost':
      return say.theSignalIsBelowMa;
    case 'link lost':
      return say.theControllerOnTheLink;
    case 'not asked':
      return r.start === 'nothing' ? say.noInputKeyOrController : say.itWaitsFor({ starterText: starterText(d, r.start, r.startInput) });
    case 'start to be renewed':
      return say.theStartIsStillGiven;
    case 'reverse forbidden':
      return say.itIsToldToTurn;
    case 'no speed':
      return say.theSpeedItIsGiven;
    case 'asleep':
      return say.itStandsByItselfAsleep;
  }
}

/** Names of what may hold a start back, for a row of permissives. */
export const holdNames: Readonly<Record<HoldBack, string>> = {
  'safe torque off': say.safeTorqueOff,
  tripped: say.trip,
  borrowed: say.commandOnTheLink,
  'selector both': say.selectorContacts,
  'selector off': say.selector,
  'stop contact': say.stopContact,
  'stop key': say.stopKey,
  'enable contact': say.enable,
  'both directions': say.directionContacts,
  'live zero lost': say.signal,
  'link lost': say.controller,
  'not asked': say.start,
  'start to be renewed': say.startGivenAnew,
  'reverse forbidden': say.reverse,
  'no speed': say.speed,
  asleep: say.sleep,
};

/** A start or speed that is given and not taken: what was done, and what it lost to. */
export function lostText(d: DriveSettings, l: Lost, r: Command): string {
  const who = l.what === 'start' ? starterText(d, l.from as StartGiver, l.input) : speedText(d, l.from as SpeedGiver, 0);
  const winner = l.what === 'start' ? starterText(d, r.start, r.startInput) : speedText(d, r.speed, r.preset);
  const given = say.startsNothing({ capital: capital(who), what: l.what });
  switch (l.to) {
    case 'borrowed':
      return say.commandIsTakenOverThe2({ given });
    case 'hand':
      return say.theSelectorStandsAtHand({ given });
    case 'selector':
      return say.whereASelectorIsWired({ given });
    case 'jog':
      return say.theJogContactIsClosed({ given });
    case 'stop':
      return say.theStopContactIsOpen2({ given });
    case 'process':
      return say.theProcessLoopHasThe({ given });
    case 'preset':
    case 'source':
      return say.text({ given, what: l.what, winner, speed: r.speed });
  }
}
