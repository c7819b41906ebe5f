import type { Driven } from '@yare/core';
import figures from '../../data/accuracy.json';

export type BandQuantity = 'peak bus' | 'stop time' | 'peak current' | 'settled speed' | 'settled pressure';
type Side = Partial<Record<BandQuantity, number>>;

/**
 * How far a look-ahead of this kind of machine was off in nineteen of twenty seeded machines, as a share, before or after learning from a
 * recording. Figures of the accuracy run (docs/accuracy.md); null where none was measured.
 */
export function lookAheadBand(kind: Driven['kind'], learned: boolean, quantity: BandQuantity): number | null {
  const ofKind = (figures as Partial<Record<Driven['kind'], { estimate: Side; learned: Side }>>)[kind];
  return (learned ? ofKind?.learned : ofKind?.estimate)?.[quantity] ?? null;
}
