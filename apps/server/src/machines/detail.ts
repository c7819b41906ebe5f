import type { MachineDetail } from '@yare/contract';
import type { Db } from '../db/connect';
import { learnedOf } from '../learned/learned';
import { plateOf } from '../plate/plate';
import { surveyOf } from '../survey/survey';
import { nameOf, type MachineRow } from './machines';

/** A machine with its plate, what it drives and what was learned of it. */
export async function detailOf(db: Db, m: MachineRow): Promise<MachineDetail> {
  const surveyed = (await surveyOf(db, m.id))?.survey.driven ?? null;
  return {
    ...nameOf(m),
    region: m.region,
    supply: m.supply,
    driven: surveyed ?? m.driven,
    drivenEstimated: surveyed === null && m.driven_estimated,
    unitId: m.unit_id,
    plate: await plateOf(db, m.id),
    learned: await learnedOf(db, m.id),
    driveRevision: m.drive_revision,
  };
}
