import { Type, type Static } from '@sinclair/typebox';
import { literals, orNull } from './literals';
import { Author } from './people';
import { Sheet } from './sheet';
import { Id, Text } from './text';

export const WriteRequest = Type.Object(
  { revision: Id, author: Author, codes: Type.Array(Text(12), { minItems: 1, maxItems: 500 }) },
  { additionalProperties: false },
);
export type WriteRequest = Static<typeof WriteRequest>;

/** One setting of a write: what was asked, what the drive would hold of it, what was read back. */
export const WriteLine = Type.Object(
  {
    code: Type.String(),
    name: Type.String(),
    unit: Type.String(),
    before: Type.Number(),
    asked: Type.Number(),
    stored: Type.Number(),
    readBack: orNull(Type.Number()),
    result: literals(['verified', 'refused', 'put back', 'not reached', 'unknown']),
    sentence: Type.Optional(Type.String()),
  },
  { additionalProperties: false },
);
export type WriteLine = Static<typeof WriteLine>;

export const WriteReport = Type.Object(
  {
    outcome: literals(['kept', 'refused', 'link lost', 'not kept', 'stopped']),
    sentence: Type.String(),
    lines: Type.Array(WriteLine),
    at: Type.String(),
    author: Type.String(),
    inDrive: orNull(Sheet),
  },
  { additionalProperties: false },
);
export type WriteReport = Static<typeof WriteReport>;

/** A write as it goes, or as it ended: the newest of a machine. `interrupted` is one the server did not live to finish. */
export const WriteJob = Type.Object(
  {
    id: Type.Integer(),
    state: literals(['writing', 'kept', 'refused', 'link lost', 'not kept', 'stopped', 'interrupted']),
    sentence: Type.String(),
    lines: Type.Array(WriteLine),
    revision: Type.Integer(),
    author: Type.String(),
    at: Type.String(),
  },
  { additionalProperties: false },
);
export type WriteJob = Static<typeof WriteJob>;
