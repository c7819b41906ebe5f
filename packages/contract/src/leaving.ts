import { Type, type Static } from '@sinclair/typebox';
import { orNull } from './literals';
import { Author, Name } from './people';

/** Somebody goes away from a machine and says which stages are unproved. */
export const LeaveEdit = Type.Object({ author: Author, stages: Type.Array(Name, { minItems: 1, maxItems: 40 }) }, { additionalProperties: false });
export type LeaveEdit = Static<typeof LeaveEdit>;

/** Who left a machine with stages unproved, and when. */
export const Leaving = Type.Object(
  {
    author: Type.String(),
    at: Type.String(),
    /** by their routes */
    stages: Type.Array(Type.String()),
    /** what was written down before stages were kept */
    told: orNull(Type.String()),
  },
  { additionalProperties: false },
);
export type Leaving = Static<typeof Leaving>;
