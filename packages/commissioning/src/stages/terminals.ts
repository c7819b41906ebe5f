import type { Setting } from '@yare/books';
import { InputJob, OutputJob, selectorWired, StartContact, Switch } from '@yare/core';
import { say } from '@yare/words/stages/terminals';
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
        sentence: say.andBothHaveTheJob({ a, code: other.code, b, code2: s.code, text: c.settings.text(s) }),
        remedy: unused(c, s, say.leaveUnused({ b }))[0],
        more: unused(c, other, say.leaveUnused2({ a })),
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
      return changes.length > 0 ? [{ label: say.give({ inputName: inputName(settings, inputs.indexOf(s)), what }), changes }] : [];
    });
  const button = at(InputJob.startPulse) ?? at(InputJob.reversePulse);
  if (button && !at(InputJob.stopOpens)) {
    const run = button.role ? settings.change(button.role, InputJob.runForward, 'chosen') : [];
    const ways = [
      ...give(InputJob.stopOpens, say.theStop).slice(0, 1),
      ...(run.length > 0 ? [{ label: say.useARunContactInstead, changes: run }] : []),
    ];
    out.push({
      id: 'no stop',
      code: button.code,
      severity: 'error',
      sentence: say.aButtonStartsItAnd({ inputName: inputName(settings, inputs.indexOf(button)), code: button.code }),
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
        ? unused(c, one, say.doWithoutTheSelector)
        : contact.length > 0
          ? [{ label: say.makeItARunContact, changes: contact }]
          : []),
    ];
    out.push({
      id: 'half a selector',
      code: one.code,
      severity: 'error',
      sentence: say.isHandAndNoInput({
        inputName: inputName(settings, inputs.indexOf(one)),
        code: one.code,
        hand: !!hand,
        hand2: !!hand,
        hand3: !!hand,
      }),
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
        sentence: say.isInRemoteAndIn({ name, text: c.settings.text(s), code: s.code, text2: c.settings.text(own), code2: own.code, guards }),
        remedy: { label: say.letKeepItsJobIn({ name }), changes: keep },
        more:
          move.length > 0 && other
            ? [{ label: say.moveTo({ text: c.settings.text(s), inputName: inputName(c.settings, c.settings.inputs.indexOf(other)) }), changes: move }]
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
    if (selectorWired(command)) return say.aSelectorIsWiredAnd;
    return start ? say.says({ name: start.name, code: start.code, text: settings.text(start) }) : say.itStartsFromElsewhere;
  }
  if (job === InputJob.faster || job === InputJob.slower)
    return speed ? say.says({ name: speed.name, code: speed.code, text: settings.text(speed) }) : say.theSpeedComesFromElsewhere;
  if (job === InputJob.frost) return say.noFrequencyAgainstFrostIs;
  if (job === InputJob.cleanNow) return say.noStrokesOfCleaningAre;
  return say.whateverElseIsClosedNothing;
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
      const where = e.modes.includes('local') ? say.whileIsInForce({ mode }) : '';
      return [
        {
          id: `idle ${mode} ${s.code}`,
          code: s.code,
          severity: 'warning',
          sentence: say.hasTheJobAndDoes({ name, text: settings.text(s), code: s.code, where, whyIdle: whyIdle(c, job, mode) }),
          // what stops or guards is not taken away because nothing starts it yet
          ...(keepsStill.includes(job)
            ? { remedy: { label: say.goToCommand, go: 'command' } }
            : {
                remedy: { label: say.leaveUnused3({ name }), changes: settings.change(s.role, InputJob.notUsed, 'chosen') },
                more: [{ label: say.goToCommand, go: 'command' }],
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
      return changes.length > 0 ? [{ label: say.giveTheBrakeTo({ role: s.role?.replace('relay ', '') ?? s.name }), changes }] : [];
    });
    out.push({
      id: 'brake without relay',
      code: brake.code,
      severity: 'error',
      sentence: say.worksABrakeAndNo({ name: brake.name, code: brake.code }),
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
      sentence: say.waitsForHzAndThe({ name: above.name, code: above.code, frequency: threshold.frequency, most }),
      remedy: { label: say.useHz({ most: 0.9 * most }), changes: settings.change('thresholdFrequency', 0.9 * most, 'chosen') },
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
      sentence: say.closingTheEnableAtStarts({ inputName: inputName(settings, settings.inputs.indexOf(enable)) }),
      remedy: { label: say.wantTheRunContactClosed, changes: settings.change('startContact', StartContact.edge, 'chosen') },
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
    against(m, 'terminals') ?? ofItems(m, [proofOf('terminals', wiresProof.id)], { passed: 'every wire answered', open: say.noWireTriedYet }),
});
