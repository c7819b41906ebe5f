import type { DriveBook } from '@yare/contract';
import { deratedCurrent, deratings, type DeratingRow } from '@yare/core';
import { ratingOf, type BookRating } from './book';

/** Where a drive stands and how it switches. Figures nobody has given are null and derate nothing, which is said. */
export interface Place {
  /** °C */
  ambient: number | null;
  /** m */
  altitude: number | null;
  phases: 1 | 3;
}

export interface DriveFit {
  rating: BookRating;
  /** each derating on its own, with what is left after it */
  rows: Array<DeratingRow & { given: string; left: number }>;
  /** A continuous under all of them */
  left: number;
  /** share of the need that is left over; below zero it is too small */
  margin: number;
}

/**
 * Whether a size carries a motor where it stands.
 * @param need A of full-load current
 * @param carrier kHz
 */
export function driveFit(book: DriveBook, size: string, place: Place, carrier: number, need: number): DriveFit {
  const rating = ratingOf(book, size);
  const single = place.phases === 1 && rating.input === undefined;
  const shares = deratings({ ambient: place.ambient ?? 40, altitude: place.altitude ?? 0, carrier, singlePhase: single });
  const given: Record<DeratingRow['name'], string> = {
    ambient: place.ambient === null ? 'ambient not given, taken as 40 °C' : `${place.ambient} °C; full current up to 40 °C, then 2.5 % less per K`,
    altitude:
      place.altitude === null
        ? 'altitude not given, taken as below 1000 m'
        : `${place.altitude} m; full current up to 1000 m, then 1 % less per 100 m`,
    'carrier frequency': `${carrier} kHz; full current up to 4 kHz, then 4 % less per kHz`,
    'single-phase supply': single
      ? 'one phase feeds a three-phase drive: half is left'
      : place.phases === 1
        ? 'this size is made for one phase'
        : 'three phases',
  };
  const rows = shares.map((r, i) => ({ ...r, given: given[r.name], left: deratedCurrent(rating.current, shares.slice(0, i + 1)) }));
  const left = deratedCurrent(rating.current, shares);
  return { rating, rows, left, margin: left / need - 1 };
}

/** The smallest size of a family that carries the need there; null when none does. */
export function smallestFit(book: DriveBook, place: Place, carrier: number, need: number, supply: number): DriveFit | null {
  const fits = book.ratings
    .filter((r) => supply >= (r.levels ?? book.levels).supplyMin && supply <= (r.levels ?? book.levels).supplyMax)
    .map((r) => driveFit(book, r.size, place, carrier, need))
    .filter((f) => f.margin >= 0);
  return fits.sort((a, b) => a.rating.current - b.rating.current)[0] ?? null;
}
