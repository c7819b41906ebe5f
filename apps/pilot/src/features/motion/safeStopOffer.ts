import { storedValue, type Setting } from '@yare/books';
import { safeStop, type MachineModel } from '@yare/commissioning';
import { editDraft } from '../../data/edits';
import type { LookAheadState } from '../../data/lookAhead';

/**
 * The shortest safe stop as the drive can hold it, and how to take it. Null where the draft's is as good, or nothing is known yet.
 * @param gentlest times the shortest safe stop up to which the draft's is as good
 */
export function safeStopOffer(model: MachineModel, setting: Setting, ahead: LookAheadState, gentlest = Infinity) {
  if (!ahead.stopping) return null;
  const { tag, driven, learned } = model.machine;
  const shortest = safeStop(driven.kind, Boolean(learned?.values), ahead.stopping.without);
  const was = model.draftOf(setting.code);
  if (shortest <= was.value && was.value <= gentlest * shortest) return null;
  // the next step the drive can hold, never a shorter stop
  const value = Math.ceil(shortest / setting.step) * setting.step;
  const take = () =>
    editDraft(tag, { [setting.code]: { value: Math.min(setting.max, storedValue(setting, value)), source: 'worked out' } }, { [setting.code]: was });
  return { value, take };
}
