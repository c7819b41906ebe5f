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
import { say } from '@yare/words/stages/guards';
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
    provoke: say.shutTheSuctionValveOr,
  },
  {
    kind: 'noFlow',
    roles: ['noFlowDelay', 'noFlowSource', 'noFlowAction'],
    at: pumps,
    provoke: say.runItInHandShut,
  },
  {
    kind: 'highLoad',
    roles: ['highLoadLevel', 'highLoadDelay', 'highLoadAction'],
    at: all,
    provoke: say.setTheLevelBelowWhat,
  },
  {
    kind: 'lowLoad',
    roles: ['lowLoadLevel', 'lowLoadDelay', 'lowLoadAction'],
    at: all,
    provoke: say.takeTheBeltOrThe,
  },
  {
    kind: 'highPressure',
    roles: ['highPressureLevel', 'highPressureDelay', 'highPressureAction'],
    at: ['pump', 'fan'],
    provoke: say.runItInHandAbove,
  },
  {
    kind: 'lowPressure',
    roles: ['lowPressureLevel', 'lowPressureDelay', 'lowPressureAction'],
    at: ['pump', 'fan'],
    provoke: say.runItInHandSo,
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
      sentence: say.noFlowIsToldFrom({ byLoad }),
    });
  const source = c.settings.find('noFlowDelay');
  if (source && s.guards.noFlow.delay > 0 && s.noFlowSource !== NoFlowSource.load && !c.settings.input(InputJob.flowSwitch))
    out.push({
      ...{ id: 'no flow switch', code: source.code, severity: s.noFlowSource === NoFlowSource.either ? 'warning' : 'error' },
      sentence: say.theGuardLooksAtA,
      // by the load nothing is told either before that was measured
      ...(c.settings.find('noFlowSource') && s.shutLoad > 0
        ? { remedy: { label: say.letItGoByThe, changes: c.settings.change('noFlowSource', NoFlowSource.load, 'chosen') } }
        : { remedy: { label: say.goToTerminals, go: 'terminals' } }),
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
      sentence: say.ofTheUsualLoadIs({ percent: percent(highLoad.level) }),
      remedy: { label: say.use, changes: settings.change('highLoadLevel', 1.3, 'worked out') },
    });
  const low = settings.find('lowLoadLevel');
  if (low && known && lowLoad.level > 0.9)
    out.push({
      ...{ id: 'low load too near', code: low.code, severity: 'warning' },
      sentence: say.ofTheUsualLoadIs2({ percent: percent(lowLoad.level) }),
      remedy: { label: say.use2, changes: settings.change('lowLoadLevel', 0.6, 'worked out') },
    });
  if (!usesProcess(c)) return out;
  const set = settings.roleValue('setpoint');
  const level = sensorOf(c.driven)?.measures === 'level';
  const hp = settings.find('highPressureLevel');
  if (hp && highPressure.level > 0 && highPressure.level <= set)
    out.push({
      ...{ id: 'high guard under the set point', code: hp.code, severity: 'error' },
      sentence: say.itActsAboveOfThe({ percent: percent(highPressure.level), percent2: percent(set) }),
      remedy: { label: say.setItOverTheSet, changes: settings.change('highPressureLevel', Math.min(1, set + 0.15), 'worked out') },
    });
  const wake = maySleep(c) && !level ? set - settings.roleValue('wakeFall') : set;
  const lp = settings.find('lowPressureLevel');
  if (lp && lowPressure.level > 0 && lowPressure.level >= wake)
    out.push({
      ...{ id: 'low guard over the set point', code: lp.code, severity: 'error' },
      sentence: say.itActsBelowOfThe({ percent: percent(lowPressure.level), wake: wake < set, percent2: percent(wake), percent3: percent(set) }),
      remedy: { label: say.setItToHalfThe, changes: settings.change('lowPressureLevel', Math.round(50 * set) / 100, 'worked out') },
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
        sentence: say.withNothingDrawnItShould({ sleeps, delay: noFlow.delay }),
        remedy:
          settings.heldOf('noFlowDelay', sleeps + 20) > sleeps
            ? { label: say.letTheGuardWaitS({ sleeps: sleeps + 20 }), changes: settings.change('noFlowDelay', sleeps + 20, 'worked out') }
            : { label: say.sleepAfterS({ soonest }), changes: settings.change('sleepDelay', soonest, 'worked out') },
        more: [{ label: say.turnTheGuardOff, changes: settings.change('noFlowDelay', 0, 'chosen') }],
      });
  }
  const dries = dryRun.level > 0 && s.shutLoad > 0;
  const byLoad = noFlow.delay > 0 && (s.noFlowSource !== NoFlowSource.flowSwitch || settings.input(InputJob.flowSwitch) !== undefined);
  if (dry && dries && byLoad && noFlow.action !== GuardAction.warn && dryRun.delay >= noFlow.delay)
    out.push({
      ...{ id: 'dry after no flow', code: dry.code, severity: 'warning' },
      sentence: say.aDryPumpMovesNothing({ delay: noFlow.delay, delay2: dryRun.delay }),
      remedy: {
        label: say.tellDryRunningAfterS({ max: Math.max(1, noFlow.delay / 2) }),
        changes: settings.change('dryRunDelay', Math.max(1, Math.round(noFlow.delay / 2)), 'worked out'),
      },
    });
  if (dry && dries && maySleep(c) && dryRun.delay >= settings.roleValue('sleepDelay') && sensorOf(c.driven)?.measures === 'level')
    out.push({
      ...{ id: 'dry after sleep', code: dry.code, severity: 'warning' },
      sentence: say.theDryRunningDelayOf({ delay: dryRun.delay }),
    });
  const rests = guardKinds.some((k) => guardInUse(s, k) && s.guards[k].action === GuardAction.rest);
  const tries = settings.find('guardTries');
  if (tries && rests && s.tries === 0)
    out.push({
      ...{ id: 'no tries', code: tries.code, severity: 'warning' },
      sentence: say.aGuardIsToRest,
      remedy: { label: say.letItTryTimes, changes: settings.change('guardTries', 3, 'chosen') },
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
      sentence: say.cleaningTurnsThePumpBackwards,
      remedy: { label: say.permitReverse, changes: settings.change('reversePermit', ReversePermit.permitted, 'chosen') },
    });
  const atLoad = settings.find('cleanAtLoad');
  if (atLoad && cleaning.strokes > 0 && cleaning.atLoad && guards.guards.highLoad.level <= 0)
    out.push({
      ...{ id: 'cleaning without its guard', code: atLoad.code, severity: 'warning' },
      sentence: say.itIsToCleanAt,
      remedy: { label: say.setTheGuardTo, changes: settings.change('highLoadLevel', 1.3, 'worked out') },
    });
  const full = settings.find('fillLevel');
  const set = settings.roleValue('setpoint');
  if (full && fill.frequency > 0 && usesProcess(c) && fill.level >= set)
    out.push({
      ...{ id: 'never full', code: full.code, severity: 'error' },
      sentence: say.thePipeCountsAsFull({ percent: percent(fill.level), percent2: percent(set) }),
      remedy: { label: say.fullAtHalfTheSet, changes: settings.change('fillLevel', Math.round(50 * set) / 100, 'worked out') },
    });
  const cold = settings.find('frostFrequency');
  if (cold && frost > 0 && !command.jobs.includes(InputJob.frost))
    out.push({
      ...{ id: 'no frost contact', code: cold.code, severity: 'warning' },
      sentence: say.itIsToTurnAt({ hertz: hertz(frost) }),
      remedy: { label: say.goToTerminals, go: 'terminals' },
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
  { id: 'after', title: say.afterAGuard, roles: ['guardRest', 'guardTries'] },
  { id: 'fill', title: say.fillingThePipe, roles: ['fillFrequency', 'fillLevel', 'fillTime'] },
  { id: 'runOn', title: say.runningOn, roles: ['runOnTime', 'runOnFrequency'] },
  {
    id: 'clean',
    title: say.cleaningThePump,
    roles: ['cleanStrokes', 'cleanFrequency', 'cleanTime', 'cleanAtLoad', 'cleanAtStart', 'cleanEvery', 'cleanMost'],
  },
  { id: 'filter', title: say.cloggedFilter, roles: ['filterLevel', 'filterDelay', 'cleanAir'] },
  { id: 'frost', title: say.againstFrost, roles: ['frostFrequency'] },
];

/** What watches the running machine, and what it does by itself. */
export const guardsStage = defineStage({
  path: 'guards',
  key: 'j',
  sections: [
    ...guardPlans.map((g) => ({ id: g.kind, title: guardNames[g.kind], roles: g.roles })),
    { id: 'shut', title: say.againstAShutValve, roles: ['shutLoad'] },
    { id: 'curve', title: say.usualLoad, roles: ['loadCurve1', 'loadCurve2', 'loadCurve3'] },
    ...guardSections,
  ],
  proofs: [...guardPlans.map(proofOfGuard), cleaningProof, fillProof, feedbackProof, frostProof, runOnProof],
  check,
  standing: (m, { proofOf }) => {
    const used = guardProofs({ settings: m.drafted, driven: m.machine.driven });
    if (used.length === 0) return notNeeded(say.noneInUse);
    return (
      against(m, 'guards') ??
      ofItems(
        m,
        used.map((p) => proofOf('guards', p.id)),
        { passed: say.eachSeenToAct, open: say.inUseNoneSeenTo({ used: used.length }) },
      )
    );
  },
});
