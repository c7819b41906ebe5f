import type { DriveSettings } from '@yare/books';
import { InputJob, resolveCommand, wakingMemory, SpeedSource, StartSource, type CommandInputs, type Resolution } from '@yare/core';
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
    const at = then.reference === null ? 'at what the process asks' : `at ${hz(then.reference)}`;
    if (!now.run) return `it starts, ${at}: ${speedText(d, then.speed, then.preset)} sets the speed`;
    if (then.reference === now.reference && then.speed === now.speed) return 'nothing changes';
    return `it goes on, ${at}: ${speedText(d, then.speed, then.preset)} sets the speed`;
  }
  if (now.run && !then.run) return `it stops. ${first ? holdText(d, first, then) : ''}`.trim();
  return `nothing starts. ${first ? holdText(d, first, then) : ''}`.trim();
}

const verbs: Partial<Record<InputJob, string>> = {
  [InputJob.startPulse]: 'Start button pressed',
  [InputJob.reversePulse]: 'Reverse button pressed',
  [InputJob.runForward]: 'Run contact closed',
  [InputJob.runReverse]: 'Reverse contact closed',
  [InputJob.hand]: 'Selector turned to hand',
  [InputJob.auto]: 'Selector turned to auto',
  [InputJob.jogForward]: 'Jog contact closed',
  [InputJob.jogReverse]: 'Jog backward closed',
  [InputJob.presetBit0]: 'Speed contact 1 closed',
  [InputJob.presetBit1]: 'Speed contact 2 closed',
  [InputJob.presetBit2]: 'Speed contact 4 closed',
  [InputJob.presetBit3]: 'Speed contact 8 closed',
  [InputJob.local]: 'Local switched on',
  [InputJob.direction]: 'Direction contact closed',
  [InputJob.stopOpens]: 'Stop button pressed',
  [InputJob.enable]: 'Enable opened',
};

/**
 * What would happen if each of the others spoke, from where the contacts stand now. Worked out by the resolver; nothing is sent.
 * @param closed contacts as they are @param now what else is so: taken command, trip, safety
 */
export function otherSpeakers(d: DriveSettings, closed: readonly boolean[], now: Partial<CommandInputs> = {}): OtherSpeaker[] {
  const { command } = d.controls();
  const inputs: CommandInputs = { ...quietInputs, ...now, closed };
  const rest = resolveCommand(command, inputs, { ...wakingMemory(false), closed, mode: null }, 0.01);
  const then = (change: Partial<CommandInputs>): Resolution => resolveCommand(command, { ...inputs, ...change }, rest.memory, 0.01);
  const out: OtherSpeaker[] = [];
  command.jobs.forEach((job, i) => {
    const verb = verbs[job];
    const wouldOpen = restsClosed.includes(job);
    // what it is asked to do it does already
    if (!verb || closed[i] === !wouldOpen) return;
    const selector = job === InputJob.hand || job === InputJob.auto;
    const next = closed.map((c, n) =>
      n === i ? !wouldOpen : selector && (command.jobs[n] === InputJob.hand || command.jobs[n] === InputJob.auto) ? false : c,
    );
    out.push({ id: `job ${job}`, who: `${verb} (${inputName(d, i)})`, would: outcome(d, rest, then({ closed: next })) });
  });
  out.push({ id: 'keypad', who: 'Start key of the keypad pressed', would: outcome(d, rest, then({ keypad: { start: true, stop: false } })) });
  const link = then({ link: { alive: true, run: true, reference: command.limits.maximumFrequency } });
  out.push({ id: 'link', who: 'A controller on the link says run', would: outcome(d, rest, link) });
  return out;
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
