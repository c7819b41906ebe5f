import { drawnOf, extentOf, type Pyramid } from '@yare/commissioning/recording';
import type { Series } from '../../ui/chart/pane';

/** Samples up to which a line is drawn from every one of them. */
const few = 4000;

/** A channel as a line of a chart, drawn by its blocks where it is long. */
export const lineOf = (p: Pyramid): Series => ({
  ...{ time: p.time, values: p.values },
  ...(p.time.length > few && { quick: { drawn: (from, to, pixels) => drawnOf(p, from, to, pixels), extent: (from, to) => extentOf(p, from, to) } }),
});
