import { Type, type Static } from '@sinclair/typebox';
import { literals, orNull } from './literals';
import { ProofFacts, type FactsOf, type ProofKind } from './proofFacts';

/** What the server watches a machine for. What each finds, and how far it is in a word, is told by the observers both sides know. */
export const watchIds = ['guards', 'sleep', 'presets', 'selector', 'emergency', 'holds', 'station'] as const;
export const WatchId = literals(watchIds);
export type WatchId = Static<typeof WatchId>;

/** What each of them sees, by the kind of facts. */
export interface SeenKinds extends Record<WatchId, ProofKind> {
  guards: 'guard';
  sleep: 'sleep';
  presets: 'preset';
  selector: 'selector';
  emergency: 'emergency';
  holds: 'holds';
  station: 'staging' | 'replaced';
}

/** What was seen, by the test it proves. */
export type SeenFacts<K extends ProofKind = ProofKind> = Readonly<Partial<Record<string, FactsOf<K>>>>;

/** What was seen at a machine and is not counted yet, for everybody alike. */
export const MachineSeen = Type.Object(
  {
    /** ms on the server's clock that runs evenly: the later one holds */
    at: Type.Number(),
    /** until when the server watches with nobody at the page; null while it does not */
    until: orNull(Type.String()),
    seen: Type.Array(
      Type.Object(
        {
          watch: WatchId,
          /** by the test it proves */ found: Type.Unsafe<SeenFacts>(Type.Record(Type.String(), ProofFacts)),
          /** how far what is under way has come */ stage: orNull(Type.String()),
        },
        { additionalProperties: false },
      ),
    ),
  },
  { additionalProperties: false },
);
export type MachineSeen = Static<typeof MachineSeen>;
