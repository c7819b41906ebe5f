import { asTheyStand } from '@yare/books';
import { stageName } from '@yare/words/stages';
import type { Checked } from '../checked';
import type { MachineModel, StageFinding } from '../model';
import { groundsOf, reliesOn, settingPrefix, type ProofDefinition, type StageDefinition } from '../stage';
import { beforePowerStage } from './beforePower';
import { commandStage } from './command';
import { directionStage } from './direction';
import { driveStage } from './drive';
import { handOffAutoStage } from './handOffAuto';
import { motionStage } from './motion';
import { plateStage } from './plate';
import { presetsStage } from './presets';
import { processStage } from './process';
import { protectionStage } from './protection';
import { emergencyStage } from './emergency';
import { guardsStage } from './guards';
import { sleepStage } from './sleep';
import { stationStage } from './station';
import { surveyStage } from './survey';
import { terminalsStage } from './terminals';
import { benchTool, recordingsTool, settingsTool, tripTool, turnTool } from './tools';
import { tuneStage } from './tune';
import { writeStage } from './write';

/** The stages in the order of the job, then what is used in every one of them. */
const definitions = [
  surveyStage,
  beforePowerStage,
  plateStage,
  driveStage,
  protectionStage,
  motionStage,
  writeStage,
  directionStage,
  tuneStage,
  commandStage,
  terminalsStage,
  presetsStage,
  handOffAutoStage,
  processStage,
  sleepStage,
  guardsStage,
  stationStage,
  emergencyStage,
  settingsTool,
  turnTool,
  recordingsTool,
  tripTool,
  benchTool,
] as const;

export type StagePath = (typeof definitions)[number]['path'];

/** A stage with its place in the job. */
export interface Stage extends StageDefinition<StagePath> {
  name: string;
  /** its place in the job; null for what is used in every stage */
  number: number | null;
  /** single key on a wide screen */
  key: string;
}

export const stages: readonly Stage[] = definitions.map((d: StageDefinition<StagePath>, i) => ({
  ...d,
  name: stageName(d.path),
  number: d.tool ? null : i + 1,
  key: d.key ?? String(i + 1),
}));

/** @throws RangeError when there is none */
export function stageAt(path: StagePath): Stage {
  const stage = stages.find((s) => s.path === path);
  if (!stage) throw new RangeError(`There is no stage "${path}".`);
  return stage;
}

/** The stage that comes after one in the order of the job; null after the last. */
export function stageAfter(path: StagePath): Stage | null {
  const next = stages[stages.findIndex((s) => s.path === path) + 1];
  return next && next.number !== null ? next : null;
}

/** Everything that does not fit between plate, drive, supply and draft, each with its stage, sentence and way out. Pure. */
export function stageFindings(c: Checked): StageFinding[] {
  const fixed = { ...c, settings: asTheyStand(c.settings) };
  return stages.flatMap((stage) => (stage.check?.(fixed) ?? []).map((f) => ({ ...f, stage: stage.path })));
}

/** A test by its stage's path and its own name; undefined when there is none. */
export const proofAt = (path: string, item: string): ProofDefinition | undefined =>
  stages.find((s) => s.path === path)?.proofs?.find((p) => p.id === item);

/** What is asked of the server with a proof of a stage. @throws RangeError when the stage has no such test */
export function proofRelies(path: StagePath, item: string, m: Pick<MachineModel, 'drafted'>): ReturnType<typeof reliesOn> {
  const proof = stageAt(path).proofs?.find((p) => p.id === item);
  if (!proof) throw new RangeError(`Stage ${path} has no test "${item}".`);
  return reliesOn(proof, m.drafted);
}

export { groundsOf, settingPrefix };
