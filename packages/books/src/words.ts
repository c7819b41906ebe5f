import type { DriveBook, LiveWord, Word } from '@yare/contract';
import { fromWord, toWord, wordBase } from './book';

type Values = Readonly<Record<string, number>>;

/** Decimals worth keeping of a word whose counts are shares: those of one count, and one more. */
const decimalsOf = (step: number): number => Math.max(0, 1 - Math.floor(Math.log10(step)));

const liveNames = (book: DriveBook): LiveWord[] => Object.keys(book.words.live) as LiveWord[];

/** A register's word in the word's own unit. Words that are shares of a setting need the drive's settings. */
export function wordValue(book: DriveBook, size: string, values: Values, word: Word, raw: number): number {
  if (word.per === undefined) return fromWord(raw, word.step, word.signed ?? false);
  const count = word.signed && raw > 32767 ? raw - 65536 : raw;
  const step = word.step * wordBase(book, size, values, word.per);
  return Number((count * step).toFixed(decimalsOf(step)));
}

/** The register's word for a value, held to what a word can carry. */
export function wordCounts(book: DriveBook, size: string, values: Values, word: Word, value: number): number {
  const step = word.step * wordBase(book, size, values, word.per);
  const [low, high] = word.signed ? [-32768, 32767] : [0, 65535];
  return toWord(Math.min(high, Math.max(low, Math.round(value / step))), 1);
}

/** All live words from a block of registers that begins at `first`, decoded into their units. */
export function liveValues(book: DriveBook, size: string, values: Values, data: ArrayLike<number>, first: number): Record<LiveWord, number> {
  const { live } = book.words;
  return Object.fromEntries(liveNames(book).map((w) => [w, wordValue(book, size, values, live[w], data[live[w].register - first]!)])) as Record<
    LiveWord,
    number
  >;
}
