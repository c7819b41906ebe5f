import type { DriveBook } from '@yare/contract';
import type { DriveRating } from '@yare/core';

const books: Record<string, DriveBook> = {};

/** Puts a drive book on the shelf, where {@link bookById} finds it. */
export function shelve(book: DriveBook): void {
  books[book.id] = book;
}

/** A drive book by its id. @throws RangeError when it is not on the shelf: see `@yare/books/all`. */
export function bookById(id: string): DriveBook {
  const book = books[id];
  if (!book) throw new RangeError(`There is no drive book "${id}".`);
  return book;
}

export const allBooks = (): DriveBook[] => Object.values(books);

export type BookRating = DriveBook['ratings'][number];

/** A size of a family. @throws RangeError when the book does not list it. */
export function ratingOf(book: DriveBook, size: string): BookRating {
  const rating = book.ratings.find((r) => r.size === size);
  if (!rating) throw new RangeError(`${book.family} has no size ${size}.`);
  return rating;
}

/** Trip levels and supply range of a size, V. */
export const levelsOf = (book: DriveBook, size: string): DriveBook['levels'] => ratingOf(book, size).levels ?? book.levels;

/** V of a phase that dead time and devices take and nobody makes up for (common practice: one to two). */
const usualDrop = 1.3;
/** Inverter loss of about 1.8 % of output at rated current (common practice for this size of drive). */
const inverterLossShare = 0.018;

/** The hardware of a size in SI, for the model. */
export function driveRating(book: DriveBook, size: string): DriveRating {
  const r = ratingOf(book, size);
  const levels = levelsOf(book, size);
  return {
    ...book.duty,
    current: r.current,
    overcurrentTrip: r.overcurrentTrip,
    overvoltageTrip: levels.overvoltageTrip,
    undervoltageTrip: levels.undervoltageTrip,
    busCapacitance: r.busCapacitance * 1e-6,
    idleLoss: r.idleLoss,
    inverterDrop: usualDrop,
    lossPerAmpere: (inverterLossShare * r.power * 1000) / r.current,
    leastResistance: r.leastResistance,
  };
}
