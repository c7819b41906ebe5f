import { defineStage, many } from '../stage';

/** The draft into the drive, read back and kept. */
export const writeStage = defineStage({
  path: 'write',
  standing: (m) => {
    if (!m.inDrive) return { proof: 'not yet', text: 'the drive was not read yet' };
    if (m.differing.length > 0)
      return { proof: 'act', text: `${many(m.differing.length, 'setting differs', 'settings differ')} from the drive, ${m.newer} newer` };
    return { proof: 'proved', text: 'draft and drive agree' };
  },
});
