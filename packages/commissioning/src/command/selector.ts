import type { DriveSettings } from '@yare/books';
import {
  AnalogueSignal,
  holdBacks,
  InputJob,
  LiveZeroAction,
  resolveCommand,
  selectorWired,
  SpeedSource,
  StartSource,
  StopKey,
  wakingMemory,
  type HoldBack,
  type Resolution,
} from '@yare/core';
import { say } from '@yare/words/command';
import { commandSentence, holdNames, holdText, hz, speedText } from './words';
import { quietInputs, restsClosed } from './quiet';

/** Where a hand-off-auto selector can stand. */
export type Position = 'hand' | 'off' | 'auto';

/** The contacts at a position, everything else as it rests. */
function contactsOf(d: DriveSettings, position: Position): boolean[] {
  const { jobs, externalTripOpenIsHealthy } = d.controls().command;
  return jobs.map((job) => {
    if (job === InputJob.hand) return position === 'hand';
    if (job === InputJob.auto) return position === 'auto';
    return restsClosed.includes(job) || (job === InputJob.externalTrip && !externalTripOpenIsHealthy) || job === InputJob.flowSwitch;
  });
}

function at(d: DriveSettings, position: Position, before?: Resolution): Resolution {
  const { command } = d.controls();
  const inputs = { ...quietInputs, closed: contactsOf(d, position) };
  return resolveCommand(command, inputs, before?.memory ?? wakingMemory(false), 0.01);
}

/** What each position does to start and speed, in a sentence. */
export function positionsOf(d: DriveSettings): Array<{ position: Position; sentence: string }> {
  return (['hand', 'off', 'auto'] as const).map((position) => {
    const r = at(d, position);
    return { position, sentence: position === 'off' ? say.itStopsAndNothingStarts : commandSentence(d, r) };
  });
}

/** What a turn of the selector does, from one position to another. Nothing is sent. */
export function tryPosition(d: DriveSettings, from: Position, to: Position): { run: boolean; sentence: string } {
  const before = at(d, from, at(d, 'off'));
  // between hand and auto the selector goes through off
  const then = at(d, to, from !== 'off' && to !== 'off' && from !== to ? at(d, 'off', before) : before);
  const first = then.holds[0];
  if (!then.run) return { run: false, sentence: say.itStops2({ run: before.run, first: first ? holdText(d, first, then) : '' }).trim() };
  const speed = then.reference === null ? say.atWhatTheProcessAsks : say.at({ hz: hz(then.reference) });
  return {
    run: true,
    sentence: say.setsTheSpeed({ run: before.run, from: from === to, speed, speedText: speedText(d, then.speed, then.preset) }),
  };
}

/** What may hold this drive back as it is set, in the order it is looked at. */
export function permissivesOf(d: DriveSettings): Array<{ hold: HoldBack; name: string }> {
  const { command } = d.controls();
  const jobs = [...command.jobs, ...command.localJobs];
  const pairs = [command.remote, command.local];
  const has = (...wanted: InputJob[]) => wanted.some((j) => jobs.includes(j));
  const link = pairs.some((p) => p.start === StartSource.link || p.speed === SpeedSource.link);
  const signal = command.analogue.signal === AnalogueSignal.liveZero && command.onLiveZeroLoss === LiveZeroAction.stop;
  const applies: Partial<Record<HoldBack, boolean>> = {
    'safe torque off': true,
    tripped: true,
    borrowed: true,
    'selector both': selectorWired(command),
    'selector off': selectorWired(command),
    'stop contact': has(InputJob.stopOpens),
    'stop key': command.stopKey === StopKey.always || pairs.some((p) => p.start === StartSource.keypad),
    'enable contact': has(InputJob.enable),
    'both directions': has(InputJob.runForward) && has(InputJob.runReverse),
    'live zero lost': signal,
    'link lost': link,
    'not asked': true,
    'start to be renewed': true,
    'reverse forbidden':
      command.limits.reversePermit === 0 &&
      (has(InputJob.runReverse, InputJob.reversePulse, InputJob.direction) || command.presets.some((p) => p < 0)),
    'no speed': true,
    asleep: d.roleValue('sleepFrequency') > 0 && pairs.some((p) => p.speed === SpeedSource.process),
  };
  return holdBacks.filter((h) => applies[h]).map((hold) => ({ hold, name: holdNames[hold] }));
}
