import {
  guessColumns,
  looksLikeComtrade,
  packedOf,
  readComtrade,
  recordedOf,
  type ColumnChoice,
  type Recorded,
  type TimeUnit,
} from '@yare/commissioning/recording';
import { readRecordingCsv, type RecordedColumn } from '@yare/commissioning/recordingCsv';
import { say } from '@yare/words/pages/workers';

/** What was found in a file: a table whose columns may be chosen, or a recording that says itself what it is. */
export type LookedInto =
  | { ok: false; sentence: string }
  | {
      ok: true;
      kind: 'table' | 'comtrade';
      title: string;
      rows: number;
      skipped: number;
      /** of a table, as guessed */
      choices: ColumnChoice[] | null;
      timeUnit: TimeUnit;
      /** whether the time is one of day, and no count */
      clock: boolean;
      /** a figure of a table that may be thousands or thousandths, and what was said of it */
      doubtful: string | null;
      comma: boolean | undefined;
      /** of COMTRADE */
      channels: string[];
    };

export interface Contents {
  columns: readonly RecordedColumn[] | null;
  recorded: Recorded | null;
}

const none: Contents = { columns: null, recorded: null };
const plainName = (name: string): string => name.replace(/\.[a-z0-9]+$/i, '').slice(0, 80);

/** Text of a file: as UTF-8, or as Latin-1 where it is not. */
function textOf(bytes: Uint8Array): string {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return new TextDecoder('utf-16le').decode(bytes);
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('latin1').decode(bytes);
  }
}

export function fileContents(files: ReadonlyArray<{ name: string; bytes: Uint8Array }>, comma?: boolean): Contents & { looked: LookedInto } {
  const [first] = files;
  if (!first) return { ...none, looked: { ok: false, sentence: say.noFileWasChosen } };
  if (files.some((f) => looksLikeComtrade(f.name))) {
    const read = readComtrade(files);
    if (!read.ok) return { ...none, looked: read };
    const { recorded, skipped } = read;
    const channels = recorded.channels.map((c) => (c.unit ? `${c.name}, ${c.unit}` : c.name));
    return {
      ...{ columns: null, recorded },
      looked: {
        ...{ ok: true, kind: 'comtrade', title: recorded.title.slice(0, 80) || plainName(first.name), rows: recorded.time.length, skipped },
        ...{ choices: null, timeUnit: 's', clock: false, doubtful: null, comma: undefined, channels },
      },
    };
  }
  const table = readRecordingCsv(textOf(first.bytes), comma);
  if (!table.ok) return { ...none, looked: table };
  const { choices, timeUnit } = guessColumns(table.columns);
  const clock = table.columns.some((c, i) => c.time && choices[i]?.as === 'time');
  return {
    ...{ columns: table.columns, recorded: null },
    looked: {
      ok: true,
      kind: 'table',
      title: plainName(first.name),
      rows: table.rows,
      skipped: table.skipped,
      choices,
      timeUnit,
      clock,
      doubtful: table.doubtful,
      comma,
      channels: [],
    },
  };
}

/** The recording of a file, packed to be sent. */
export function packedRecording(
  contents: Contents | null,
  of: { title: string; choices: ColumnChoice[] | null; timeUnit: TimeUnit },
): { ok: true; recording: ReturnType<typeof packedOf> } | { ok: false; sentence: string } {
  const made = contents?.columns
    ? recordedOf(contents.columns, of.choices ?? [], of.timeUnit, of.title)
    : contents?.recorded
      ? { ok: true as const, recorded: contents.recorded }
      : { ok: false as const, sentence: say.theFileIsNoLonger };
  if (!made.ok) return made;
  return { ok: true, recording: packedOf(made.recorded, of.title) };
}
