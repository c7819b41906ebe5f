import { Type, type Static } from '@sinclair/typebox';
import { Leaving } from './leaving';
import { literals, orNull } from './literals';
import { Author, Name } from './people';
import { Paragraph, Text } from './text';

const Outcome = literals(['passed', 'failed', 'taken back']);
const ProofText = Paragraph(400);

/** One test: what was expected, what was seen, who saw it when, and what it relied on. */
export const Proof = Type.Object(
  {
    id: Type.Integer(),
    stage: Name,
    item: Name,
    outcome: Outcome,
    expected: ProofText,
    measured: ProofText,
    /** what was seen, as figures and codes, of a test that the server saw itself; null of what a person saw */
    facts: Type.Unknown(),
    relied: Type.Record(Type.String(), Type.Union([Type.Number(), Type.String(), Type.Null()])),
    author: Type.String(),
    at: Type.String(),
  },
  { additionalProperties: false },
);
export type Proof = Static<typeof Proof>;

/** The newest proof of each test, and who left with stages unproved. */
export const Plan = Type.Object({ proofs: Type.Array(Proof), left: orNull(Leaving) }, { additionalProperties: false });
export type Plan = Static<typeof Plan>;

/** A proof as it is given; what it relied on is looked up by the server, as it stands in the drive at that moment. */
export const ProofEdit = Type.Object(
  {
    author: Author,
    stage: Name,
    item: Name,
    outcome: Outcome,
    expected: ProofText,
    measured: ProofText,
    /** codes of settings in the drive it relied on */
    settings: Type.Array(Text(12), { maxItems: 100 }),
    plate: Type.Boolean(),
    survey: Type.Boolean(),
  },
  { additionalProperties: false },
);
export type ProofEdit = Static<typeof ProofEdit>;
