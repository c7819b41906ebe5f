import { toldOf, type DriveSettings, type Told } from '@yare/books';
import type { LiveSample } from '@yare/contract';
import {
  inputsTold,
  presetOf,
  resolveCommand,
  wakingMemory,
  whoLost,
  type CommandInputs,
  type CommandMemory,
  type Lost,
  type Resolution,
} from '@yare/core';

type Seen = Pick<LiveSample, 'words' | 'holder' | 'state' | 'trip' | 'outputFrequency'>;

/** What a drive says of its command over the link, beside what its settings make of the inputs it tells. */
export interface Decoded {
  told: Told;
  /** what the resolver was given: what stands at the drive, and what it must remember */
  inputs: CommandInputs;
  memory: CommandMemory;
  /** by the resolver, from the same inputs, and who has lost to whom */
  resolution: Resolution;
  lost: Lost[];
}

/** The inputs of the resolver as the drive tells them. A key is told by its start alone, a controller that says run by being the source in force. */
function inputsOf(d: DriveSettings, told: Told, { words, holder, trip, outputFrequency }: Seen): CommandInputs {
  const { closed, sto } = inputsTold(words.inputs, d.inputs.length);
  const said = told.start === 'link' && !told.held.includes('not asked');
  return {
    closed,
    analogue: words.analogue / 100,
    second: words.second / 100,
    keypad: { start: false, stop: false },
    link: said ? { alive: true, run: true, reference: outputFrequency } : { alive: true, run: false, reference: 0 },
    borrowed: holder === 'here' || holder === 'other',
    torqueAllowed: sto,
    // that it has tripped is enough here: restarts by cause are the drive's own
    trip: trip ? 'settingsConflict' : null,
    present: outputFrequency,
  };
}

/**
 * What the drive must remember, told from what it says: whether its buttons have latched it, and whether a start has to be renewed.
 * @param way which way they have
 */
function memoryOf(told: Told, { state, outputFrequency }: Seen, closed: readonly boolean[], way: 1 | -1): CommandMemory {
  const asked = !told.held.includes('not asked');
  return {
    ...wakingMemory(told.held.includes('start to be renewed')),
    latched: told.start === 'start button' && asked ? way : 0,
    keyed: told.start === 'keypad' && asked ? 1 : 0,
    ran: state === 'running' || state === 'asleep',
    mode: told.mode,
    giver: told.start,
    speed: told.speed,
    upDown: Math.abs(outputFrequency),
    closed,
  };
}

/** Decodes a sample of a drive into who has command, with the settings that are in the drive. */
export function decode(held: DriveSettings, sample: Seen): Decoded {
  const told = toldOf(held.book, sample.words);
  const inputs = inputsOf(held, told, sample);
  const { command } = held.controls();
  // a preset with a minus sign turns backwards what was latched forwards
  const forward = memoryOf(told, sample, inputs.closed, 1);
  const against = (resolveCommand(command, inputs, forward, 0).reference ?? 0) * sample.outputFrequency < 0;
  const memory = against ? memoryOf(told, sample, inputs.closed, -1) : forward;
  return {
    told,
    inputs,
    memory,
    resolution: resolveCommand(command, inputs, memory, 0),
    lost: whoLost(command, inputs, memory, 0),
  };
}

/** The command in force as the drive itself says it; the terminal and the preset are read off its inputs. */
export function inForce(
  held: DriveSettings,
  { told, inputs: { closed }, resolution }: Decoded,
): Pick<Resolution, 'start' | 'startInput' | 'speed' | 'preset'> {
  const { command } = held.controls();
  const jobs = told.mode === 'local' ? command.localJobs : command.jobs;
  const preset = told.speed === 'preset' ? presetOf(jobs, closed) : 0;
  return { start: told.start, startInput: resolution.start === told.start ? resolution.startInput : null, speed: told.speed, preset };
}
