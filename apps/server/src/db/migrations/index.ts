import type { Knex } from 'knex';
import * as groundFloor from './001_ground_floor';
import * as learned from './002_learned';
import * as commissioning from './003_commissioning';
import * as newMachines from './004_new_machines';
import * as nothingByAccident from './005_nothing_by_accident';
import * as oneAccountOfAWrite from './006_one_account_of_a_write';
import * as unitId from './007_unit_id';
import * as wiring from './008_wiring';
import * as trips from './009_trips';
import * as recorder from './010_recorder';
import * as fittedTogether from './011_fitted_together';
import * as aYear from './012_a_year';
import * as seen from './013_seen';
import * as leaving from './014_leaving';
import * as facts from './015_facts';

/** Forward-only, in order of their names. A landed migration is never edited, and keeps the name the databases know it by. */
export const migrations: Readonly<Record<string, Knex.Migration>> = {
  '001_ground_floor': groundFloor,
  '002_machine_behind': learned,
  '003_commissioning': commissioning,
  '004_new_machines': newMachines,
  '005_nothing_by_accident': nothingByAccident,
  '006_one_account_of_a_write': oneAccountOfAWrite,
  '007_unit_id': unitId,
  '008_wiring': wiring,
  '009_trips': trips,
  '010_recorder': recorder,
  '011_fitted_together': fittedTogether,
  '012_a_year': aYear,
  '013_seen': seen,
  '014_leaving': leaving,
  '015_facts': facts,
};
