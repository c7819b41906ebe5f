import type { DriveSettings, Setting, SettingChange } from '@yare/books';
import { InputJob, SpeedSource, StartSource, StationKind } from '@yare/core';
import { say } from '@yare/words/command';

/** What somebody wants the terminals to do: jobs by their importance, what guards before what is handy, and the sources that go with them. */
export interface Scheme {
  id: string;
  name: string;
  jobs: readonly InputJob[];
  start: StartSource;
  speed: SpeedSource;
}

export const schemes: readonly Scheme[] = [
  {
    id: 'two-wire',
    name: say.runContactAndAKnob,
    jobs: [InputJob.runForward, InputJob.externalTrip, InputJob.resetTrip],
    start: StartSource.terminals,
    speed: SpeedSource.analogue,
  },
  {
    id: 'two-wire both ways',
    name: say.forwardAndReverseContactsAnd,
    jobs: [InputJob.runForward, InputJob.runReverse, InputJob.externalTrip, InputJob.resetTrip],
    start: StartSource.terminals,
    speed: SpeedSource.analogue,
  },
  {
    id: 'buttons',
    name: say.startAndStopButtonsThree,
    jobs: [InputJob.startPulse, InputJob.stopOpens, InputJob.externalTrip, InputJob.presetBit0, InputJob.presetBit1, InputJob.resetTrip],
    start: StartSource.terminals,
    speed: SpeedSource.presets,
  },
  {
    id: 'buttons both ways',
    name: say.buttonsForwardReverseAndStop,
    jobs: [
      InputJob.startPulse,
      InputJob.stopOpens,
      InputJob.externalTrip,
      InputJob.reversePulse,
      InputJob.presetBit0,
      InputJob.presetBit1,
      InputJob.resetTrip,
    ],
    start: StartSource.terminals,
    speed: SpeedSource.presets,
  },
  {
    id: 'hand-off-auto',
    name: say.handOffAutoTheProcess,
    jobs: [InputJob.hand, InputJob.auto, InputJob.externalTrip, InputJob.resetTrip, InputJob.flowSwitch],
    start: StartSource.terminals,
    speed: SpeedSource.process,
  },
];

/** A job that found no input, and how one gets by without it. */
export interface JobLeftOut {
  job: InputJob;
  /** no input of the family may do it, or there were too few */
  why: 'never' | 'too few';
  instead: string;
}

export interface Fit {
  /** by input: the job it is to have */
  placed: Array<{ input: number; setting: Setting; job: InputJob }>;
  left: JobLeftOut[];
  /** the family has no such speed source */
  lacksSpeed: boolean;
  changes: SettingChange[];
}

/** How one gets by without a job. Common practice. */
function insteadOf(job: InputJob): string {
  switch (job) {
    case InputJob.resetTrip:
      return say.resetAtTheKeypadOf;
    case InputJob.reversePulse:
    case InputJob.runReverse:
    case InputJob.direction:
      return say.aMinusSignOnA;
    case InputJob.externalTrip:
      return say.putItsContactInSeries;
    case InputJob.presetBit0:
    case InputJob.presetBit1:
    case InputJob.presetBit2:
    case InputJob.presetBit3:
      return say.halfAsManyPresetsOr;
    case InputJob.secondSetpoint:
      return say.theSetPointWrittenOver;
    case InputJob.flowSwitch:
      return say.theLowLoadTripWhich;
    case InputJob.startPulse:
    case InputJob.stopOpens:
      return say.aRunContactStartsAnd;
    case InputJob.hand:
    case InputJob.auto:
      return say.aRunContactAndA;
    default:
      return say.aLargerFamilyHasMore;
  }
}

const carries = (d: DriveSettings, s: Setting, job: InputJob): boolean => d.valueFor(s, job) !== null;

/** Places a job at a free input, or moves others on to inputs that carry them too (augmenting path; Ford and Fulkerson 1956). */
function place(d: DriveSettings, inputs: readonly Setting[], held: Array<InputJob | null>, job: InputJob, tried: Set<number>): boolean {
  const may = inputs.flatMap((s, i) => (!tried.has(i) && carries(d, s, job) ? [i] : []));
  const free = may.find((i) => held[i] === null);
  if (free !== undefined) {
    held[free] = job;
    return true;
  }
  return may.some((i) => {
    tried.add(i);
    const there = held[i];
    if (there === null || there === undefined || !place(d, inputs, held, there, tried)) return false;
    held[i] = job;
    return true;
  });
}

/** What starts, stops and steers by hand: a scheme says all of it anew. What guards, or is wired for something else, stays where it is. */
const steering: ReadonlySet<InputJob> = new Set<InputJob>([
  ...[InputJob.notUsed, InputJob.runForward, InputJob.runReverse, InputJob.startPulse, InputJob.stopOpens, InputJob.hand, InputJob.auto],
  ...[InputJob.presetBit0, InputJob.presetBit1, InputJob.presetBit2, InputJob.presetBit3, InputJob.direction, InputJob.reversePulse],
  ...[InputJob.jogForward, InputJob.jogReverse, InputJob.faster, InputJob.slower, InputJob.local, InputJob.secondSetpoint],
]);

/** Jobs in the order they are placed: what starts, stops and guards, what is wired besides and stays, and then what is handy. */
function wanted(d: DriveSettings, { jobs }: Scheme): InputJob[] {
  const needed = jobs.slice(0, jobs.indexOf(InputJob.externalTrip) + 1);
  const stays = d.jobs.filter((job) => !steering.has(job) && !needed.includes(job) && job !== InputJob.resetTrip);
  return [...new Set([...needed, ...stays, ...jobs])];
}

/** Schemes that suit what the machine does: a station of pumps is kept by its process. */
export const schemesFor = (d: DriveSettings): readonly Scheme[] =>
  d.controls().station.kind === StationKind.alone ? schemes : schemes.filter((s) => s.speed === SpeedSource.process);

/** Finds inputs for the jobs of a scheme, the most important first; each stays where it is already if it can. */
export function fitJobs(d: DriveSettings, scheme: Scheme): Fit {
  const { inputs } = d;
  const held: Array<InputJob | null> = inputs.map(() => null);
  const left: JobLeftOut[] = [];
  const now = d.jobs;
  for (const job of wanted(d, scheme)) {
    const at = now.indexOf(job);
    if (at >= 0 && held[at] === null) held[at] = job;
    else if (!place(d, inputs, held, job, new Set()))
      left.push({ job, why: inputs.some((s) => carries(d, s, job)) ? 'too few' : 'never', instead: insteadOf(job) });
  }
  const placed = inputs.flatMap((setting, input) => {
    const job = held[input];
    return job === null || job === undefined ? [] : [{ input, setting, job }];
  });
  const jobs = inputs.flatMap((s, i) => (s.role ? d.change(s.role, held[i] ?? InputJob.notUsed, 'chosen') : []));
  const sources = [...d.change('startSource', scheme.start, 'chosen'), ...d.change('speedSource', scheme.speed, 'chosen')];
  const changes = [...jobs, ...sources].filter((c) => d.values[c.code] !== c.value);
  return { placed, left, lacksSpeed: d.change('speedSource', scheme.speed).length === 0, changes };
}
