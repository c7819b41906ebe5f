import type { Knex } from 'knex';
import type {
  Arming,
  Driven,
  LearnedRevision,
  MachineDetail,
  Proof,
  RecordingMeta,
  Sheet,
  SheetValue,
  StampedPlate,
  Survey,
  TripClosing,
  TripEntry,
  TripSnapshot,
  WatchId,
  Wiring,
  WriteJob,
  WriteLine,
} from '@yare/contract';
import type { RecordingChannel } from '@yare/core';

/** A figure of JSON on its way in: the driver would take a list for an array of the database. */
export const json = (value: unknown): string => JSON.stringify(value);

/** A row as it is read, with what its insert may leave out, and what goes in as JSON text. */
type Table<Row, Default extends keyof Row = never, Json extends Exclude<keyof Row, Default> = never> = Knex.CompositeTableType<
  Row,
  Omit<Row, Default | Json> & Partial<Pick<Row, Default>> & Record<Json, string | null>,
  Partial<Omit<Row, Json> & Record<Json, string>>
>;

/** Who did it and when. */
interface Signed {
  author: string;
  at: Date;
}

interface OfMachine {
  id: number;
  machine_id: number;
}

interface RevisionOfMachine extends OfMachine, Signed {
  revision: number;
}

export interface MachineRow {
  id: number;
  tag: string;
  name: string;
  site: string;
  area: string;
  book_id: string;
  size: string;
  region: MachineDetail['region'];
  supply: MachineDetail['supply'];
  /** as first put on record; the survey's own goes before it */
  driven: Driven;
  /** nobody knew what is driven when it was put on record */
  driven_estimated: boolean;
  unit_id: number;
  /** grows when another drive takes the place of the one before */
  drive_revision: number;
  /** how many trips its drive said there ever were, when it was last asked; null before the first time */
  trips_counted: number | null;
  /** what people want the next one to know */
  note: string;
  /** how its recorder is armed, and by whom; null when it is not */
  armed: { arming: Arming; author: string; at: string } | null;
}

export interface PlateRow extends RevisionOfMachine {
  plate: StampedPlate;
}

export interface SurveyRow extends RevisionOfMachine {
  survey: Survey;
}

export interface WiringRow extends RevisionOfMachine {
  wiring: Wiring;
}

/** The newest sheet of a kind for a drive, whole. */
export interface SheetRow extends Signed {
  machine_id: number;
  kind: Sheet['kind'];
  drive_revision: number;
  revision: number;
  values: Record<string, SheetValue>;
}

/** A revision of a sheet: whole, or what it changed of the one before; a code that is gone has null. */
export interface SheetRevisionRow extends RevisionOfMachine {
  kind: Sheet['kind'];
  drive_revision: number;
  values: Record<string, SheetValue> | null;
  changed: Record<string, SheetValue | null> | null;
  /** figures that became others */
  figures: number;
}

/** How long recordings are kept: one row, or none before anybody said. */
export interface KeepingRow extends Signed {
  only: boolean;
  whole_days: number | null;
  thinned_days: number | null;
}

export interface LearnedRow extends RevisionOfMachine {
  values: LearnedRevision['values'];
  recording_id: number | null;
  also_recording_id: number | null;
}

export interface ProofRow extends OfMachine, Signed, Omit<Proof, 'id' | 'author' | 'at'> {}

/** Who left a machine with stages unproved; none once the work went on. */
export interface LeavingRow {
  machine_id: number;
  author: string;
  at: Date;
  stages: string[];
  told: string | null;
}

/** Until when the server watches a machine. */
export interface WatchedRow {
  machine_id: number;
  until: Date;
}

/** What it saw and nobody counted yet, with what that rests on. */
export interface SeenRow {
  machine_id: number;
  watch: WatchId;
  grounds: string;
  found: unknown;
  at: Date;
}

export interface WriteJobRow extends OfMachine, Signed {
  draft_revision: number;
  state: WriteJob['state'];
  sentence: string;
  lines: WriteLine[];
}

export interface PhotoRow extends OfMachine, Signed {
  type: string;
  data: Buffer;
}

export interface MotorRow extends Signed {
  id: number;
  name: string;
  plate: StampedPlate;
}

export interface ShortListRow extends Signed {
  id: number;
  book_id: string;
  name: string;
  codes: string[];
}

export interface LockRow extends Signed {
  machine_id: number;
  salt: string;
  hash: string;
  /** wrong codes since the last right one */
  wrong: number;
  /** the next try is taken from here on */
  not_before: Date | null;
}

export interface AuditRow extends Signed {
  id: number;
  action: string;
  tag: string | null;
  detail: unknown;
  device: string | null;
  address: string | null;
}

export interface DeviceRow {
  id: number;
  name: string;
  token_hash: string;
  address: string;
  paired_at: Date;
  last_used: Date;
  put_out_at: Date | null;
  put_out_by: string | null;
}

export interface PairingCodeRow {
  id: number;
  code_hash: string;
  expires: Date;
  tries: number;
  used_at: Date | null;
}

export interface RecordingRow {
  id: number;
  machine_id: number;
  kind: RecordingMeta['kind'];
  title: string;
  author: string;
  started_at: Date;
  duration: number;
  samples: number;
  complete: boolean;
  channels: RecordingChannel[];
  /** s between samples it was thinned to; null while it is whole */
  thinned: number | null;
}

export interface MarkRow {
  id: number;
  recording_id: number;
  time: number;
  label: string;
  author: string;
}

export interface ChunkRow {
  recording_id: number;
  sequence: number;
  channel: string;
  data: Buffer;
}

export interface TripRow {
  id: number;
  machine_id: number;
  source: TripEntry['source'];
  code: number | null;
  cause: string | null;
  name: string;
  at: Date;
  seen: boolean;
  snapshot: TripSnapshot;
  afterwards: { silent: number; busVoltage: number | null; signal: number | null } | null;
  in_drive: Record<string, number> | null;
  trend_id: number | null;
  trace_id: number | null;
  /** s of the recording before the link at which it tripped; null where it ends with the trip */
  trend_tripped_at: number | null;
  answers: Record<string, string>;
  closed: TripClosing | null;
}

type Made = 'id' | 'at';

declare module 'knex/types/tables' {
  interface Tables {
    machines: Table<MachineRow, 'id' | 'driven_estimated' | 'drive_revision' | 'trips_counted' | 'note' | 'armed', 'supply' | 'driven'>;
    plate_revisions: Table<PlateRow, Made, 'plate'>;
    survey_revisions: Table<SurveyRow, Made, 'survey'>;
    wiring_revisions: Table<WiringRow, Made, 'wiring'>;
    sheets: Table<SheetRow, never, 'values'>;
    sheet_revisions: Table<SheetRevisionRow, Made | 'drive_revision' | 'figures', 'values' | 'changed'>;
    keeping: Table<KeepingRow, 'only' | 'at'>;
    learned_revisions: Table<LearnedRow, Made, 'values'>;
    proofs: Table<ProofRow, Made | 'told', 'relied' | 'facts'>;
    leavings: Table<LeavingRow, 'at', 'stages'>;
    watched: Table<WatchedRow>;
    seen: Table<SeenRow, never, 'found'>;
    write_jobs: Table<WriteJobRow, Made, 'lines'>;
    photos: Table<PhotoRow, Made>;
    motors: Table<MotorRow, Made, 'plate'>;
    short_lists: Table<ShortListRow, Made, 'codes'>;
    settings_locks: Table<LockRow, 'at' | 'wrong' | 'not_before'>;
    audit_events: Table<AuditRow, Made | 'device' | 'address', 'detail'>;
    devices: Table<DeviceRow, 'id' | 'paired_at' | 'last_used' | 'put_out_at' | 'put_out_by'>;
    pairing_codes: Table<PairingCodeRow, 'id' | 'tries' | 'used_at'>;
    recordings: Table<RecordingRow, 'id' | 'kind' | 'duration' | 'samples' | 'complete' | 'thinned', 'channels'>;
    recording_marks: Table<MarkRow, 'id'>;
    recording_chunks: Table<ChunkRow>;
    trips: Table<
      TripRow,
      'id' | 'at' | 'seen' | 'trend_id' | 'trace_id' | 'trend_tripped_at',
      'snapshot' | 'answers' | 'in_drive' | 'afterwards' | 'closed'
    >;
  }
}
