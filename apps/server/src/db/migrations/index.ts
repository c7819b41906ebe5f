import type { Knex } from 'knex';
import * as groundFloor from './001_ground_floor';
import * as machineBehind from './002_machine_behind';
import * as commissioning from './003_commissioning';
import * as newMachines from './004_new_machines';
import * as nothingByAccident from './005_nothing_by_accident';

/** Forward-only, in order of their names. A landed migration is never edited. */
export const migrations: Record<string, Knex.Migration> = {
  '001_ground_floor': groundFloor,
  '002_machine_behind': machineBehind,
  '003_commissioning': commissioning,
  '004_new_machines': newMachines,
  '005_nothing_by_accident': nothingByAccident,
};
