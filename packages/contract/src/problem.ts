import { Type, type Static } from '@sinclair/typebox';

/** RFC 9457 problem document; `detail` is the plain sentence, `field` where the figure stands, `current` the winner's side of a race. */
export const Problem = Type.Object(
  {
    type: Type.String(),
    title: Type.String(),
    status: Type.Integer(),
    detail: Type.String(),
    field: Type.Optional(Type.String()),
    current: Type.Optional(Type.Unknown()),
    /** who holds the machine, and for what */
    claim: Type.Optional(Type.Object({ who: Type.String(), purpose: Type.String() }, { additionalProperties: false })),
  },
  { additionalProperties: false },
);
export type Problem = Static<typeof Problem>;
