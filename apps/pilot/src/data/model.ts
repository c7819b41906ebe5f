import { useMemo } from 'react';
import { buildModel, drivenAnew, type MachineModel } from '@yare/commissioning';
import { useBooks } from './books';
import { useMachineEdits } from './edits';
import { useMachine } from './machines';
import { useSheets } from './sheets';

export type ModelState = { status: 'loading' } | { status: 'error'; sentence: string } | { status: 'ready'; model: MachineModel };

/** One machine as this device sees it: the server's record with what was typed here on top. */
export function useMachineModel(tag: string): ModelState {
  const machine = useMachine(tag);
  const sheets = useSheets(tag);
  const books = useBooks();
  const { draft, plate, survey } = useMachineEdits(tag);
  return useMemo((): ModelState => {
    const error = machine.error ?? sheets.error ?? books.error;
    if (!machine.data || !sheets.data || !books.data) return error ? { status: 'error', sentence: error.message } : { status: 'loading' };
    const { driven } = survey.changes;
    const typed = driven ? { ...machine.data, driven, drivenEstimated: false } : machine.data;
    const { plate: stamped } = machine.data.plate;
    const record =
      Object.keys(plate.changes).length > 0 ? { ...typed, driven: drivenAnew(typed.driven, stamped, { ...stamped, ...plate.changes }) } : typed;
    return { status: 'ready', model: buildModel(record, sheets.data, draft.changes, plate.changes) };
  }, [machine.data, machine.error, sheets.data, sheets.error, books.data, books.error, draft.changes, plate.changes, survey.changes]);
}
