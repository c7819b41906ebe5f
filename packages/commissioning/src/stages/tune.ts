import type { SettingRole } from '@yare/core';
import { say } from '@yare/words/stages/tune';
import { defineStage, ofItems, type ProofDefinition } from '../stage';

/** What a tune measures. */
export const tunedRoles = ['statorResistance', 'rotorResistance', 'leakageReactance', 'noLoadCurrent'] as const satisfies readonly SettingRole[];

/** The motor was measured; the nameplate in the drive is what it was measured against. */
export const tuneProof: ProofDefinition = { id: 'tune', facts: 'tune', relies: { plateSettings: true } };

/** The motor measured by its drive. */
export const tuneStage = defineStage({
  path: 'tune',
  proofs: [tuneProof],
  standing: (m, { proofOf }) => {
    const { book } = m.drafted;
    if (!book.words.tune) return { proof: 'not yet', text: say.cannotMeasureFitTheModel({ family: book.family }) };
    return ofItems(m, [proofOf('tune', tuneProof.id)], { passed: say.measuredKeptCopiedBack, open: say.theMotorIsAnEstimate });
  },
});
