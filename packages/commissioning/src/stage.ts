import type { DriveSettings } from '@yare/books';
import type { ProofKind, Survey } from '@yare/contract';
import type { SettingRole, StampedPlate } from '@yare/core';
import { say } from '@yare/words/commissioning';
import type { Checked, Finding } from './checked';
import { presetTable } from './command/presets';
import type { MachineModel } from './model';
import { stageOfItems, type ItemStanding } from './proof';

/** Settings that stand together on a stage, in the order they are asked. */
export interface Section {
  id: string;
  title: string;
  roles: readonly SettingRole[];
}

/** Figures of the survey that a proof may stand on. */
export type SurveyField = 'voltage' | 'frequency' | 'phases' | 'ambient' | 'altitude' | 'cableLength';

/** What a proof stands on, so that it counts no longer when that changes. */
export interface Relies {
  /** settings in the drive by role */
  roles?: readonly SettingRole[];
  /** every setting that takes a figure of the plate */
  plateSettings?: true;
  /** the jobs of all digital inputs, or of those that choose presets */
  inputs?: true;
  presetInputs?: true;
  /** figures of the plate */
  plate?: ReadonlyArray<keyof StampedPlate>;
  /** figures of supply and place */
  survey?: readonly SurveyField[];
}

/** One test of a stage. */
export interface ProofDefinition {
  id: string;
  relies: Relies;
  /** what is kept of it as found; a look of a person where nothing is said */
  facts?: ProofKind;
}

/** What does not apply to a machine is not needed: neither counted nor ticked. */
export type StageProof = 'proved' | 'not yet' | 'stale' | 'act' | 'not needed';

/** How far a stage is, with the words beside its shape. */
export interface Standing {
  proof: StageProof;
  text: string;
}

/** What a stage's standing is told from besides the model. */
export interface StandingContext {
  /** recordings there are, and those of runs among them */
  recordings: number;
  runs: number;
  survey: Survey;
  surveyed: boolean;
  proofOf: (stage: string, item: string) => ItemStanding;
}

/** One stage of the job: everything page, server and tests know of it. */
export interface StageDefinition<Path extends string = string> {
  /** its route */
  path: Path;
  /** single key on a wide screen; a stage of the job that names none is reached by its number */
  key?: string;
  /** what is used in every stage and has no place in the order of the job */
  tool?: true;
  sections?: readonly Section[];
  proofs?: readonly ProofDefinition[];
  /** what does not fit between this stage's figures and the rest */
  check?: (c: Checked) => Finding[];
  standing: (m: MachineModel, c: StandingContext) => Standing;
}

export const defineStage = <const Path extends string>(stage: StageDefinition<Path>): StageDefinition<Path> => stage;

/** A stage this machine has no use for, and why. */
export const notNeeded = (why: string): Standing => ({ proof: 'not needed', text: say.notNeededHere({ why }) });

/** Stages of the job that count, and those of them that are still open. */
export function counted<S extends Pick<Standing, 'proof'>>(job: readonly S[]): { needed: S[]; open: S[] } {
  const needed = job.filter((s) => s.proof !== 'not needed');
  return { needed, open: needed.filter((s) => s.proof !== 'proved') };
}

/** What a stage's own check says against it; null when nothing does. */
export function against(m: MachineModel, stage: string): Standing | null {
  const found = m.findings.filter((f) => f.stage === stage && f.severity !== 'good');
  if (found.length === 0) return null;
  return { proof: found.some((f) => f.severity === 'error') ? 'act' : 'stale', text: say.thingToLookAtThings({ found: found.length }) };
}

/** What changed, in words a person knows. */
export function changedText({ drafted }: Pick<MachineModel, 'drafted'>, changed: readonly string[]): string {
  const text = changed.map((name) => {
    if (!name.startsWith(settingPrefix)) return name === 'drive' ? say.anotherDrive : (groundNames[name] ?? name);
    const code = name.slice(settingPrefix.length);
    const s = drafted.at(code);
    return s ? `${s.name.toLowerCase()} ${s.code}` : code;
  });
  return text.length > 2 ? say.andMore({ text: text.slice(0, 2).join(', '), text2: text.length - 2 }) : text.join(' and ');
}

/** In what a proof relied on, a setting stands under this and its code, and figures of plate and survey under theirs and their field. */
export const settingPrefix = 'setting ';
export const platePrefix = 'plate ';
export const surveyPrefix = 'survey ';

/** How a person calls what a proof relied on. */
const groundNames: Readonly<Record<string, string>> = {
  'plate power': say.theOutputOnTheNameplate,
  'plate voltage': say.theVoltageOnTheNameplate,
  'plate current': say.theCurrentOnTheNameplate,
  'plate connection': say.theConnectionOnTheNameplate,
  'plate speed': say.theSpeedOnTheNameplate,
  'plate leads': say.theLeadsInTheTerminal,
  'plate joined': say.howTheLeadsAreJoined,
  'plate base': say.theFrequencyItIsRun,
  'survey voltage': say.theSupplyVoltage,
  'survey frequency': say.theSupplyFrequency,
  'survey phases': say.theNumberOfPhases,
  'survey ambient': say.theAmbientTemperature,
};

type Grounds = Record<string, number | string | null>;

/** The figures of plate and survey a proof stands on, by name. */
export function groundsOf({ relies }: ProofDefinition, plate: StampedPlate, survey: Pick<Survey, SurveyField>): Grounds {
  return Object.fromEntries([
    ...(relies.plate ?? []).map((field) => [`${platePrefix}${field}`, plate[field] ?? null]),
    ...(relies.survey ?? []).map((field) => [`${surveyPrefix}${field}`, survey[field]]),
  ]) as Grounds;
}

/** A stage whose standing is that of tests somebody made. */
export function ofItems(m: MachineModel, items: readonly ItemStanding[], text: { passed: string; open: string }): Standing {
  const passed = items.filter((i) => i.state === 'passed').length;
  switch (stageOfItems(items)) {
    case 'passed':
      return { proof: 'proved', text: text.passed };
    case 'failed':
      return { proof: 'act', text: say.aTestHasFailed };
    case 'stale': {
      const changed = [...new Set(items.flatMap((i) => (i.state === 'stale' ? i.changed : [])))];
      return { proof: 'stale', text: say.toBeProvedAgainChanged({ changedText: changedText(m, changed) }) };
    }
    default:
      return { proof: 'not yet', text: passed > 0 ? say.ofProved({ passed, items: items.length }) : text.open };
  }
}

/** What the server is asked to look up for a proof, for one drive. */
export function reliesOn({ relies }: ProofDefinition, settings: DriveSettings): { settings: string[]; plate: boolean; survey: boolean } {
  const ofPlate = relies.plateSettings ? settings.all.filter((s) => s.plate && s.access !== 'read') : [];
  const jobs = relies.inputs ? settings.inputs : relies.presetInputs ? presetTable(settings).contacts.map((c) => c.setting) : [];
  const codes = [...settings.having(relies.roles ?? []), ...ofPlate, ...jobs].map((s) => s.code);
  return { settings: [...new Set(codes)], plate: relies.plate !== undefined, survey: relies.survey !== undefined };
}
