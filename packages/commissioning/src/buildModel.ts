import { bookById, DriveSettings } from '@yare/books';
import type { MachineDetail, Sheets } from '@yare/contract';
import { applyLearned, applyTuned, estimateMachine, type Circuit, type Learned, type MachineSpec, type StampedPlate, type Tuned } from '@yare/core';
import type { Checked } from './checked';
import type { DraftValue, MachineModel } from './model';
import { fedBy } from './fedBy';
import { differing, figuresOf, newerOf } from './sheets';
import { stageFindings } from './stages';

/** What a tune left in settings, in the unit of the model; 0 is not measured. */
export function tunedOf(settings: DriveSettings): Tuned {
  const measured = (role: keyof Tuned): number | null => settings.role(role) || null;
  return {
    statorResistance: measured('statorResistance'),
    rotorResistance: measured('rotorResistance'),
    leakageReactance: measured('leakageReactance'),
    noLoadCurrent: measured('noLoadCurrent'),
  };
}

/** A machine as plate, driven machine and settings make it, with what was measured in the drive. */
export function specOf(
  machine: Pick<MachineDetail, 'supply' | 'driven'>,
  plate: StampedPlate,
  settings: DriveSettings,
): { ok: true; spec: MachineSpec; circuit: Circuit } | { ok: false; sentence: string; about?: 'driven' } {
  const supply = fedBy(settings, machine.supply);
  const estimate = estimateMachine(plate, machine.driven, settings.parameters(), settings.hardware(), supply);
  return estimate.ok ? { ok: true, spec: applyTuned(estimate.spec, tunedOf(settings)), circuit: estimate.circuit } : estimate;
}

/** A machine's figures as its stages check them. */
export const checkedOf = ({ machine, plate, drafted, draftOf }: Pick<MachineModel, 'machine' | 'plate' | 'drafted' | 'draftOf'>): Checked => ({
  ...{ settings: drafted, plate, supply: machine.supply, driven: machine.driven },
  measured: (code) => draftOf(code).source === 'measured',
});

/** The record and the edits put together. Pure. */
export function buildModel(
  machine: MachineDetail,
  { draft, inDrive, asFound }: Sheets,
  changes: Readonly<Record<string, DraftValue>>,
  plateChanges: Partial<StampedPlate>,
): MachineModel {
  const book = bookById(machine.bookId);
  const plate = { ...machine.plate.plate, ...plateChanges };
  const drafted = new DriveSettings(book, machine.size, { ...figuresOf(draft.values), ...figuresOf(changes) }, machine.region);
  const held = inDrive && drafted.with(figuresOf(inDrive.values));
  const draftOf = (code: string): DraftValue => {
    const known = changes[code] ?? draft.values[code];
    if (known) return { value: known.value, source: known.source };
    const s = drafted.at(code);
    return { value: s ? drafted.value(s) : 0, source: 'factory' };
  };
  const learned = (machine.learned?.values ?? null) as Learned | null;
  const withLearned = (spec: MachineSpec): MachineSpec => (learned ? applyLearned(spec, learned) : spec);
  const draftSpec = specOf(machine, plate, drafted);
  const driveSpec = held && specOf(machine, plate, held);
  const apart = held ? differing(drafted, held) : [];
  const touched = Object.keys(changes).length > 0;
  return {
    machine,
    plate,
    drafted,
    held,
    draft,
    inDrive,
    asFound,
    draftOf,
    inDriveOf: (code) => inDrive?.values[code],
    differing: apart,
    newer: inDrive && apart.length > 0 ? (touched ? 'draft' : newerOf(draft, inDrive, asFound)) : null,
    findings: stageFindings(checkedOf({ machine, plate, drafted, draftOf })),
    learned,
    plateCircuit: draftSpec.ok ? draftSpec.circuit : null,
    draftSpec: draftSpec.ok ? { ok: true, spec: withLearned(draftSpec.spec) } : draftSpec,
    inDriveSpec: driveSpec?.ok ? withLearned(driveSpec.spec) : null,
    inDriveEstimate: driveSpec?.ok ? driveSpec.spec : null,
  };
}
