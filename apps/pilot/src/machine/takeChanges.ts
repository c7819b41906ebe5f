import type { SettingChange } from '@yare/books';
import type { MachineModel } from '@yare/commissioning';
import { editDraft } from '../data/edits';

/** Takes changes into the draft, as one step that can be taken back. */
export function takeChanges(model: MachineModel, changes: readonly SettingChange[]): void {
  if (changes.length === 0) return;
  const before = Object.fromEntries(changes.map(({ code }) => [code, model.draftOf(code)]));
  editDraft(model.machine.tag, Object.fromEntries(changes.map(({ code, value, source }) => [code, { value, source }])), before);
}
