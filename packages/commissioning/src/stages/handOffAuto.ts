import { formatFigure, HandSpeed, type SettingRole } from '@yare/core';
import type { Checked, Finding } from '../checked';
import { selectorWired } from '@yare/core';
import { hz } from '../command/words';
import { against, defineStage, ofItems, type ProofDefinition, notNeeded } from '../stage';

const roles: readonly SettingRole[] = [
  'handSpeed',
  'keypadSpeed',
  'startAfterPowerUp',
  'autoRestarts',
  'restartInterval',
  'startSource',
  'speedSource',
];

/** Every position of the selector was seen to do what it should. */
export const selectorProof: ProofDefinition = {
  id: 'selector',
  facts: 'selector',
  relies: { roles, inputs: true },
};

/** Restarts by the drive itself, and a hand that stands still. */
function check(c: Checked): Finding[] {
  const out: Finding[] = [];
  const restarts = c.settings.find('autoRestarts');
  const times = c.settings.roleValue('autoRestarts');
  if (restarts && times > 0)
    out.push({
      id: 'restarts by itself',
      code: restarts.code,
      severity: 'warning',
      sentence: `After a trip it starts again by itself, up to ${times} ${times === 1 ? 'time' : 'times'}, ${formatFigure(c.settings.roleValue('restartInterval'), 0)} s after each. Whoever opens the machine to look for the cause is in danger: warn at the machine, or let a person reset it.`,
      remedy: { label: 'Let a person reset it', changes: c.settings.change('autoRestarts', 0, 'chosen') },
    });
  const { command } = c.settings.controls();
  const keypad = c.settings.find('keypadSpeed');
  if (selectorWired(command) && command.handSpeed === HandSpeed.keypad && keypad && command.keypadSpeed < command.limits.minimumFrequency)
    out.push({
      id: 'hand too slow',
      code: keypad.code,
      severity: 'warning',
      sentence: `Hand runs at the keypad speed of ${hz(command.keypadSpeed)}, below the minimum of ${hz(command.limits.minimumFrequency)}: it runs at the minimum.`,
    });
  return out;
}

/** What each position of the selector does. */
export const handOffAutoStage = defineStage({
  path: 'hand-off-auto',
  key: 'h',
  sections: [
    { id: 'hand', title: 'Hand', roles: ['handSpeed', 'keypadSpeed'] },
    { id: 'power', title: 'When power comes back', roles: ['startAfterPowerUp'] },
    { id: 'trip', title: 'After a trip', roles: ['autoRestarts', 'restartInterval'] },
  ],
  proofs: [selectorProof],
  check,
  standing: (m, { proofOf }) => {
    const found = against(m, 'hand-off-auto');
    if (!selectorWired(m.drafted.controls().command)) return found ?? notNeeded('no selector is wired');
    return found ?? ofItems(m, [proofOf('hand-off-auto', selectorProof.id)], { passed: 'every position seen', open: 'no position tried yet' });
  },
});
