import type { DriveSettings } from '@yare/books';
import { InputJob, resolveCommand, wakingMemory, SpeedSource, StartSource, type CommandInputs, type Resolution } from '@yare/core';
import { say } from '@yare/words/command';
import type { Decoded } from './decode';
import { commandSentence, holdText, hz, inputName, speedText } from './words';
import { quietInputs, restsClosed } from './quiet';

/** Somebody else who may speak, and what would come of it. */
export interface OtherSpeaker {
  id: string;
  /** as the subject of a row: "Start button at D1 pressed" */
  who: string;
  would: string;
}

/** What comes of a resolution, in a few words. */
function outcome(d: DriveSettings, now: Resolution, then: Resolution): string {
  const first = then.holds.find((h) => h !== 'no speed' && h !== 'reverse forbidden') ?? then.holds[0];
  if (then.run && then.holds.length === 0) {
    const at = then.reference === null ? say.atWhatTheProcessAsks : say.at({ hz: hz(then.reference) });
    if (!now.run) return say.itStartsSetsTheSpeed({ at, speedText: speedText(d, then.speed, then.preset) });
    if (then.reference === now.reference && then.speed === now.speed) return say.nothingChanges;
    return say.itGoesOnSetsThe({ at, speedText: speedText(d, then.speed, then.preset) });
  }
  if (now.run && !then.run) return say.itStops({ first: first ? holdText(d, first, then) : '' }).trim();
  return say.nothingStarts({ first: first ? holdText(d, first, then) : '' }).trim();
}

/** What somebody does to a contact: from rest, and back. */
const verbs: Partial<Record<InputJob, readonly [worked: string, back: string]>> = {
  [InputJob.startPulse]: [say.startButtonPressed, say.startButtonLetGo],
  [InputJob.reversePulse]: [say.reverseButtonPressed, say.reverseButtonLetGo],
  [InputJob.runForward]: [say.runContactClosed, say.runContactOpened],
  [InputJob.runReverse]: [say.reverseContactClosed, say.reverseContactOpened],
  [InputJob.hand]: [say.selectorTurnedToHand, say.selectorTurnedToOff],
  [InputJob.auto]: [say.selectorTurnedToAuto, say.selectorTurnedToOff],
  [InputJob.jogForward]: [say.jogContactClosed, say.jogContactOpened],
  [InputJob.jogReverse]: [say.jogBackwardClosed, say.jogBackwardOpened],
  [InputJob.presetBit0]: [say.speedContactClosed, say.speedContactOpened],
  [InputJob.presetBit1]: [say.speedContactClosed2, say.speedContactOpened2],
  [InputJob.presetBit2]: [say.speedContactClosed3, say.speedContactOpened3],
  [InputJob.presetBit3]: [say.speedContactClosed4, say.speedContactOpened4],
  [InputJob.secondSetpoint]: [say.contactForTheSecondSet, say.contactForTheSecondSet2],
  [InputJob.local]: [say.localSwitchedOn, say.localSwitchedOff],
  [InputJob.direction]: [say.directionContactClosed, say.directionContactOpened],
  [InputJob.stopOpens]: [say.stopButtonPressed, say.stopButtonLetGo],
  [InputJob.enable]: [say.enableOpened, say.enableClosed],
};

/** Where things stand at a drive: what is at its inputs, and what it remembers. */
export type AsItStands = Pick<Decoded, 'inputs' | 'memory'>;

/** Everything on a good day, nobody working anything. */
export function atRest(d: DriveSettings): AsItStands {
  const closed = d.controls().command.jobs.map((job) => restsClosed.includes(job));
  return { inputs: { ...quietInputs, closed }, memory: { ...wakingMemory(false), closed } };
}

/** Everybody else who may speak or fall silent, with what the resolver would make of it from where things stand; nothing is sent. */
function speakers(d: DriveSettings, { inputs, memory }: AsItStands): { rest: Resolution; all: Array<{ id: string; who: string; then: Resolution }> } {
  const { command } = d.controls();
  const { closed, link } = inputs;
  const rest = resolveCommand(command, inputs, memory, 0.01);
  const then = (change: Partial<CommandInputs>): Resolution => resolveCommand(command, { ...inputs, ...change }, rest.memory, 0.01);
  const selectors: readonly InputJob[] = [InputJob.hand, InputJob.auto];
  const all: Array<{ id: string; who: string; then: Resolution }> = [];
  command.jobs.forEach((job, i) => {
    const verb = verbs[job];
    if (!verb) return;
    const worked = closed[i] === !restsClosed.includes(job);
    const next = closed.map((c, n) => (n === i ? !c : !closed[i] && selectors.includes(job) && selectors.includes(command.jobs[n] ?? 0) ? false : c));
    all.push({ id: `job ${job}`, who: `${verb[worked ? 1 : 0]} (${inputName(d, i)})`, then: then({ closed: next }) });
  });
  all.push({ id: 'keypad', who: say.startKeyOfTheKeypad, then: then({ keypad: { start: true, stop: false } }) });
  all.push({ id: 'stop key', who: say.stopKeyOfTheKeypad, then: then({ keypad: { start: false, stop: true } }) });
  const said = link.run ? { ...link, run: false } : { ...link, run: true, reference: command.limits.maximumFrequency };
  all.push({ id: 'link', who: say.aControllerOnTheLink({ run: link.run }), then: then({ link: said }) });
  return { rest, all };
}

/** What would happen if each of the others spoke, or fell silent. */
export function otherSpeakers(d: DriveSettings, from: AsItStands): OtherSpeaker[] {
  const { rest, all } = speakers(d, from);
  return all.map(({ id, who, then }) => ({ id, who, would: outcome(d, rest, then) }));
}

/** What stops a machine that runs by its panel, as somebody has to do it there. */
export function whatStops(d: DriveSettings, from: AsItStands): string[] {
  const { rest, all } = speakers(d, from);
  return rest.run ? all.filter(({ then }) => !then.run).map(({ who }) => who) : [];
}

/** What gives the speed while every preset switch is open. */
export function openSpeed(d: DriveSettings): string {
  const { command } = d.controls();
  const closed = command.jobs.map((job) => restsClosed.includes(job));
  const r = resolveCommand(command, { ...quietInputs, closed }, wakingMemory(false), 0.01);
  return speedText(d, r.speed, r.preset);
}

/** Who may start it in each mode, in one sentence a mode: the drive as it is set, whatever stands at its contacts. */
export function sourceSentences(d: DriveSettings): Array<{ mode: 'remote' | 'local' | 'hand'; sentence: string }> {
  const { command } = d.controls();
  const find = (wanted: InputJob[], jobs: readonly InputJob[]) => jobs.map((j, i) => (wanted.includes(j) ? i : -1)).filter((i) => i >= 0);
  const of = (mode: 'remote' | 'local') => {
    const closed = (mode === 'local' ? command.localJobs : command.jobs).map(
      (job) => restsClosed.includes(job) || (mode === 'local' && job === InputJob.local),
    );
    const jobs = mode === 'local' ? command.localJobs : command.jobs;
    const auto = find([InputJob.auto], jobs)[0];
    if (auto !== undefined) closed[auto] = true;
    const pair = mode === 'local' ? command.local : command.remote;
    if (pair.start === StartSource.terminals && auto === undefined) {
      const run = find([InputJob.runForward], jobs)[0];
      if (run !== undefined && !jobs.includes(InputJob.startPulse)) closed[run] = true;
    }
    const r = resolveCommand(command, { ...quietInputs, closed }, wakingMemory(false), 0.01);
    return commandSentence(d, r, pair.speed === SpeedSource.presets && r.speed === 'keypad');
  };
  const out: ReturnType<typeof sourceSentences> = [{ mode: 'remote', sentence: of('remote') }];
  if (command.jobs.includes(InputJob.local)) out.push({ mode: 'local', sentence: of('local') });
  if (command.jobs.includes(InputJob.hand)) {
    const closed = command.jobs.map((job) => restsClosed.includes(job) || job === InputJob.hand);
    out.push({ mode: 'hand', sentence: commandSentence(d, resolveCommand(command, { ...quietInputs, closed }, wakingMemory(false), 0.01)) });
  }
  return out;
}
