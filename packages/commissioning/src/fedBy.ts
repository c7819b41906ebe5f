import type { DriveSettings } from '@yare/books';
import { rectifierOn, type Supply } from '@yare/core';

/** The supply of a machine as its drive takes it: a doubler makes twice the bus of a bridge. */
export const fedBy = <S extends { voltage: number; phases?: number }>(
  settings: Pick<DriveSettings, 'rating'>,
  supply: S,
): S & Pick<Supply, 'rectifier'> => {
  const rectifier = rectifierOn(settings.rating.input, supply.phases);
  return { ...supply, ...(rectifier && { rectifier }) };
};
