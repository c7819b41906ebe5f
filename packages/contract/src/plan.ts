import { Type, type Static } from '@sinclair/typebox';
import { Author, Driven, Region, StampedPlate, Tag } from './machine';
import { Sheet, SheetKind } from './sheet';
import { Count, Paragraph, Text } from './text';

const orNull = <T extends Parameters<typeof Type.Union>[0][number]>(schema: T) => Type.Union([schema, Type.Null()]);
const figure = (minimum: number, maximum: number) => Type.Number({ minimum, maximum });

/** What is found at the machine before anything is connected. What nobody has looked at yet is null. */
export const Survey = Type.Object(
  {
    why: Paragraph(400, { description: 'why the drive is commissioned, in words' }),
    voltage: figure(50, 1000),
    frequency: figure(40, 70),
    phases: Type.Union([Type.Literal(3), Type.Literal(1)]),
    ambient: orNull(Type.Number({ minimum: -30, maximum: 80, description: '°C around the drive' })),
    altitude: orNull(Type.Number({ minimum: -500, maximum: 6000, description: 'm above the sea' })),
    cableLength: orNull(Type.Number({ minimum: 0, maximum: 2000, description: 'm from drive to motor' })),
    screened: orNull(Type.Boolean()),
    // a reading that is still missing is null: 0 is a blown fuse, or a winding that lies on earth
    lineVoltages: orNull(Type.Array(orNull(figure(0, 1500)), { minItems: 3, maxItems: 3, description: 'V, L1–L2, L2–L3, L3–L1' })),
    insulation: orNull(
      Type.Object(
        {
          reading: orNull(Type.Number({ minimum: 0, maximum: 1e6, description: 'MΩ' })),
          temperature: Type.Number({ minimum: -30, maximum: 180, description: '°C of the winding' }),
        },
        { additionalProperties: false },
      ),
    ),
    /** what the machine drives, once somebody took it down; before that it stands as it was first put on record */
    driven: Type.Optional(orNull(Driven)),
  },
  { additionalProperties: false },
);
export type Survey = Omit<Static<typeof Survey>, 'lineVoltages'> & { lineVoltages: Array<number | null> | null };

export const SurveyRevision = Type.Object(
  { revision: Type.Integer(), survey: Survey, author: Type.String(), at: Type.String() },
  { additionalProperties: false },
);
export type SurveyRevision = { revision: number; survey: Survey; author: string; at: string };

/** `revision` is 0 before the first. */
export const SurveyEdit = Type.Object({ revision: Count, author: Author, survey: Survey }, { additionalProperties: false });
export type SurveyEdit = Static<typeof SurveyEdit>;

const Outcome = Type.Union(['passed', 'failed', 'taken back'].map((o) => Type.Literal(o)));
type OutcomeWord = 'passed' | 'failed' | 'taken back';
const Name = Text(60, { minLength: 1 });
const Words = Paragraph(400);

/** One test: what was expected, what was seen, who saw it when, and what it relied on. */
export const Proof = Type.Object(
  {
    id: Type.Integer(),
    stage: Name,
    item: Name,
    outcome: Outcome,
    expected: Words,
    measured: Words,
    relied: Type.Record(Type.String(), Type.Union([Type.Number(), Type.String(), Type.Null()])),
    author: Type.String(),
    at: Type.String(),
  },
  { additionalProperties: false },
);
export type Proof = Omit<Static<typeof Proof>, 'outcome'> & { outcome: OutcomeWord };

/** The newest proof of each test. */
export const Plan = Type.Object({ proofs: Type.Array(Proof) }, { additionalProperties: false });
export type Plan = { proofs: Proof[] };

/** A proof as it is given; what it relied on is looked up by the server, as it stands in the drive at that moment. */
export const ProofEdit = Type.Object(
  {
    author: Author,
    stage: Name,
    item: Name,
    outcome: Outcome,
    expected: Words,
    measured: Words,
    /** codes of settings in the drive it relied on */
    settings: Type.Array(Text(12), { maxItems: 100 }),
    plate: Type.Boolean(),
    survey: Type.Boolean(),
  },
  { additionalProperties: false },
);
export type ProofEdit = Omit<Static<typeof ProofEdit>, 'outcome'> & { outcome: OutcomeWord };

/** Which drive stands there. Another family or size begins a new draft from factory, with the plate and what can be carried over. */
export const DriveEdit = Type.Object(
  {
    author: Author,
    bookId: Text(40),
    size: Text(20),
    region: Region,
  },
  { additionalProperties: false },
);
export type DriveEdit = Static<typeof DriveEdit>;

/** A motor kept for the next machine. */
export const SavedMotor = Type.Object(
  { id: Type.Integer(), name: Name, plate: StampedPlate, author: Type.String(), at: Type.String() },
  { additionalProperties: false },
);
export type SavedMotor = Static<typeof SavedMotor>;
export const MotorEdit = Type.Object({ author: Author, name: Name, plate: StampedPlate }, { additionalProperties: false });
export type MotorEdit = Static<typeof MotorEdit>;

export const PhotoMeta = Type.Object(
  { id: Type.Integer(), type: Type.String(), bytes: Type.Integer(), author: Type.String(), at: Type.String() },
  { additionalProperties: false },
);
export type PhotoMeta = Static<typeof PhotoMeta>;

/** Settings somebody wants to see together, of one drive family. */
export const ShortList = Type.Object(
  { id: Type.Integer(), name: Name, codes: Type.Array(Type.String({ maxLength: 12 }), { maxItems: 200 }), author: Type.String(), at: Type.String() },
  { additionalProperties: false },
);
export type ShortList = Static<typeof ShortList>;
export const ShortListEdit = Type.Object(
  { author: Author, name: Name, codes: Type.Array(Text(12), { minItems: 1, maxItems: 200 }) },
  { additionalProperties: false },
);
export type ShortListEdit = Static<typeof ShortListEdit>;

export const LockEdit = Type.Object({ author: Author, code: Text(40, { minLength: 4 }) }, { additionalProperties: false });
export type LockEdit = Static<typeof LockEdit>;
export const LockView = Type.Union([Type.Object({ author: Type.String(), at: Type.String() }, { additionalProperties: false }), Type.Null()]);
export type LockView = Static<typeof LockView>;

/** A revision of a sheet without its values; `changed` counts the settings that differ from the revision before. */
export const SheetRevision = Type.Object(
  { kind: SheetKind, revision: Type.Integer(), author: Type.String(), at: Type.String(), changed: Type.Integer(), otherDrive: Type.Boolean() },
  { additionalProperties: false },
);
export type SheetRevision = { kind: Sheet['kind']; revision: number; author: string; at: string; changed: number; otherDrive: boolean };
export const SheetRevisionPage = Type.Object(
  { revisions: Type.Array(SheetRevision), next: Type.Union([Type.Integer(), Type.Null()]) },
  { additionalProperties: false },
);
export type SheetRevisionPage = { revisions: SheetRevision[]; next: number | null };

export const TagParams = Type.Object({ tag: Tag });
export type DrivenKind = Static<typeof Driven>['kind'];
