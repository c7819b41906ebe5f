import { say } from '@yare/words/stages/write';
import { defineStage } from '../stage';

/** The draft into the drive, read back and kept. */
export const writeStage = defineStage({
  path: 'write',
  standing: (m) => {
    if (!m.inDrive) return { proof: 'not yet', text: say.theDriveWasNotRead };
    if (m.differing.length > 0) return { proof: 'act', text: say.fromTheDriveNewer({ differing: m.differing.length, newer: m.newer }) };
    return { proof: 'proved', text: say.draftAndDriveAgree };
  },
});
