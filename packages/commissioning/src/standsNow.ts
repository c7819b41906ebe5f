import type { Survey } from '@yare/contract';
import type { StampedPlate } from '@yare/core';
import type { MachineModel } from './model';
import { platePrefix, settingPrefix, surveyPrefix, type SurveyField } from './stage';
import { surveyGround } from './stages/survey';

/** How things a proof may rely on stand now, by name. Older proofs relied on plate and survey as a whole. */
export const standsNow = (model: MachineModel, survey: Survey) => (name: string) => {
  if (name === 'drive') return model.machine.driveRevision;
  if (name === 'plate') return model.machine.plate.revision;
  if (name === 'survey') return surveyGround(survey);
  if (name.startsWith(platePrefix)) return model.machine.plate.plate[name.slice(platePrefix.length) as keyof StampedPlate] ?? null;
  if (name.startsWith(surveyPrefix)) return survey[name.slice(surveyPrefix.length) as SurveyField] ?? null;
  return name.startsWith(settingPrefix) ? (model.inDriveOf(name.slice(settingPrefix.length))?.value ?? null) : undefined;
};
