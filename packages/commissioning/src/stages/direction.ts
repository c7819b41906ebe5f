import { StartSource } from '@yare/core';
import { say } from '@yare/words/stages/direction';
import type { Checked, Finding } from '../checked';
import { defineStage, ofItems, type ProofDefinition } from '../stage';

/** Who may start it. */
function check(c: Checked): Finding[] {
  const s = c.settings.find('startSource');
  if (!s || c.settings.role('startSource') === StartSource.terminals) return [];
  return [
    {
      id: 'start source away',
      code: s.code,
      severity: 'warning',
      sentence: say.saysTheSelectorAndThe({ name: s.name, code: s.code, text: c.settings.text(s) }),
      remedy: { label: say.giveStartBackToThe, changes: c.settings.change('startSource', StartSource.terminals, 'chosen') },
    },
  ];
}

/** The shaft turned the way the machine wants it; which phases lie where is what it stands on. */
export const directionProof: ProofDefinition = {
  id: 'direction',
  facts: 'direction',
  relies: { roles: ['phaseOrder'], plate: ['power', 'speed', 'connection'] },
};

/** Turned slowly and looked at. */
export const directionStage = defineStage({
  path: 'direction',
  proofs: [directionProof],
  check,
  standing: (m, { proofOf }) => ofItems(m, [proofOf('direction', directionProof.id)], { passed: say.turnsTheRightWay, open: say.notLookedAtYet }),
});
