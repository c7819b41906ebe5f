import { stageFindings, type StageFinding } from '@yare/commissioning';
import { useMemo } from 'react';
import { bookById, driveParameters, driveRating, findSetting, ratingOf, roleValue, settingsOf, storedValue, type Setting } from '@yare/books';
import type { DriveBook, MachineDetail, Sheet, Sheets, SheetValue, Survey } from '@yare/contract';
import { applyLearned, applyTuned, type Circuit, type Learned, type MachineSpec, type StampedPlate, type Tuned, estimateMachine, type SettingRole } from '@yare/core';
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
  /** what the first reading of this drive found */
  asFound: Sheet | null;
  /** what does not fit between plate, supply, drive and draft */
  findings: StageFinding[];
  /** which of draft and drive was changed last */
  newer: 'draft' | 'drive' | null;
  /** settings whose stored draft value is not what the drive holds */
  differing: Setting[];
  draftSpec: { ok: true; spec: MachineSpec } | { ok: false; sentence: string };
  inDriveSpec: MachineSpec | null;
  /** the motor as estimated from its plate alone, nothing measured or learned; null when the plate does not fit */
  plateCircuit: Circuit | null;
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
    const { driven } = edits.survey.changes as Partial<Survey>;
    return {
      status: 'ready',
      model: buildModel(
        driven ? { ...machine.data, driven, drivenEstimated: false } : machine.data,
        sheets.data,
        edits.draft.changes,
        edits.plate.changes as Partial<StampedPlate>,
      ),
    };
  }, [machine.data, machine.error, sheets.data, sheets.error, edits.draft.changes, edits.plate.changes, edits.survey.changes]);
}

/** The record and the edits put together. Pure. */
export function buildModel(
  machine: MachineDetail,
  { draft, inDrive, asFound }: Sheets,
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
  let plateCircuit: Circuit | null = null;
  const specOf = (value: (code: string) => number | undefined): MachineModel['draftSpec'] => {
    const values = Object.fromEntries(settings.map((s) => [s.code, value(s.code) ?? s.factory50]));
    const supply = { ...machine.supply, rectifier: ratingOf(book, machine.size).input };
    const estimate = estimateMachine(plate, machine.driven, driveParameters(book, machine.size, values), driveRating(book, machine.size), supply);
    if (estimate.ok) plateCircuit = estimate.circuit;
    return estimate.ok ? { ok: true, spec: applyTuned(estimate.spec, tunedOf(book, machine.size, values)) } : estimate;
  };
  const withLearned = (spec: MachineSpec): MachineSpec => (machine.learned?.values ? applyLearned(spec, machine.learned.values as Learned) : spec);
  const draftSpec = specOf((c) => draftOf(c).value);
  const driveSpec = inDrive ? specOf((c) => inDriveOf(c)?.value) : null;
  const differing = settings.filter(
    (s) => s.access !== 'read' && inDrive !== null && storedValue(s, draftOf(s.code).value) !== inDriveOf(s.code)?.value,
  );
  const touched = Object.keys(changes).length > 0;
  return {
    machine,
    book,
    settings,
    plate,
    draft,
    inDrive,
    draftOf,
    inDriveOf,
    differing,
    asFound,
    // a drive that still is as it was found was not changed since: the draft is what was worked on
    newer: inDrive && differing.length > 0 ? (touched || draft.at > inDrive.at || inDrive.at === asFound?.at ? 'draft' : 'drive') : null,
    findings: stageFindings({
      book,
      size: machine.size,
      region: machine.region,
      plate,
      supply: machine.supply,
      driven: machine.driven,
      draft: Object.fromEntries(settings.map((s) => [s.code, draftOf(s.code).value])),
    }),
    plateCircuit,
    draftSpec: draftSpec.ok ? { ok: true, spec: withLearned(draftSpec.spec) } : draftSpec,
    inDriveSpec: driveSpec?.ok ? withLearned(driveSpec.spec) : null,
    inDriveEstimate: driveSpec?.ok ? driveSpec.spec : null,
  };
}

/** What a tune left in settings, in the unit of the model; 0 is not measured. */
function tunedOf(book: DriveBook, size: string, values: Readonly<Record<string, number>>): Tuned {
  const measured = (role: SettingRole): number | null => {
    const s = findSetting(book, size, role);
    const value = s ? roleValue(book, size, s, values[s.code] ?? 0, values) : 0;
    return value > 0 ? value : null;
  };
  return {
    statorResistance: measured('statorResistance'),
    rotorResistance: measured('rotorResistance'),
    leakageReactance: measured('leakageReactance'),
    noLoadCurrent: measured('noLoadCurrent'),
  };
}
