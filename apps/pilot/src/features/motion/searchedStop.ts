import { formatFigure, longestStopSearched } from '@yare/core';
import { say } from '@yare/words/pages/motion';

/** A shortest stop as it is said: none counts from where the search ends. */
export const searchedStop = (seconds: number): string =>
  seconds >= longestStopSearched ? say.overS({ longestStopSearched }) : `${formatFigure(seconds, 1)} s`;
