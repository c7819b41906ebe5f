import type { DriveSettings } from '@yare/books';
import type { DriveBook, WiredInput, Wiring } from '@yare/contract';
import { AnalogueOutJob, HandSpeed, InputJob, OutputJob, SpeedSource } from '@yare/core';
import { say } from '@yare/words/command';
import { wiredInputs } from './wireCheck';

type Terminal = DriveBook['terminals'][number];

/** One terminal of the strip with what hangs there and what it does. */
export interface StripTerminal {
  id: string;
  kind: Terminal['kind'];
  range: string;
  /** what it does, in the drive's own words; empty where its job is not a setting */
  job: string;
  /** in local, where that differs */
  localJob: string | null;
  /** code of the setting that gives the job */
  code: string | null;
  /** digital inputs: which one, counted from 0, and what hangs there; null where nothing does */
  input: number | null;
  device: WiredInput | null;
  /** output, counted from 0 in the order of the outputs */
  output: number | null;
  used: boolean;
}

export const stripSections: ReadonlyArray<{ id: string; title: string; kinds: ReadonlyArray<Terminal['kind']> }> = [
  { id: 'control', title: say.inputs, kinds: ['digital in'] },
  { id: 'signals', title: say.signals, kinds: ['analogue in', 'analogue out'] },
  { id: 'outputs', title: say.relaysAndOutputs, kinds: ['relay', 'digital out'] },
  { id: 'safety', title: say.safety, kinds: ['safety'] },
  { id: 'supply', title: '24 V', kinds: ['supply'] },
  { id: 'power', title: say.power, kinds: ['power'] },
];

/** What a signal terminal is used for; null when it is for nothing. @param n of the analogue inputs, counted from 0 */
function signalJob(d: DriveSettings, t: Terminal, n: number): string | null {
  const { command } = d.controls();
  const out = d.find(`analogue out ${t.id}`);
  if (out) return d.inRole(out) === 0 ? null : d.text(out);
  const speeds: SpeedSource[] = [command.remote.speed, command.local.speed];
  if (n === 0) return speeds.includes(SpeedSource.process) ? say.feedback : speeds.includes(SpeedSource.analogue) ? say.speed : null;
  if (n > 1) return null;
  if (speeds.includes(SpeedSource.secondAnalogue)) return say.speed;
  return command.jobs.includes(InputJob.hand) && command.handSpeed === HandSpeed.secondAnalogue ? say.speedAtHand : null;
}

/** Every terminal this size has, with what hangs there and what it does. */
export function stripOf(d: DriveSettings, wiring: Pick<Wiring, 'inputs'>): StripTerminal[] {
  const wired = new Map(wiredInputs(d, wiring).map((w) => [w.terminal, w]));
  const fed = d.rating.input ?? 'three-phase';
  const count = { input: 0, output: 0, signal: 0 };
  const outputs = d.outputs.map((s) => s.role?.slice('relay '.length));
  return d.book.terminals
    .filter((t) => t.input === undefined || t.input === fed)
    .map((t): StripTerminal => {
      const base = { id: t.id, kind: t.kind, range: t.range, localJob: null, code: null, input: null, device: null, output: null };
      switch (t.kind) {
        case 'digital in': {
          const input = count.input++;
          const s = d.inputs[input];
          const own = s && d.localOf(s);
          const w = wired.get(t.id);
          const job = s ? d.text(s) : '';
          const local = own && d.localJobs[input] !== d.jobs[input] ? d.text(own) : null;
          return { ...base, job, localJob: local, code: s?.code ?? null, input, device: w?.device ?? null, used: w !== undefined };
        }
        case 'relay':
        case 'digital out': {
          const output = outputs.indexOf(t.id);
          const s = d.outputs[output];
          const job = s ? d.text(s) : (t.may[0] ?? '');
          return { ...base, job, code: s?.code ?? null, output, used: s ? d.inRole(s) !== OutputJob.notUsed : true };
        }
        case 'analogue in':
        case 'analogue out': {
          const job = signalJob(d, t, t.kind === 'analogue in' ? count.signal++ : 0);
          return { ...base, job: job ?? '', used: job !== null };
        }
        default:
          return { ...base, job: t.may[0] ?? (t.kind === 'power' ? t.range : ''), used: true };
      }
    });
}

/** What an analogue output shows, and what its 20 mA are. */
export interface ShownSignal {
  terminal: string;
  job: AnalogueOutJob;
  unit: 'Hz' | 'A';
  full: number;
}

/** Every analogue output that shows something: 20 mA are the highest speed, or the rated current of the drive. */
export function shownSignals(d: DriveSettings): ShownSignal[] {
  return d.book.terminals.flatMap(({ id, kind }): ShownSignal[] => {
    const setting = kind === 'analogue out' ? d.find(`analogue out ${id}`) : undefined;
    const job = setting ? d.inRole(setting) : AnalogueOutJob.nothing;
    if (job === AnalogueOutJob.outputFrequency) return [{ terminal: id, job, unit: 'Hz', full: d.parameters().maximumFrequency }];
    return job === AnalogueOutJob.motorCurrent ? [{ terminal: id, job, unit: 'A', full: d.rating.current }] : [];
  });
}
