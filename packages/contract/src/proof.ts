import { Type, type Static } from '@sinclair/typebox';
import { Leaving } from './leaving';
import { literals, orNull } from './literals';
import { Author, Name } from './people';
import { ProofFacts } from './proofFacts';
import { Text } from './text';

const Outcome = literals(['passed', 'failed', 'taken back']);

/** One test: what was found, who saw it when, and what it relied on. */
export const Proof = Type.Object(
  {
    id: Type.Integer(),
    stage: Name,
    item: Name,
    outcome: Outcome,
    /** what was found, as figures and codes; null of one that was taken back, and where only a text was kept */
    facts: orNull(ProofFacts),
    /** what was written down before figures were kept */
    told: orNull(Type.String()),
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
    /** what was found; null of one that is taken back, and of what the server has seen itself */
    facts: orNull(ProofFacts),
    /** codes of settings in the drive it relied on */
    settings: Type.Array(Text(12), { maxItems: 100 }),
    plate: Type.Boolean(),
    survey: Type.Boolean(),
  },
  { additionalProperties: false },
);
export type ProofEdit = Static<typeof ProofEdit>;
