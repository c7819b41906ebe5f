import type { Diagnosis, MeasurementId } from '@yare/core/trips';
import type { DrivenKind } from '@yare/core';
import { say } from '@yare/words/trips';

/** Causes a reset may make worse, and the measurements that have to say that it is sound before one: a short that is fed again burns (common practice). */
const before: Readonly<Record<string, readonly MeasurementId[]>> = {
  'short in the cable': ['motorLeads', 'insulation'],
  'wet insulation': ['insulation'],
};
/** Trips that may come of such a cause, as long as nobody has worked out which it was. */
const suspect: readonly string[] = ['overcurrent', 'earthFault'];
/** From this share on a cause counts. */
const likely = 0.25;

/** What has to be measured before a trip is reset; empty where nothing has to be, or all was answered. @param trip its class @param diagnosis null while it is worked out */
export function measureFirst(trip: string | null, diagnosis: Diagnosis | null): MeasurementId[] {
  if (!diagnosis) return trip !== null && suspect.includes(trip) ? ['motorLeads'] : [];
  const wanted = diagnosis.ranked.filter((r) => r.probability >= likely).flatMap((r) => before[r.id] ?? []);
  return [...new Set(wanted)].filter((id) => diagnosis.seen[id] === undefined);
}

/** What is said beside it: nothing is safe to touch yet. */
export const measureFirstText = (kind: DrivenKind): string => say.doNotResetBeforeThe({ kind });
