import { Fragment } from 'react';
import type { MachineModel, Section, StageFinding, StagePath } from '@yare/commissioning';
import type { SettingRole } from '@yare/core';
import { say } from '@yare/words/pages/frame';
import type { Entry } from '../ui/entryStore';
import { SectionHead } from '../ui/sheet';
import { settingEntry, SettingRow } from './SettingRow';
import { StageFindings } from './StageFindings';

interface Of {
  model: MachineModel;
  stage: StagePath;
}

/** Settings of one section, each with what was found about it. */
export const SettingRows = ({ model, stage, section }: Of & { section: Section }) =>
  model.drafted.having(section.roles).map((setting) => (
    <SettingRow key={setting.code} model={model} setting={setting} stage={stage}>
      <StageFindings model={model} findings={model.findings.filter((f) => f.stage === stage && f.code === setting.code)} />
    </SettingRow>
  ));

/** Settings of a stage in their sections; what this drive has none of is left out. */
export const SettingSections = ({ model, stage, sections }: Of & { sections: readonly Section[] }) =>
  sections
    .filter((section) => model.drafted.having(section.roles).length > 0)
    .map((section) => (
      <Fragment key={section.id}>
        <SectionHead>{section.title}</SectionHead>
        <SettingRows model={model} stage={stage} section={section} />
      </Fragment>
    ));

/** The figures of those sections, in their order. */
export const sectionEntries = (model: MachineModel, stage: StagePath, sections: readonly Section[]): Entry[] =>
  model.drafted
    .having(sections.flatMap((s) => s.roles))
    .filter((s) => !s.options)
    .map((s) => settingEntry(model, s, stage));

/** What was found that stands under no setting of these sections. */
export const otherFindings = (model: MachineModel, stage: StagePath, shown: ReadonlySet<string>): StageFinding[] =>
  model.findings.filter((f) => f.stage === stage && !(f.code !== undefined && shown.has(f.code)));

/** What a shut section holds, so that it need not be opened to know. */
export function foldText(model: MachineModel, roles: readonly SettingRole[]): string {
  const settings = model.drafted.having(roles);
  const differ = settings.filter((s) => model.differing.includes(s)).length;
  return differ > 0 ? say.notAsDrive({ differ }) : say.setting({ settings: settings.length });
}

/** Whether something was found about a setting of these. */
export const hasFinding = (model: MachineModel, roles: readonly SettingRole[]): boolean =>
  model.drafted.having(roles).some((s) => model.findings.some((f) => f.code === s.code && f.severity !== 'good'));
