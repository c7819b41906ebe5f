import type { Survey } from '@yare/contract';
import type { MachineModel } from './model';
import { settingPrefix } from './stage';
import { surveyGround } from './stages/survey';

/** How things a proof may rely on stand now, by name. */
export const standsNow = (model: MachineModel, survey: Survey) => (name: string) => {
  if (name === 'drive') return model.machine.driveRevision;
  if (name === 'plate') return model.machine.plate.revision;
  if (name === 'survey') return surveyGround(survey);
  return name.startsWith(settingPrefix) ? (model.inDriveOf(name.slice(settingPrefix.length))?.value ?? null) : undefined;
};
