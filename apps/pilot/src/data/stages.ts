import { powerChecks, type CheckedStage, stageOfItems, type ItemStanding } from '@yare/commissioning';
import { useMemo } from 'react';
import { driveFit, carrierOf, factoryValue, findSetting } from '@yare/books';
import type { MachineDetail, Survey } from '@yare/contract';
import { checkPlate } from '@yare/core';
import type { MachineModel } from './machineModel';
import { changedWords, useProofs, useSurvey, type ProofStanding } from './plan';
import { useRecordings } from './queries';

const stagePaths = ['survey', 'before-power', 'plate', 'drive', 'protection', 'motion', 'write', 'direction', 'tune'] as const;
const toolPaths = ['settings', 'turn', 'recordings', 'bench'] as const;
export type StagePath = (typeof stagePaths)[number] | (typeof toolPaths)[number];

export interface Stage {
  path: StagePath;
  /** its place in the job; null for what is used in every stage */
  number: number | null;
  name: string;
  /** single key on a wide screen */
  hotkey: string;
}

const names: Record<StagePath, string> = {
  survey: 'Survey',
  'before-power': 'Before power',
  plate: 'Plate',
  drive: 'Drive',
  protection: 'Protection',
  motion: 'Motion',
  write: 'Write',
  direction: 'Direction',
  tune: 'Tune',
  settings: 'Settings sheet',
  turn: 'Turn it',
  recordings: 'Recordings',
  bench: 'Bench',
};

const toolKeys = { settings: 's', turn: 't', recordings: 'l', bench: 'b' } as const;

/** The stages in the order of the job, then what is used in every one of them. */
export const stages: Stage[] = [
  ...stagePaths.map((path, i) => ({ path, number: i + 1, name: names[path], hotkey: String(i + 1) })),
  ...toolPaths.map((path) => ({ path, number: null, name: names[path], hotkey: toolKeys[path] })),
];

/** The stage that comes after one in the order of the job; null after the last. */
export const stageAfter = (path: StagePath): Stage | null => {
  const here = stages.findIndex((s) => s.path === path);
  const next = stages[here + 1];
  return next && next.number !== null ? next : null;
};

export type StageProof = 'proved' | 'not yet' | 'stale' | 'act';
export interface Standing {
  proof: StageProof;
  words: string;
}

export interface StandingContext {
  recordings: number;
  survey: Survey;
  surveyed: boolean;
  proofOf: (stage: string, item: string) => ProofStanding;
}

const many = (n: number, one: string, more: string): string => `${n === 1 ? 'one' : n} ${n === 1 ? one : more}`;

/** What a stage's own figures say against it; null when nothing does. */
function against(m: MachineModel, stage: CheckedStage): Standing | null {
  const found = m.findings.filter((f) => f.stage === stage && f.severity !== 'good');
  if (found.length === 0) return null;
  return { proof: found.some((f) => f.severity === 'error') ? 'act' : 'stale', words: many(found.length, 'thing to look at', 'things to look at') };
}

/** A stage whose standing is that of tests somebody made. */
function ofItems(m: MachineModel, items: readonly ItemStanding[], words: { passed: string; open: string }): Standing {
  const passed = items.filter((i) => i.state === 'passed').length;
  switch (stageOfItems(items)) {
    case 'passed':
      return { proof: 'proved', words: words.passed };
    case 'failed':
      return { proof: 'act', words: 'a test has failed' };
    case 'stale': {
      const changed = [...new Set(items.flatMap((i) => (i.state === 'stale' ? i.changed : [])))];
      return { proof: 'stale', words: `to be proved again: ${changedWords(m, changed)} changed` };
    }
    default:
      return { proof: 'not yet', words: passed > 0 ? `${passed} of ${items.length} proved` : words.open };
  }
}

/** What the survey still lacks, in words. */
export function surveyLacks(survey: Survey, { drivenEstimated }: Pick<MachineDetail, 'drivenEstimated'>): string[] {
  const lacks: Array<[unknown, string]> = [
    [drivenEstimated ? null : 'known', 'what it drives'],
    [survey.ambient, 'ambient'],
    [survey.altitude, 'altitude'],
    [survey.cableLength, 'cable length'],
  ];
  return lacks.filter(([value]) => value === null).map(([, word]) => word);
}

/** How far a stage is, with the words beside its shape. */
export function stageStanding(stage: Stage, m: MachineModel, c: StandingContext): Standing {
  switch (stage.path) {
    case 'survey': {
      const lacks = surveyLacks(c.survey, m.machine);
      if (!c.surveyed) return { proof: 'not yet', words: 'supply, place and cable not taken down' };
      return lacks.length > 0 ? { proof: 'not yet', words: `lacks ${lacks.join(', ')}` } : { proof: 'proved', words: 'taken down' };
    }
    case 'before-power':
      return ofItems(
        m,
        powerChecks.map((p) => c.proofOf('before-power', p.id).standing),
        { passed: 'every check passed', open: 'earths, insulation, voltages not proved' },
      );
    case 'plate': {
      const findings = checkPlate(m.plate);
      if (findings.length > 0)
        return { proof: 'stale', words: findings.length === 1 ? 'one figure does not fit' : `${findings.length} figures do not fit` };
      return against(m, 'plate') ?? { proof: 'proved', words: 'the figures fit one another' };
    }
    case 'drive': {
      const { book, machine } = m;
      const fit = driveFit(
        book,
        machine.size,
        c.survey,
        carrierOf(book, machine.size, (code) => m.draftOf(code).value),
        m.plate.current,
      );
      if (fit.margin < 0) return { proof: 'act', words: `${book.family} ${machine.size} is too small here` };
      return (
        against(m, 'drive') ?? (m.asFound ? { proof: 'proved', words: 'big enough, read as found' } : { proof: 'not yet', words: 'not read yet' })
      );
    }
    case 'protection':
      return against(m, 'protection') ?? { proof: 'proved', words: 'overload as the plate' };
    case 'motion':
      if (!m.draftSpec.ok) return { proof: 'stale', words: 'needs a plate that fits' };
      return (
        against(m, 'motion') ??
        ofItems(m, [c.proofOf('motion', 'run').standing], { passed: 'run and recorded as set', open: 'ramps, limits and stopping, looked ahead' })
      );
    case 'write':
      if (!m.inDrive) return { proof: 'not yet', words: 'the drive was not read yet' };
      if (m.differing.length > 0)
        return { proof: 'act', words: `${many(m.differing.length, 'setting differs', 'settings differ')} from the drive, ${m.newer} newer` };
      return { proof: 'proved', words: 'draft and drive agree' };
    case 'direction':
      return ofItems(m, [c.proofOf('direction', 'direction').standing], { passed: 'turns the right way', open: 'not looked at yet' });
    case 'tune':
      if (!m.book.words.tune) return { proof: 'not yet', words: `${m.book.family} cannot measure: learn from a run` };
      return ofItems(m, [c.proofOf('tune', 'tune').standing], { passed: 'measured, kept, copied back', open: 'the motor is an estimate so far' });
    case 'turn':
      return c.recordings > 0 ? { proof: 'proved', words: 'turned and recorded' } : { proof: 'not yet', words: 'hold to run at any speed' };
    case 'settings': {
      const changed = m.settings.filter((s) => s.access !== 'read' && m.draftOf(s.code).value !== factoryValue(s, m.machine.region)).length;
      return { proof: 'not yet', words: `${m.settings.length} settings, ${changed} not as from the factory` };
    }
    case 'bench':
      return { proof: 'not yet', words: 'the simulated machine: panel, handles, faults' };
    default:
      return { proof: c.recordings > 0 ? 'proved' : 'not yet', words: c.recordings === 0 ? 'none yet' : `${c.recordings} kept` };
  }
}

/** Every stage with how far it is. */
export function useStandings(m: MachineModel): Array<Standing & { stage: Stage }> {
  const recordings = useRecordings(m.machine.tag).data?.pages[0]?.recordings.length ?? 0;
  const { survey, made } = useSurvey(m);
  const proofOf = useProofs(m);
  return useMemo(
    () => stages.map((stage) => ({ stage, ...stageStanding(stage, m, { recordings, survey, surveyed: made !== null, proofOf }) })),
    [m, recordings, survey, made, proofOf],
  );
}

/** Codes of the drive's settings that the direction stands on. */
export const directionRelies = (m: MachineModel): string[] => {
  const s = findSetting(m.book, m.machine.size, 'phaseOrder');
  return s ? [s.code] : [];
};
