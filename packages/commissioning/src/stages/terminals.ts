import type { Setting } from '@yare/books';
import { formatFigure, InputJob, OutputJob, selectorWired, StartContact, Switch } from '@yare/core';
import type { Checked, Finding, Remedy } from '../checked';
import { enumerateCommand, idleInputs } from '../command/enumerate';
import { inputName } from '../command/words';
import { against, defineStage, ofItems, type ProofDefinition } from '../stage';

/** Every wire answered at its input. */
export const wiresProof: ProofDefinition = {
  id: 'wires',
  facts: 'wires',
  relies: { inputs: true, roles: ['externalTripSense', 'inputSense'] },
};

const unused = (c: Checked, s: Setting, label: string): Remedy[] =>
  s.role ? [{ label, changes: c.settings.change(s.role, InputJob.notUsed, 'chosen') }] : [];

/** Jobs that only one input may have: two would be read as one. */
const single: readonly InputJob[] = [
  InputJob.presetBit0,
  InputJob.presetBit1,
  InputJob.presetBit2,
  InputJob.presetBit3,
  InputJob.hand,
  InputJob.auto,
  InputJob.local,
  InputJob.flowSwitch,
  InputJob.direction,
  InputJob.secondRamp,
  InputJob.secondSetpoint,
];

const starts: readonly InputJob[] = [InputJob.runForward, InputJob.runReverse, InputJob.startPulse, InputJob.reversePulse];

/** One job at two inputs. */
function doubled(c: Checked): Finding[] {
  const { inputs, jobs } = c.settings;
  return inputs.flatMap((s, i): Finding[] => {
    const first = jobs.findIndex((j, n) => n < i && j === jobs[i] && single.includes(j));
    const other = inputs[first];
    if (!other) return [];
    const [a, b] = [inputName(c.settings, first), inputName(c.settings, i)];
    return [
      {
        id: `doubled ${s.code}`,
        code: s.code,
        severity: 'error',
        sentence: `${a} (${other.code}) and ${b} (${s.code}) both have the job ${c.settings.text(s)}: either contact does it, and the other cannot take it back.`,
        remedy: unused(c, s, `Leave ${b} unused`)[0],
        more: unused(c, other, `Leave ${a} unused`),
      },
    ];
  });
}

/** A selector or a set of buttons that lacks a part. */
function incomplete(c: Checked): Finding[] {
  const { settings } = c;
  const { jobs, inputs } = settings;
  const at = (job: InputJob) => inputs[jobs.indexOf(job)];
  const out: Finding[] = [];
  const free = inputs.filter((_s, i) => jobs[i] === InputJob.notUsed);
  const give = (job: InputJob, what: string): Remedy[] =>
    free.flatMap((s) => {
      const { role } = s;
      const changes = role ? settings.change(role, job, 'chosen') : [];
      return changes.length > 0 ? [{ label: `Give ${inputName(settings, inputs.indexOf(s))} ${what}`, changes }] : [];
    });
  const button = at(InputJob.startPulse) ?? at(InputJob.reversePulse);
  if (button && !at(InputJob.stopOpens)) {
    const run = button.role ? settings.change(button.role, InputJob.runForward, 'chosen') : [];
    const ways = [
      ...give(InputJob.stopOpens, 'the stop').slice(0, 1),
      ...(run.length > 0 ? [{ label: 'Use a run contact instead of a button', changes: run }] : []),
    ];
    out.push({
      id: 'no stop',
      code: button.code,
      severity: 'error',
      sentence: `A button starts it and no input stops it: ${inputName(settings, inputs.indexOf(button))} (${button.code}) latches the start, and nothing at the terminals takes it away.`,
      remedy: ways[0],
      more: ways.slice(1),
    });
  }
  const [hand, auto] = [at(InputJob.hand), at(InputJob.auto)];
  const one = hand ?? auto;
  if (one && !(hand && auto)) {
    const missing = hand ? InputJob.auto : InputJob.hand;
    const contact = one.role ? settings.change(one.role, InputJob.runForward, 'chosen') : [];
    const ways = [
      ...give(missing, hand ? 'auto' : 'hand').slice(0, 1),
      // what nothing else starts would then never start
      ...(jobs.some((j) => starts.includes(j))
        ? unused(c, one, 'Do without the selector')
        : contact.length > 0
          ? [{ label: 'Make it a run contact', changes: contact }]
          : []),
    ];
    out.push({
      id: 'half a selector',
      code: one.code,
      severity: 'error',
      sentence: `${inputName(settings, inputs.indexOf(one))} (${one.code}) is ${hand ? 'hand' : 'auto'} and no input is ${hand ? 'auto' : 'hand'}: ${hand ? 'it then runs by hand only' : 'it then runs in auto only'}.`,
      remedy: ways[0],
      more: ways.slice(1),
    });
  }
  return out;
}

/** An input with two jobs by mode, where the job it loses is wanted in the other mode too. */
function twoJobs(c: Checked): Finding[] {
  const { command } = c.settings.controls();
  if (!command.jobs.includes(InputJob.local)) return [];
  return c.settings.inputs.flatMap((s, i): Finding[] => {
    const [remote, local] = [command.jobs[i] ?? 0, command.localJobs[i] ?? 0];
    const own = c.settings.localOf(s);
    if (!own || remote === local || remote === InputJob.notUsed || command.localJobs.includes(remote)) return [];
    const guards = remote === InputJob.externalTrip || remote === InputJob.stopOpens || remote === InputJob.enable;
    const other = c.settings.inputs.find((x, n) => command.jobs[n] === InputJob.notUsed && x.role && c.settings.change(x.role, remote).length > 0);
    const name = inputName(c.settings, i);
    const keep = own.role ? c.settings.change(own.role, -1, 'chosen') : [];
    const move =
      other?.role && s.role ? [...c.settings.change(other.role, remote, 'chosen'), ...c.settings.change(s.role, InputJob.notUsed, 'chosen')] : [];
    return [
      {
        id: `two jobs ${s.code}`,
        code: s.code,
        severity: guards ? 'error' : 'warning',
        sentence: `${name} is ${c.settings.text(s)} (${s.code}) in remote and ${c.settings.text(own)} (${own.code}) in local: ${guards ? 'in local nobody guards that' : 'in local that job is not done'}, and the wire that does one job there does the other.`,
        remedy: { label: `Let ${name} keep its job in local`, changes: keep },
        more:
          move.length > 0 && other
            ? [{ label: `Move ${c.settings.text(s)} to ${inputName(c.settings, c.settings.inputs.indexOf(other))}`, changes: move }]
            : [],
      },
    ];
  });
}

const keepsStill: readonly InputJob[] = [InputJob.stopOpens, InputJob.enable, InputJob.externalTrip];

/** Why a contact does nothing in a mode. */
function whyIdle({ settings }: Checked, job: InputJob, mode: 'remote' | 'local'): string {
  const { command } = settings.controls();
  const [start, speed] = [
    settings.find(mode === 'local' ? 'localStart' : 'startSource'),
    settings.find(mode === 'local' ? 'localSpeed' : 'speedSource'),
  ];
  if (starts.includes(job)) {
    if (selectorWired(command)) return 'a selector is wired, and its position starts it';
    return start ? `${start.name} ${start.code} says ${settings.text(start)}` : 'it starts from elsewhere';
  }
  if (job === InputJob.faster || job === InputJob.slower)
    return speed ? `${speed.name} ${speed.code} says ${settings.text(speed)}` : 'the speed comes from elsewhere';
  if (job === InputJob.frost) return 'no frequency against frost is set';
  if (job === InputJob.cleanNow) return 'no strokes of cleaning are set';
  return 'whatever else is closed, nothing changes by it';
}

/** Contacts that change neither start nor speed, and act all the same. What emergency ventilation lacks, its own stage says. */
function actsItself({ settings }: Checked, job: InputJob): boolean {
  const { frost, cleaning } = settings.controls();
  if (job === InputJob.frost) return frost > 0;
  if (job === InputJob.cleanNow) return cleaning.strokes > 0;
  return job === InputJob.freezeStat || job === InputJob.emergency;
}

/** Contacts that nothing listens to, found by trying every combination in every mode. */
function idle(c: Checked): Finding[] {
  const { settings } = c;
  const { command } = settings.controls();
  const e = enumerateCommand(settings);
  return (['remote', 'local'] as const).flatMap((mode) => {
    const jobs = mode === 'local' ? command.localJobs : command.jobs;
    if (!e.modes.includes(mode)) return [];
    return idleInputs(e, jobs, mode).flatMap((i): Finding[] => {
      const s = settings.inputs[i];
      const job = jobs[i];
      // what does nothing in remote and is a local job only is no fault of remote
      if (!s?.role || job === undefined || command.jobs[i] !== job || actsItself(c, job)) return [];
      const name = inputName(settings, i);
      const where = e.modes.includes('local') ? ` while ${mode} is in force` : '';
      return [
        {
          id: `idle ${mode} ${s.code}`,
          code: s.code,
          severity: 'warning',
          sentence: `${name} has the job ${settings.text(s)} (${s.code}) and does nothing${where}: ${whyIdle(c, job, mode)}.`,
          // what stops or guards is not taken away because nothing starts it yet
          ...(keepsStill.includes(job)
            ? { remedy: { label: 'Go to Command', go: 'command' } }
            : {
                remedy: { label: `Leave ${name} unused`, changes: settings.change(s.role, InputJob.notUsed, 'chosen') },
                more: [{ label: 'Go to Command', go: 'command' }],
              }),
        },
      ];
    });
  });
}

/** Outputs against what they are to work. */
function outputFindings(c: Checked): Finding[] {
  const { settings } = c;
  const out: Finding[] = [];
  const { outputs, threshold } = settings.controls();
  const brake = settings.find('holdingBrake');
  const relay = settings.outputs[outputs.indexOf(OutputJob.holdingBrake)];
  if (brake && settings.role('holdingBrake') === Switch.on && !relay) {
    const ways = settings.outputs.flatMap((s): Remedy[] => {
      const changes = s.role ? settings.change(s.role, OutputJob.holdingBrake, 'chosen') : [];
      return changes.length > 0 ? [{ label: `Give the brake to ${s.role?.replace('relay ', '') ?? s.name}`, changes }] : [];
    });
    out.push({
      id: 'brake without relay',
      code: brake.code,
      severity: 'error',
      sentence: `${brake.name} (${brake.code}) works a brake, and no output has that job: the brake never opens and the motor runs against it.`,
      remedy: ways[0],
      more: ways.slice(1),
    });
  }
  const above = settings.outputs[outputs.indexOf(OutputJob.aboveThreshold)];
  const level = settings.find('thresholdFrequency');
  const most = settings.roleValue('maximumFrequency');
  if (above && level && threshold.frequency > most)
    out.push({
      id: 'threshold too high',
      code: level.code,
      severity: 'warning',
      sentence: `${above.name} (${above.code}) waits for ${formatFigure(threshold.frequency, 1)} Hz and the drive goes to ${formatFigure(most, 1)} Hz: it never switches.`,
      remedy: { label: `Use ${formatFigure(0.9 * most, 1)} Hz`, changes: settings.change('thresholdFrequency', 0.9 * most, 'chosen') },
    });
  return out;
}

/** An enable whose closing starts the motor. */
function enableFindings(c: Checked): Finding[] {
  const { settings } = c;
  const contact = settings.find('startContact');
  const enable = settings.input(InputJob.enable);
  if (!contact || !enable || !settings.jobs.includes(InputJob.runForward) || settings.role('startContact') === StartContact.edge) return [];
  return [
    {
      id: 'enable starts',
      code: enable.code,
      severity: 'warning',
      sentence: `Closing the enable at ${inputName(settings, settings.inputs.indexOf(enable))} starts it whenever the run contact is closed already.`,
      remedy: { label: 'Want the run contact closed anew', changes: settings.change('startContact', StartContact.edge, 'chosen') },
    },
  ];
}

const check = (c: Checked): Finding[] => [...doubled(c), ...incomplete(c), ...twoJobs(c), ...idle(c), ...outputFindings(c), ...enableFindings(c)];

/** What is wired where, and what each does. */
export const terminalsStage = defineStage({
  path: 'terminals',
  key: 'i',
  proofs: [wiresProof],
  check,
  standing: (m, { proofOf }) =>
    against(m, 'terminals') ?? ofItems(m, [proofOf('terminals', wiresProof.id)], { passed: 'every wire answered', open: 'no wire tried yet' }),
});
