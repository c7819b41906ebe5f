import type { TripCause } from '../drive';

/** Guards of a machine that runs, in the order in which they act. Each is a trip of the same name. */
export const guardKinds = ['dryRun', 'noFlow', 'highLoad', 'lowLoad', 'highPressure', 'lowPressure'] as const satisfies readonly TripCause[];
export type GuardKind = (typeof guardKinds)[number];
