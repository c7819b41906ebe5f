import type { MemoryWord, TraceWord, TripWords, Word } from '@yare/contract';
import type { DriveSettings } from './driveSettings';

/** What a drive remembers of one trip, in units of people; null for what its family does not keep. */
export type RememberedTrip = Record<MemoryWord, number | null>;

/** The moments before a trip: s, 0 at the trip, and the channels a family keeps. */
export interface RememberedTrace {
  time: number[];
  channels: Partial<Record<TraceWord, number[]>>;
}

const memoryOf = (settings: DriveSettings): TripWords => settings.book.words.memory;
const wordsOf = ({ words }: TripWords): Array<[MemoryWord, Word]> => Object.entries(words) as Array<[MemoryWord, Word]>;

/** The records in a block of registers that begins at the memory's first, newest first; empty ones are left out. */
export function readMemory(settings: DriveSettings, data: ArrayLike<number>): RememberedTrip[] {
  const memory = memoryOf(settings);
  const { stride, count, words } = memory;
  const records = Array.from({ length: count }, (_, n): RememberedTrip => {
    const of = (name: MemoryWord): number | null => {
      const word = words[name];
      return word ? settings.wordValue(word, data[n * stride + word.register] ?? 0) : null;
    };
    return {
      ...{ trip: of('trip'), status: of('status'), hours: of('hours'), since: of('since') },
      ...{ outputFrequency: of('outputFrequency'), reference: of('reference'), motorCurrent: of('motorCurrent'), busVoltage: of('busVoltage') },
      ...{ outputVoltage: of('outputVoltage'), torque: of('torque'), driveTemperature: of('driveTemperature'), motorHeat: of('motorHeat') },
      ...{ driveHeat: of('driveHeat'), analogueInput: of('analogueInput'), inputs: of('inputs') },
    };
  });
  return records.filter((r) => r.trip !== 0);
}

/** What stands in a register of the trip memory; null for a register that is none of it. @param records newest first @param trips how many there ever were */
export function memoryWord(settings: DriveSettings, records: readonly RememberedTrip[], trips: number, register: number): number | null {
  const memory = memoryOf(settings);
  if (register === memory.trips.register) return trips & 0xffff;
  const at = register - memory.first;
  if (at < 0 || at >= memory.stride * memory.count) return null;
  const record = records[Math.floor(at / memory.stride)];
  const named = wordsOf(memory).find(([, w]) => w.register === at % memory.stride);
  return record && named ? settings.wordCounts(named[1], record[named[0]] ?? 0) & 0xffff : 0;
}

/** Samples of a trace from its registers. @param data as many registers as there are samples times channels */
export function readTrace(settings: DriveSettings, data: ArrayLike<number>): RememberedTrace | null {
  const { trace } = memoryOf(settings);
  if (!trace) return null;
  const width = trace.channels.length;
  const length = Math.floor(data.length / width);
  const all = trace.channels.map(({ key, word }, c) => {
    const values = Array.from({ length }, (_, i) => settings.wordValue(word, data[i * width + c] ?? 0));
    return [key, values] as const;
  });
  return {
    time: Array.from({ length }, (_, i) => Number(((i - length + 1) * trace.step).toFixed(4))),
    channels: Object.fromEntries(all),
  };
}

/** What stands in a register of the trace; null for a register that is none of it. @param at value of a channel at a sample */
export function traceWord(
  settings: DriveSettings,
  length: number,
  at: (channel: TraceWord, sample: number) => number,
  register: number,
): number | null {
  const { trace } = memoryOf(settings);
  if (!trace) return null;
  if (register === trace.length.register) return length;
  const width = trace.channels.length;
  const offset = register - trace.first;
  const sample = Math.floor(offset / width);
  const channel = trace.channels[offset % width];
  if (offset < 0 || sample >= length || !channel) return null;
  return settings.wordCounts(channel.word, at(channel.key, sample)) & 0xffff;
}
