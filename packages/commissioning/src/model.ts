import type { DriveSettings, Setting } from '@yare/books';
import type { MachineDetail, Sheet, SheetValue, Source } from '@yare/contract';
import type { Circuit, Learned, MachineSpec, StampedPlate } from '@yare/core';
import type { Finding } from './checked';

/** A value of the draft with where it comes from. */
export interface DraftValue {
  value: number;
  source: Source;
}

/** A finding with the stage whose check made it. */
export interface StageFinding extends Finding {
  stage: string;
}

/** One machine as it is worked on: the record with what was typed and not yet stored on top. */
export interface MachineModel {
  machine: MachineDetail;
  plate: StampedPlate;
  /** the draft's settings, edits of this device included */
  drafted: DriveSettings;
  /** what the drive holds; null before it was read */
  held: DriveSettings | null;
  draft: Sheet;
  inDrive: Sheet | null;
  /** what the first reading of this drive found */
  asFound: Sheet | null;
  /** value and source of the draft, edits of this device included */
  draftOf: (code: string) => DraftValue;
  inDriveOf: (code: string) => SheetValue | undefined;
  /** what does not fit between plate, supply, drive and draft */
  findings: StageFinding[];
  /** which of draft and drive was changed last */
  newer: 'draft' | 'drive' | null;
  /** settings whose stored draft value is not what the drive holds */
  differing: Setting[];
  draftSpec: { ok: true; spec: MachineSpec } | { ok: false; sentence: string; about?: 'driven' };
  inDriveSpec: MachineSpec | null;
  /** what recordings taught of it; null before one did */
  learned: Learned | null;
  /** the motor as estimated from its plate alone, nothing measured or learned; null when the plate does not fit */
  plateCircuit: Circuit | null;
  /** what is in the drive with the estimate alone, nothing learned: what a recording is compared with */
  inDriveEstimate: MachineSpec | null;
}
