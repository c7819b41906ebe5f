import { Type, type Static } from '@sinclair/typebox';
import { literals, orNull } from './literals';

/** What the server watches a machine for. What each finds, and how far it is in a word, is told by the observers both sides know. */
export const watchIds = ['guards', 'sleep', 'presets', 'selector', 'emergency', 'holds', 'station'] as const;
export const WatchId = literals(watchIds);
export type WatchId = Static<typeof WatchId>;

/** What was seen at a machine and is not counted yet, for everybody alike. */
export const MachineSeen = Type.Object(
  {
    /** ms on the server's clock that runs evenly: the later one holds */
    at: Type.Number(),
    /** until when the server watches with nobody at the page; null while it does not */
    until: orNull(Type.String()),
    seen: Type.Array(
      Type.Object(
        { watch: WatchId, found: Type.Unknown(), /** how far what is under way has come */ stage: orNull(Type.String()) },
        { additionalProperties: false },
      ),
    ),
  },
  { additionalProperties: false },
);
export type MachineSeen = Static<typeof MachineSeen>;
