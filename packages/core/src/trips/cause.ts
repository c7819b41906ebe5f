import type { TripCause } from '../drive';
import type { MeasurementId } from './measurements';
import type { ObservationId } from './observations';
import type { TripCase } from './tripCase';

/** What is done about a cause: settings that are changed, or something at the machine. */
export type RemedyKind =
  | 'longer stop'
  | 'chopper below the trip'
  | 'overload as stamped'
  | 'less boost'
  | 'more boost'
  | 'longer run-up'
  | 'higher limit'
  | 'longer time-out'
  | 'signal as wired'
  | 'contact as wired'
  | 'guard further out'
  | 'guard later'
  | 'resistor as fitted'
  | 'motor as stamped'
  | 'overspeed further out'
  | 'settings agree'
  | 'ride through'
  | 'catch it'
  | 'at the machine';

/** How likely each outcome of an observation or measurement is where this is the cause. What is not named shares the rest evenly. */
export type Expects = Partial<Record<ObservationId | MeasurementId, Readonly<Record<string, number>>>>;

/** One way a trip comes about. */
export interface Cause {
  id: string;
  /** trips it leads to */
  trips: readonly TripCause[];
  /** how often it is behind such a trip, against the others of the same trip (common practice, without a source) */
  often: number;
  /** where it is otherwise behind one of them */
  oftenFor?: Partial<Record<TripCause, number>>;
  /** what would be seen; everything else is taken to look as it does for the others */
  expects: Expects;
  remedy: RemedyKind;
  /** whether a machine can have it at all; every one can where absent */
  can?(c: TripCase): boolean;
}
