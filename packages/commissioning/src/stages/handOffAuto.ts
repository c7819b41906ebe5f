import { HandSpeed, type SettingRole } from '@yare/core';
import type { Checked, Finding } from '../checked';
import { selectorWired } from '@yare/core';
import { say } from '@yare/words/stages/handOffAuto';
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
      sentence: say.afterATripItStarts({ times, restartInterval: c.settings.roleValue('restartInterval') }),
      remedy: { label: say.letAPersonResetIt, changes: c.settings.change('autoRestarts', 0, 'chosen') },
    });
  const { command } = c.settings.controls();
  const keypad = c.settings.find('keypadSpeed');
  if (selectorWired(command) && command.handSpeed === HandSpeed.keypad && keypad && command.keypadSpeed < command.limits.minimumFrequency)
    out.push({
      id: 'hand too slow',
      code: keypad.code,
      severity: 'warning',
      sentence: say.handRunsAtTheKeypad({ hz: hz(command.keypadSpeed), hz2: hz(command.limits.minimumFrequency) }),
    });
  return out;
}

/** What each position of the selector does. */
export const handOffAutoStage = defineStage({
  path: 'hand-off-auto',
  key: 'h',
  sections: [
    { id: 'hand', title: say.hand, roles: ['handSpeed', 'keypadSpeed'] },
    { id: 'power', title: say.whenPowerComesBack, roles: ['startAfterPowerUp'] },
    { id: 'trip', title: say.afterATrip, roles: ['autoRestarts', 'restartInterval'] },
  ],
  proofs: [selectorProof],
  check,
  standing: (m, { proofOf }) => {
    const found = against(m, 'hand-off-auto');
    if (!selectorWired(m.drafted.controls().command)) return found ?? notNeeded(say.noSelectorIsWired);
    return found ?? ofItems(m, [proofOf('hand-off-auto', selectorProof.id)], { passed: say.everyPositionSeen, open: say.noPositionTriedYet });
  },
});
