import { formatFigure, longestStopSearched } from '@yare/core';

/** A shortest stop as it is said: none counts from where the search ends. */
export const searchedStop = (seconds: number): string =>
  seconds >= longestStopSearched ? `over ${longestStopSearched} s` : `${formatFigure(seconds, 1)} s`;
