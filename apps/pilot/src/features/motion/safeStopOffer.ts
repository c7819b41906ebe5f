import { storedValue, type Setting } from '@yare/books';
import { safeStop, type MachineModel } from '@yare/commissioning';
import { editDraft } from '../../data/edits';
import type { LookAheadState } from '../../data/lookAhead';

/** A stop of the draft against the shortest safe one: where they differ, that one as the drive can hold it, and how to take it. */
function offerOf(model: MachineModel, setting: Setting, shortest: number) {
  const { tag } = model.machine;
  // the next step the drive can hold, never a shorter stop
  const value = Math.ceil(shortest / setting.step) * setting.step;
  const take = () => {
    const stored = Math.min(setting.max, storedValue(setting, value));
    editDraft(tag, { [setting.code]: { value: stored, source: 'worked out' } }, { [setting.code]: model.draftOf(setting.code) });
  };
  return { value, take };
}

const shortestSafe = ({ machine }: MachineModel, ahead: LookAheadState): number | null =>
  ahead.stopping ? safeStop(machine.driven.kind, Boolean(machine.learned?.values), ahead.stopping.without) : null;

/** The shortest safe stop where the draft stops sooner; null where it does not, or nothing is known yet. */
export function longerStopOffer(model: MachineModel, setting: Setting, ahead: LookAheadState) {
  const shortest = shortestSafe(model, ahead);
  return shortest === null || shortest <= model.draftOf(setting.code).value ? null : offerOf(model, setting, shortest);
}

/** Share of a stop by which another one has to differ to be worth a change. */
const worthIt = 0.1;

/** The shortest safe stop where the draft stops noticeably sooner or later; null where it does not, or nothing is known yet. */
export function safeStopOffer(model: MachineModel, setting: Setting, ahead: LookAheadState) {
  const shortest = shortestSafe(model, ahead);
  if (shortest === null) return null;
  const { value } = model.draftOf(setting.code);
  return shortest > value || value > (1 + worthIt) * shortest ? offerOf(model, setting, shortest) : null;
}
