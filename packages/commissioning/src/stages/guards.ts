import {
  formatFigure,
  GuardAction,
  guardKinds,
  InputJob,
  NoFlowSource,
  ReversePermit,
  type DrivenKind,
  type GuardKind,
  type GuardSettings,
  type SettingRole,
} from '@yare/core';
import { guardNames } from '@yare/words/stages';
import { hertz, type Checked, type Finding } from '../checked';
import { sensorOf } from '../process/scale';
import { against, defineStage, ofItems, type ProofDefinition, type Section, notNeeded } from '../stage';
import { usesProcess } from './process';
import { maySleep } from './sleep';

/** One guard as it is set up: its settings in the order they are asked, and how it is provoked. */
export interface GuardPlan {
  kind: GuardKind;
  roles: readonly SettingRole[];
  /** machines it makes sense at */
  at: readonly DrivenKind[];
  /** how it is provoked, in words */
  provoke: string;
}

const pumps: readonly DrivenKind[] = ['pump'];
const all: readonly DrivenKind[] = ['pump', 'fan', 'conveyor', 'hoist', 'agitator'];

export const guardPlans: readonly GuardPlan[] = [
  {
    kind: 'dryRun',
    roles: ['dryRunLevel', 'dryRunDelay', 'dryRunAction'],
    at: pumps,
    provoke: 'Shut the suction valve, or let the well run empty, for no longer than the guard needs.',
  },
  {
    kind: 'noFlow',
    roles: ['noFlowDelay', 'noFlowSource', 'noFlowAction'],
    at: pumps,
    provoke: 'Run it in hand, shut the valve behind the pump and wait for its delay.',
  },
  {
    kind: 'highLoad',
    roles: ['highLoadLevel', 'highLoadDelay', 'highLoadAction'],
    at: all,
    provoke: 'Set the level below what it takes now, see it act, and set it back.',
  },
  {
    kind: 'lowLoad',
    roles: ['lowLoadLevel', 'lowLoadDelay', 'lowLoadAction'],
    at: all,
    provoke: 'Take the belt or the coupling off with the drive isolated, then run it at the speed of its work.',
  },
  {
    kind: 'highPressure',
    roles: ['highPressureLevel', 'highPressureDelay', 'highPressureAction'],
    at: ['pump', 'fan'],
    provoke: 'Run it in hand above its usual speed with little drawn until the feedback is over the level.',
  },
  {
    kind: 'lowPressure',
    roles: ['lowPressureLevel', 'lowPressureDelay', 'lowPressureAction'],
    at: ['pump', 'fan'],
    provoke: 'Run it in hand so slowly that the feedback stays under the level.',
  },
];

/** Whether a guard is in use as set. @param s see `ControlSettings` */
export const guardInUse = (s: GuardSettings, kind: GuardKind): boolean => (kind === 'noFlow' ? s.guards.noFlow.delay > 0 : s.guards[kind].level > 0);

/** Guards whose setting a machine's family has, where they make sense. */
export const guardsFor = ({ settings, driven }: Pick<Checked, 'settings' | 'driven'>): GuardPlan[] =>
  guardPlans.filter((g) => g.at.includes(driven.kind) && settings.find(g.roles[0] ?? 'noFlowDelay') !== undefined);

const proofOfGuard = (g: GuardPlan): ProofDefinition => ({
  id: g.kind,
  facts: 'guard',
  relies: { roles: [...g.roles, 'shutLoad', 'loadCurve1', 'loadCurve2', 'loadCurve3', 'guardRest', 'guardTries'] },
});
export const cleaningProof: ProofDefinition = {
  id: 'cleaning',
  facts: 'guard',
  relies: { roles: ['cleanStrokes', 'cleanFrequency', 'cleanTime', 'cleanAtLoad', 'cleanAtStart', 'reversePermit'] },
};
export const fillProof: ProofDefinition = {
  id: 'fill',
  facts: 'guard',
  relies: { roles: ['fillFrequency', 'fillLevel', 'fillTime'] },
};
export const feedbackProof: ProofDefinition = {
  id: 'feedback',
  facts: 'guard',
  relies: { roles: ['liveZeroLoss', 'analogueSignal'] },
};
export const frostProof: ProofDefinition = { id: 'frost', facts: 'guard', relies: { roles: ['frostFrequency'] } };
export const runOnProof: ProofDefinition = { id: 'runOn', facts: 'guard', relies: { roles: ['runOnTime', 'runOnFrequency'] } };

const percent = (x: number): string => `${formatFigure(100 * x, Number.isInteger(Math.round(1000 * x) / 10) ? 0 : 1)} %`;

/** Guards that go by a load nobody has measured. */
function unmeasured(c: Checked, s: GuardSettings): Finding[] {
  const out: Finding[] = [];
  const shut = c.settings.find('shutLoad');
  const byLoad = s.guards.noFlow.delay > 0 && s.noFlowSource !== NoFlowSource.flowSwitch;
  if (shut && s.shutLoad === 0 && (byLoad || s.guards.dryRun.level > 0))
    out.push({
      ...{ id: 'shut load unknown', code: shut.code, severity: 'error' },
      sentence: `${byLoad ? 'No flow' : 'Dry running'} is told from the load against a shut valve, and that was never measured: the guard never acts. Run it against the shut valve below.`,
    });
  const source = c.settings.find('noFlowDelay');
  if (source && s.guards.noFlow.delay > 0 && s.noFlowSource !== NoFlowSource.load && !c.settings.input(InputJob.flowSwitch))
    out.push({
      ...{ id: 'no flow switch', code: source.code, severity: s.noFlowSource === NoFlowSource.either ? 'warning' : 'error' },
      sentence: 'The guard looks at a flow switch, and no input has one: give an input that job under Terminals, or let it go by the load.',
      // by the load nothing is told either before that was measured
      ...(c.settings.find('noFlowSource') && s.shutLoad > 0
        ? { remedy: { label: 'Let it go by the load', changes: c.settings.change('noFlowSource', NoFlowSource.load, 'chosen') } }
        : { remedy: { label: 'Go to Terminals', go: 'terminals' } }),
    });
  return out;
}

/** Levels that act in ordinary running, or never. */
function levels(c: Checked, s: GuardSettings): Finding[] {
  const { settings } = c;
  const out: Finding[] = [];
  const known = s.curve.every((x) => x > 0);
  const { highLoad, lowLoad, highPressure, lowPressure } = s.guards;
  const high = settings.find('highLoadLevel');
  if (high && known && highLoad.level > 0 && highLoad.level < 1.1)
    out.push({
      ...{ id: 'high load too near', code: high.code, severity: 'warning' },
      sentence: `${percent(highLoad.level)} of the usual load is so near to it that a little more of its own work trips it.`,
      remedy: { label: 'Use 130 %', changes: settings.change('highLoadLevel', 1.3, 'worked out') },
    });
  const low = settings.find('lowLoadLevel');
  if (low && known && lowLoad.level > 0.9)
    out.push({
      ...{ id: 'low load too near', code: low.code, severity: 'warning' },
      sentence: `${percent(lowLoad.level)} of the usual load is so near to it that a little less of its own work trips it.`,
      remedy: { label: 'Use 60 %', changes: settings.change('lowLoadLevel', 0.6, 'worked out') },
    });
  if (!usesProcess(c)) return out;
  const set = settings.roleValue('setpoint');
  const level = sensorOf(c.driven)?.measures === 'level';
  const hp = settings.find('highPressureLevel');
  if (hp && highPressure.level > 0 && highPressure.level <= set)
    out.push({
      ...{ id: 'high guard under the set point', code: hp.code, severity: 'error' },
      sentence: `It acts above ${percent(highPressure.level)} of the range, and ${percent(set)} is held: it acts as soon as the set point is reached.`,
      remedy: { label: 'Set it 15 % over the set point', changes: settings.change('highPressureLevel', Math.min(1, set + 0.15), 'worked out') },
    });
  const wake = maySleep(c) && !level ? set - settings.roleValue('wakeFall') : set;
  const lp = settings.find('lowPressureLevel');
  if (lp && lowPressure.level > 0 && lowPressure.level >= wake)
    out.push({
      ...{ id: 'low guard over the set point', code: lp.code, severity: 'error' },
      sentence: `It acts below ${percent(lowPressure.level)} of the range, and ${wake < set ? `it wakes at ${percent(wake)}` : `${percent(set)} is held`}: it acts in ordinary running.`,
      remedy: { label: 'Set it to half the set point', changes: settings.change('lowPressureLevel', Math.round(50 * set) / 100, 'worked out') },
    });
  return out;
}

/** Guards that fight each other, or the sleep. */
function fights(c: Checked, s: GuardSettings): Finding[] {
  const { settings } = c;
  const out: Finding[] = [];
  const { noFlow, dryRun } = s.guards;
  const flow = settings.find('noFlowDelay');
  const dry = settings.find('dryRunDelay');
  if (flow && noFlow.delay > 0 && maySleep(c) && noFlow.action !== GuardAction.warn) {
    const sleeps = settings.roleValue('sleepDelay');
    const soonest = Math.max(1, Math.floor(noFlow.delay / 2));
    if (noFlow.delay <= sleeps)
      out.push({
        ...{ id: 'no flow before sleep', code: flow.code, severity: 'error' },
        sentence: `With nothing drawn it should fall asleep after ${formatFigure(sleeps, 0)} s; the no-flow guard stops it after ${formatFigure(noFlow.delay, 0)} s. Every quiet hour would be a trip.`,
        remedy:
          settings.heldOf('noFlowDelay', sleeps + 20) > sleeps
            ? { label: `Let the guard wait ${formatFigure(sleeps + 20, 0)} s`, changes: settings.change('noFlowDelay', sleeps + 20, 'worked out') }
            : { label: `Sleep after ${formatFigure(soonest, 0)} s`, changes: settings.change('sleepDelay', soonest, 'worked out') },
        more: [{ label: 'Turn the guard off', changes: settings.change('noFlowDelay', 0, 'chosen') }],
      });
  }
  const dries = dryRun.level > 0 && s.shutLoad > 0;
  const byLoad = noFlow.delay > 0 && (s.noFlowSource !== NoFlowSource.flowSwitch || settings.input(InputJob.flowSwitch) !== undefined);
  if (dry && dries && byLoad && noFlow.action !== GuardAction.warn && dryRun.delay >= noFlow.delay)
    out.push({
      ...{ id: 'dry after no flow', code: dry.code, severity: 'warning' },
      sentence: `A dry pump moves nothing either: the no-flow guard acts after ${formatFigure(noFlow.delay, 0)} s, before dry running is told after ${formatFigure(dryRun.delay, 0)} s. It never acts.`,
      remedy: {
        label: `Tell dry running after ${formatFigure(Math.max(1, noFlow.delay / 2), 0)} s`,
        changes: settings.change('dryRunDelay', Math.max(1, Math.round(noFlow.delay / 2)), 'worked out'),
      },
    });
  if (dry && dries && maySleep(c) && dryRun.delay >= settings.roleValue('sleepDelay') && sensorOf(c.driven)?.measures === 'level')
    out.push({
      ...{ id: 'dry after sleep', code: dry.code, severity: 'warning' },
      sentence: `The dry-running delay of ${formatFigure(dryRun.delay, 0)} s is longer than the sleep delay: it falls asleep first and the guard never acts.`,
    });
  const rests = guardKinds.some((k) => guardInUse(s, k) && s.guards[k].action === GuardAction.rest);
  const tries = settings.find('guardTries');
  if (tries && rests && s.tries === 0)
    out.push({
      ...{ id: 'no tries', code: tries.code, severity: 'warning' },
      sentence: 'A guard is to rest and try again, and no tries are left to it: it trips at once.',
      remedy: { label: 'Let it try 3 times', changes: settings.change('guardTries', 3, 'chosen') },
    });
  return out;
}

/** Cleaning, filling and frost against what the drive may do. */
function byItself(c: Checked): Finding[] {
  const { settings } = c;
  const { cleaning, fill, frost, command, guards } = settings.controls();
  const out: Finding[] = [];
  const strokes = settings.find('cleanStrokes');
  if (strokes && cleaning.strokes > 0 && command.limits.reversePermit !== ReversePermit.permitted)
    out.push({
      ...{ id: 'cleaning forbidden', code: strokes.code, severity: 'error' },
      sentence:
        'Cleaning turns the pump backwards, and reverse is forbidden: it would only stand and go on. First make sure that the impeller cannot unscrew.',
      remedy: { label: 'Permit reverse', changes: settings.change('reversePermit', ReversePermit.permitted, 'chosen') },
    });
  const atLoad = settings.find('cleanAtLoad');
  if (atLoad && cleaning.strokes > 0 && cleaning.atLoad && guards.guards.highLoad.level <= 0)
    out.push({
      ...{ id: 'cleaning without its guard', code: atLoad.code, severity: 'warning' },
      sentence: 'It is to clean at high load, and the high-load guard is off: nothing begins it.',
      remedy: { label: 'Set the guard to 130 %', changes: settings.change('highLoadLevel', 1.3, 'worked out') },
    });
  const full = settings.find('fillLevel');
  const set = settings.roleValue('setpoint');
  if (full && fill.frequency > 0 && usesProcess(c) && fill.level >= set)
    out.push({
      ...{ id: 'never full', code: full.code, severity: 'error' },
      sentence: `The pipe counts as full at ${percent(fill.level)} of the range, and ${percent(set)} is held: it fills until it trips.`,
      remedy: { label: 'Full at half the set point', changes: settings.change('fillLevel', Math.round(50 * set) / 100, 'worked out') },
    });
  const cold = settings.find('frostFrequency');
  if (cold && frost > 0 && !command.jobs.includes(InputJob.frost))
    out.push({
      ...{ id: 'no frost contact', code: cold.code, severity: 'warning' },
      sentence: `It is to turn at ${hertz(frost)} against frost, and no input has the frost thermostat: nothing begins it. Give an input that job under Terminals.`,
      remedy: { label: 'Go to Terminals', go: 'terminals' },
    });
  return out;
}

function check(c: Checked): Finding[] {
  const s = c.settings.controls().guards;
  return [...unmeasured(c, s), ...levels(c, s), ...fights(c, s), ...byItself(c)];
}

/** Tests of what is in use; all that could be are defined, so that each can be kept. */
export function guardProofs(c: Pick<Checked, 'settings' | 'driven'>): ProofDefinition[] {
  const { guards, cleaning, fill, frost, runOn } = c.settings.controls();
  return [
    ...guardsFor(c)
      .filter((g) => guardInUse(guards, g.kind))
      .map(proofOfGuard),
    ...(usesProcess(c) && c.settings.find('liveZeroLoss') ? [feedbackProof] : []),
    ...(fill.frequency > 0 ? [fillProof] : []),
    ...(cleaning.strokes > 0 ? [cleaningProof] : []),
    ...(frost > 0 ? [frostProof] : []),
    ...(runOn.time > 0 ? [runOnProof] : []),
  ];
}

/** Sections beside the guards themselves. */
export const guardSections: readonly Section[] = [
  { id: 'after', title: 'After a guard', roles: ['guardRest', 'guardTries'] },
  { id: 'fill', title: 'Filling the pipe', roles: ['fillFrequency', 'fillLevel', 'fillTime'] },
  { id: 'runOn', title: 'Running on', roles: ['runOnTime', 'runOnFrequency'] },
  {
    id: 'clean',
    title: 'Cleaning the pump',
    roles: ['cleanStrokes', 'cleanFrequency', 'cleanTime', 'cleanAtLoad', 'cleanAtStart', 'cleanEvery', 'cleanMost'],
  },
  { id: 'filter', title: 'Clogged filter', roles: ['filterLevel', 'filterDelay', 'cleanAir'] },
  { id: 'frost', title: 'Against frost', roles: ['frostFrequency'] },
];

/** What watches the running machine, and what it does by itself. */
export const guardsStage = defineStage({
  path: 'guards',
  key: 'j',
  sections: [
    ...guardPlans.map((g) => ({ id: g.kind, title: guardNames[g.kind], roles: g.roles })),
    { id: 'shut', title: 'Against a shut valve', roles: ['shutLoad'] },
    { id: 'curve', title: 'Usual load', roles: ['loadCurve1', 'loadCurve2', 'loadCurve3'] },
    ...guardSections,
  ],
  proofs: [...guardPlans.map(proofOfGuard), cleaningProof, fillProof, feedbackProof, frostProof, runOnProof],
  check,
  standing: (m, { proofOf }) => {
    const used = guardProofs({ settings: m.drafted, driven: m.machine.driven });
    if (used.length === 0) return notNeeded('none in use');
    return (
      against(m, 'guards') ??
      ofItems(
        m,
        used.map((p) => proofOf('guards', p.id)),
        { passed: 'each seen to act', open: `${used.length} in use, none seen to act yet` },
      )
    );
  },
});
