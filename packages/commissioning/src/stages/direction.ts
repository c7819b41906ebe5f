import { StartSource } from '@yare/core';
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
      sentence: `${s.name} ${s.code} says ${c.settings.text(s)}: the selector and the buttons on the panel start nothing. Hold to run does not need it; command over the link goes back by itself when you let go.`,
      remedy: { label: 'Give start back to the terminals', changes: c.settings.change('startSource', StartSource.terminals, 'chosen') },
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
  standing: (m, { proofOf }) => ofItems(m, [proofOf('direction', directionProof.id)], { passed: 'turns the right way', open: 'not looked at yet' }),
});
