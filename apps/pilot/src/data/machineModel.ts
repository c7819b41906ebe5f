import { useMemo } from 'react';
import { bookById, driveParameters, driveRating, estimateMachine, ratingOf, settingsOf, storedValue, type Setting } from '@yare/books';
import type { DriveBook, MachineDetail, Sheet, SheetValue } from '@yare/contract';
import { applyLearned, type Learned, type MachineSpec, type StampedPlate } from '@yare/core';
import { useMachineEdits, type DraftChange } from './edits';
import { useMachine, useSheets } from './queries';

/** One machine as this device sees it: the server's record with what was typed here on top. */
export interface MachineModel {
  machine: MachineDetail;
  book: DriveBook;
  settings: readonly Setting[];
  plate: StampedPlate;
  draft: Sheet;
  inDrive: Sheet | null;
  /** value and source of the draft, edits of this device included */
  draftOf: (code: string) => DraftChange;
  inDriveOf: (code: string) => SheetValue | undefined;
  /** settings whose stored draft value is not what the drive holds */
  differing: Setting[];
  draftSpec: { ok: true; spec: MachineSpec } | { ok: false; sentence: string };
  inDriveSpec: MachineSpec | null;
  /** what is in the drive with the estimate alone, nothing learned: what a recording is compared with */
  inDriveEstimate: MachineSpec | null;
}

export type ModelState = { status: 'loading' } | { status: 'error'; sentence: string } | { status: 'ready'; model: MachineModel };

export function useMachineModel(tag: string): ModelState {
  const machine = useMachine(tag);
  const sheets = useSheets(tag);
  const edits = useMachineEdits(tag);
  return useMemo((): ModelState => {
    const error = machine.error ?? sheets.error;
    if (!machine.data || !sheets.data) return error ? { status: 'error', sentence: error.message } : { status: 'loading' };
    return {
      status: 'ready',
      model: buildModel(machine.data, sheets.data.draft, sheets.data.inDrive, edits.draft.changes, edits.plate.changes as Partial<StampedPlate>),
    };
  }, [machine.data, machine.error, sheets.data, sheets.error, edits.draft.changes, edits.plate.changes]);
}

/** The record and the edits put together. Pure. */
export function buildModel(
  machine: MachineDetail,
  draft: Sheet,
  inDrive: Sheet | null,
  changes: Record<string, DraftChange>,
  plateChanges: Partial<StampedPlate>,
): MachineModel {
  const book = bookById(machine.bookId);
  const settings = settingsOf(book, machine.size);
  const plate = { ...(machine.plate.plate as StampedPlate), ...plateChanges };
  const draftOf = (code: string): DraftChange => {
    const { value, source } = changes[code] ?? draft.values[code] ?? { value: 0, source: 'factory' };
    return { value, source };
  };
  const inDriveOf = (code: string) => inDrive?.values[code];
  const specOf = (value: (code: string) => number | undefined): MachineModel['draftSpec'] => {
    const values = Object.fromEntries(settings.map((s) => [s.code, value(s.code) ?? s.factory50]));
    const supply = { ...machine.supply, rectifier: ratingOf(book, machine.size).input };
    const estimate = estimateMachine(plate, machine.driven, driveParameters(book, machine.size, values), driveRating(book, machine.size), supply);
    return estimate.ok ? { ok: true, spec: estimate.spec } : estimate;
  };
  const withLearned = (spec: MachineSpec): MachineSpec => (machine.learned?.values ? applyLearned(spec, machine.learned.values as Learned) : spec);
  const draftSpec = specOf((c) => draftOf(c).value);
  const driveSpec = inDrive ? specOf((c) => inDriveOf(c)?.value) : null;
  return {
    machine,
    book,
    settings,
    plate,
    draft,
    inDrive,
    draftOf,
    inDriveOf,
    differing: settings.filter((s) => s.access !== 'read' && inDrive !== null && storedValue(s, draftOf(s.code).value) !== inDriveOf(s.code)?.value),
    draftSpec: draftSpec.ok ? { ok: true, spec: withLearned(draftSpec.spec) } : draftSpec,
    inDriveSpec: driveSpec?.ok ? withLearned(driveSpec.spec) : null,
    inDriveEstimate: driveSpec?.ok ? driveSpec.spec : null,
  };
}
