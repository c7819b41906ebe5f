import { Type, type Static } from '@sinclair/typebox';
import { orNull } from './literals';
import { Author } from './people';
import { Id } from './text';

/** What a recording taught about a machine: multipliers on the estimate. `values` is null once it was put aside. */
export const LearnedRevision = Type.Object(
  {
    revision: Type.Integer(),
    values: Type.Union([
      Type.Record(
        Type.String({ pattern: '^[a-zA-Z]{3,30}$' }),
        Type.Object(
          {
            times: Type.Number({ exclusiveMinimum: 0, maximum: 20 }),
            spread: Type.Number({ minimum: 0 }),
            of: Type.Optional(Type.Number({ minimum: 0 })),
          },
          { additionalProperties: false },
        ),
        { additionalProperties: false },
      ),
      Type.Null(),
    ]),
    recordingId: orNull(Type.Integer()),
    /** the earlier run it was fitted to together with that one */
    alsoRecordingId: orNull(Type.Integer()),
    author: Type.String(),
    at: Type.String(),
  },
  { additionalProperties: false },
);
export type LearnedRevision = Static<typeof LearnedRevision>;

export const LearnedEdit = Type.Object(
  { author: Author, recordingId: orNull(Id), alsoRecordingId: Type.Optional(orNull(Id)), values: LearnedRevision.properties.values },
  { additionalProperties: false },
);
export type LearnedEdit = Static<typeof LearnedEdit>;
