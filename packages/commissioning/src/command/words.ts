import type { DriveSettings } from '@yare/books';
import { formatFigure, InputJob, type HoldBack, type Lost, type Resolution, type SpeedGiver, type StartGiver } from '@yare/core';

/** What a sentence about command needs to know: who would start, who has the speed. */
export type Command = Pick<Resolution, 'start' | 'startInput' | 'speed' | 'preset'>;

export const inputIds = ({ book }: Pick<DriveSettings, 'book'>): string[] => book.terminals.filter((t) => t.kind === 'digital in').map((t) => t.id);
export const analogueIds = ({ book }: Pick<DriveSettings, 'book'>): string[] =>
  book.terminals.filter((t) => t.kind === 'analogue in').map((t) => t.id);

/** Terminal of an input, counted from 0. */
export const inputName = (d: DriveSettings, n: number | null): string => (n === null ? '' : (inputIds(d)[n] ?? ''));
const at = (d: DriveSettings, n: number | null): string => (n === null ? '' : ` at ${inputName(d, n)}`);
export const hz = (x: number): string => `${formatFigure(x, Number.isInteger(x) ? 0 : 1)} Hz`;

/** Who gives a start, as the subject of a sentence. */
export function starterText(d: DriveSettings, start: StartGiver, input: number | null): string {
  switch (start) {
    case 'hand contact':
      return `the selector at hand (${inputName(d, input)})`;
    case 'auto contact':
      return `the selector at auto (${inputName(d, input)})`;
    case 'run contact':
      return `the run contact${at(d, input)}`;
    case 'start button':
      return `the start button${at(d, input)}`;
    case 'jog contact':
      return `the jog contact${at(d, input)}`;
    case 'keypad':
      return 'the start key of the drive’s keypad';
    case 'link':
      return 'a controller on the link';
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
      return `the keypad speed of ${hz(command.keypadSpeed)}`;
    case 'analogue':
      return `the signal at ${first ?? 'the analogue input'}`;
    case 'second analogue':
      return `the signal at ${second ?? 'the second analogue input'}`;
    case 'preset':
      return preset > 0 ? `preset ${preset} of ${hz(command.presets[preset - 1] ?? 0)}` : 'a preset';
    case 'process':
      return 'the process loop';
    case 'up and down':
      return 'the faster and slower contacts';
    case 'link':
      return 'the link';
    case 'jog':
      return `the jog speed of ${hz(command.jogSpeed)}`;
  }
}

const capital = (text: string): string => text.replace(/^./, (c) => c.toUpperCase());

/**
 * One sentence: who starts it and who sets its speed.
 * @param bySwitches the speed is the one with all preset switches open
 */
export function commandSentence(d: DriveSettings, r: Command, bySwitches = false): string {
  const speed = bySwitches
    ? `the speed switches set its speed, ${speedText(d, r.speed, 0)} with all open`
    : `${speedText(d, r.speed, r.preset)} sets its speed`;
  return r.start === 'nothing' ? `Nothing starts it; ${speed}.` : `${capital(starterText(d, r.start, r.startInput))} starts it; ${speed}.`;
}

/** What holds a start back, and what to do. */
export function holdText(d: DriveSettings, hold: HoldBack, r: Command): string {
  const input = (job: InputJob) => inputName(d, d.jobs.indexOf(job)) || 'its input';
  switch (hold) {
    case 'safe torque off':
      return 'Safe torque off is open: close both channels.';
    case 'tripped':
      return 'It has tripped: find the cause, then reset it.';
    case 'borrowed':
      return 'Command is taken over the link: give it back.';
    case 'selector both':
      return 'Hand and auto are closed together: one of the selector’s wires is wrong.';
    case 'selector off':
      return 'The selector stands at off.';
    case 'stop contact':
      return `The stop contact is open (${input(InputJob.stopOpens)}): nothing starts while it is.`;
    case 'stop key':
      return 'The stop key of the keypad is pressed.';
    case 'enable contact':
      return `The enable contact is open (${input(InputJob.enable)}): close it.`;
    case 'both directions':
      return 'Forward and reverse are closed together: open both, then close one.';
    case 'live zero lost':
      return 'The signal is below 3.6 mA: its wire is broken or its sensor has no supply.';
    case 'link lost':
      return 'The controller on the link is silent.';
    case 'not asked':
      return r.start === 'nothing' ? 'No input, key or controller may start it.' : `It waits for ${starterText(d, r.start, r.startInput)}.`;
    case 'start to be renewed':
      return 'The start is still given: take it away, then give it again.';
    case 'reverse forbidden':
      return 'It is told to turn backwards, and reverse is forbidden: it stands still.';
    case 'no speed':
      return 'The speed it is given is 0 Hz.';
    case 'asleep':
      return 'It stands by itself, asleep, resting after a guard or while other pumps run, and starts again by itself.';
  }
}

/** Names of what may hold a start back, for a row of permissives. */
export const holdNames: Readonly<Record<HoldBack, string>> = {
  'safe torque off': 'Safe torque off',
  tripped: 'Trip',
  borrowed: 'Command on the link',
  'selector both': 'Selector contacts',
  'selector off': 'Selector',
  'stop contact': 'Stop contact',
  'stop key': 'Stop key',
  'enable contact': 'Enable',
  'both directions': 'Direction contacts',
  'live zero lost': 'Signal',
  'link lost': 'Controller',
  'not asked': 'Start',
  'start to be renewed': 'Start given anew',
  'reverse forbidden': 'Reverse',
  'no speed': 'Speed',
  asleep: 'Sleep',
};

/** A start or speed that is given and not taken: what was done, and what it lost to. */
export function lostText(d: DriveSettings, l: Lost, r: Command): string {
  const who = l.what === 'start' ? starterText(d, l.from as StartGiver, l.input) : speedText(d, l.from as SpeedGiver, 0);
  const winner = l.what === 'start' ? starterText(d, r.start, r.startInput) : speedText(d, r.speed, r.preset);
  const given = `${capital(who)} ${l.what === 'start' ? 'starts nothing' : 'sets nothing'}`;
  switch (l.to) {
    case 'borrowed':
      return `${given}: command is taken over the link.`;
    case 'hand':
      return `${given}: the selector stands at hand.`;
    case 'selector':
      return `${given}: where a selector is wired, its position starts it.`;
    case 'jog':
      return `${given}: the jog contact is closed.`;
    case 'stop':
      return `${given}: the stop contact is open, and a stop comes before a start.`;
    case 'process':
      return `${given}: the process loop has the speed.`;
    case 'preset':
    case 'source':
      return `${given}: ${l.what === 'start' ? `${winner} starts it` : `the speed is ${r.speed === 'link' ? 'what the link says' : winner}`}.`;
  }
}
