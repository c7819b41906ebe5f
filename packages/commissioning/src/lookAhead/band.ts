import { tellsLittle, toldSpread, totalInertia, type Driven } from '@yare/core';
import type { MachineModel } from '../model';
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

/**
 * ± in % to which the fitted model knows the inertia, where that is so much that another run is worth making: the bands after learning are then of
 * better runs than the one it stands on. Null where it knows it well, or nothing was fitted.
 */
export function unsureInertia({ machine, draftSpec }: Pick<MachineModel, 'machine' | 'draftSpec'>): number | null {
  const fitted = machine.learned?.values?.inertia;
  if (!fitted || !draftSpec.ok) return null;
  const told = { value: totalInertia(draftSpec.spec), spread: draftSpec.spec.inertia * fitted.spread };
  return tellsLittle(told) ? (100 * toldSpread(told.spread)) / told.value : null;
}

const kinds = Object.keys(figures) as Array<Driven['kind']>;

/** s: nobody sets a shorter stop on a pump, fan, conveyor or agitator, and none is offered (common practice). */
export const leastStop = 1;

/**
 * The shortest stop that is offered as safe, s: what was foreseen, lengthened by more than any seeded machine of the kind fell short. A kind that was
 * never judged is given the most of all.
 */
export function safeStop(kind: Driven['kind'], learned: boolean, shortest: number): number {
  const own = lookAheadBand(kind, learned, 'safeStop') ?? Math.max(0, ...kinds.map((k) => lookAheadBand(k, learned, 'safeStop') ?? 0));
  return Math.max(leastStop, shortest * (1 + own));
}
