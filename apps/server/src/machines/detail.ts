import { drivenAnew } from '@yare/commissioning';
import type { MachineDetail } from '@yare/contract';
import type { Db } from '../db/connect';
import { learnedOf } from '../learned/learned';
import { plateAt, plateOf } from '../plate/plate';
import { surveyOf } from '../survey/survey';
import { nameOf, type MachineRow } from './machines';

/** A machine with its plate, what it drives and what was learned of it. */
export async function detailOf(db: Db, m: MachineRow): Promise<MachineDetail> {
  const survey = await surveyOf(db, m.id);
  const surveyed = survey?.survey.driven ?? null;
  const plate = await plateOf(db, m.id);
  // an estimate from the motor is one from its plate as it is now, and so is what a survey took over of it
  const from = surveyed ? await plateAt(db, m.id, survey?.at ?? null) : await plateAt(db, m.id, null);
  return {
    ...nameOf(m),
    region: m.region,
    supply: m.supply,
    driven: surveyed || m.driven_estimated ? drivenAnew(surveyed ?? m.driven, from, plate.plate) : m.driven,
    drivenEstimated: surveyed === null && m.driven_estimated,
    unitId: m.unit_id,
    plate,
    learned: await learnedOf(db, m.id),
    driveRevision: m.drive_revision,
  };
}
