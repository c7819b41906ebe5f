import { factoryValue } from '@yare/books';
import { checkPlate } from '@yare/core';
import type { MachineModel } from './machineModel';

export interface Stage {
  path: '' | 'plate' | 'motion' | 'write' | 'turn' | 'recordings' | 'bench' | 'settings';
  number: number;
  name: string;
  /** single key on a wide screen */
  hotkey: string;
}

/** The stages that exist, in the order of the job. */
export const stages: Stage[] = [
  { path: 'plate', number: 1, name: 'Plate', hotkey: '1' },
  { path: 'motion', number: 2, name: 'Motion', hotkey: '2' },
  { path: 'write', number: 3, name: 'Write', hotkey: '3' },
  { path: 'turn', number: 4, name: 'Turn it', hotkey: '4' },
  { path: 'recordings', number: 5, name: 'Recordings', hotkey: '5' },
  { path: 'bench', number: 6, name: 'Bench', hotkey: '6' },
  { path: 'settings', number: 7, name: 'Settings sheet', hotkey: '7' },
];

export type StageProof = 'proved' | 'not yet' | 'stale' | 'act';

/** How far a stage is, with the words beside its shape. */
export function stageStanding(stage: Stage, m: MachineModel, recordings: number): { proof: StageProof; words: string } {
  switch (stage.path) {
    case 'plate': {
      const findings = checkPlate(m.plate);
      if (findings.length > 0)
        return { proof: 'stale', words: findings.length === 1 ? 'one figure does not fit' : `${findings.length} figures do not fit` };
      return { proof: 'proved', words: 'the figures fit one another' };
    }
    case 'write':
      if (!m.inDrive) return { proof: 'not yet', words: 'the drive was not read yet' };
      if (m.differing.length > 0)
        return { proof: 'act', words: `${m.differing.length} ${m.differing.length === 1 ? 'setting differs' : 'settings differ'} from the drive` };
      return { proof: 'proved', words: 'draft and drive agree' };
    case 'turn':
      return recordings > 0 ? { proof: 'proved', words: 'turned and recorded' } : { proof: 'not yet', words: 'not turned yet' };
    case 'motion':
      return m.draftSpec.ok
        ? { proof: 'not yet', words: 'ramps, limits and stopping, looked ahead' }
        : { proof: 'stale', words: 'needs a plate that fits' };
    case 'settings': {
      const changed = m.settings.filter((s) => s.access !== 'read' && m.draftOf(s.code).value !== factoryValue(s, m.machine.region)).length;
      return { proof: 'not yet', words: `${m.settings.length} settings, ${changed} not as from the factory` };
    }
    case 'bench':
      return { proof: 'not yet', words: 'the simulated machine: panel, handles, faults' };
    default:
      return { proof: recordings > 0 ? 'proved' : 'not yet', words: recordings === 0 ? 'none yet' : `${recordings} kept` };
  }
}
