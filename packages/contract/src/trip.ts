import { Type, type Static } from '@sinclair/typebox';
import { LiveSample } from './live';

/** A trip that is in force, as far as the link and the log tell it. */
export const TripNow = Type.Object(
  {
    code: Type.Integer(),
    name: Type.String(),
    /** the drive book's sentence */
    sentence: Type.String(),
    /** when the server first saw it; null when it was there before the server looked */
    seenAt: Type.Union([Type.String(), Type.Null()]),
    /** what the link says at this moment */
    live: LiveSample,
  },
  { additionalProperties: false },
);
export type TripNow = Static<typeof TripNow>;
