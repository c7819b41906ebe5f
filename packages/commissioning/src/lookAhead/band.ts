import type { Driven } from '@yare/core';
import figures from '../../data/accuracy.json';

export type BandQuantity = 'peak bus' | 'stop time' | 'peak current' | 'settled speed' | 'settled pressure';

/**
 * How far a look-ahead of this kind of machine was off in nineteen of twenty seeded machines, as a share, before or after learning from a
 * recording. Figures of the accuracy run (docs/accuracy.md); null where none was measured.
 */
export function lookAheadBand(kind: Driven['kind'], learned: boolean, quantity: string): number | null {
  const ofKind = (figures as Partial<Record<Driven['kind'], Record<'estimate' | 'learned', Partial<Record<string, number>>>>>)[kind];
  return (learned ? ofKind?.learned : ofKind?.estimate)?.[quantity] ?? null;
}

/** The far end of where the shortest safe stop may lie, s: what is offered is not to trip in nineteen of twenty. */
export const safeStop = (kind: Driven['kind'], learned: boolean, shortest: number): number =>
  shortest * (1 + (lookAheadBand(kind, learned, 'shortestStop') ?? 0));
