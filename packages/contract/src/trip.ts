import { Type, type Static } from '@sinclair/typebox';
import { literals, orNull } from './literals';
import { LiveSample } from './live';
import { Author } from './people';
import { ByName, Id, Paragraph, Text } from './text';

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
    /** its case; null while what the drive remembers of it is still being read */
    caseId: orNull(Type.Integer()),
  },
  { additionalProperties: false },
);
export type TripNow = Static<typeof TripNow>;

const figure = orNull(Type.Number());
/** Figures of the moment of a trip; null for what nobody knows. Hz, A, V, % of rated torque, °C, % of a trip point, s, h. */
export const TripSnapshot = Type.Object(
  {
    ...{ status: figure, hours: figure, since: figure, outputFrequency: figure, reference: figure, motorCurrent: figure, busVoltage: figure },
    ...{
      outputVoltage: figure,
      torque: figure,
      driveTemperature: figure,
      motorHeat: figure,
      driveHeat: figure,
      analogueInput: figure,
      inputs: figure,
    },
  },
  { additionalProperties: false },
);
export type TripSnapshot = Static<typeof TripSnapshot>;

/** How a case was closed: what it was, what was done, and how it was seen to be cured. */
export const TripClosing = Type.Object(
  { cause: Type.String(), cure: Type.String(), proof: Type.String(), author: Type.String(), at: Type.String() },
  { additionalProperties: false },
);
export type TripClosing = Static<typeof TripClosing>;

/** One trip in the history of the plant. */
export const TripEntry = Type.Object(
  {
    id: Type.Integer(),
    tag: Type.String(),
    /** where it is known from: the drive over its link, its display read by a person, words alone, or a recording of it */
    source: literals(['link', 'display', 'words', 'recording']),
    code: orNull(Type.Integer()),
    /** class; null when nobody has read the display */
    cause: orNull(Type.String()),
    name: Type.String(),
    at: Type.String(),
    /** false where it came about while nobody listened, and `at` is when it was found out */
    seen: Type.Boolean(),
    closed: orNull(TripClosing),
  },
  { additionalProperties: false },
);
export type TripEntry = Static<typeof TripEntry>;

export const TripList = Type.Object({ trips: Type.Array(TripEntry) }, { additionalProperties: false });
export type TripList = Static<typeof TripList>;

const Lately = Type.Object(
  { at: Type.String(), author: Type.String(), action: Type.String(), detail: Type.Unknown() },
  { additionalProperties: false },
);

/** A trip with everything at hand to explain it. */
export const TripDetail = Type.Object(
  {
    entry: TripEntry,
    snapshot: TripSnapshot,
    /** how it went on over the link; null where nobody listened */
    afterwards: orNull(Type.Object({ silent: Type.Number(), busVoltage: figure, signal: figure }, { additionalProperties: false })),
    /** settings as they were in the drive, by code */
    inDrive: orNull(Type.Record(Type.String(), Type.Number())),
    /** recordings of what the link told before, and of the drive's own last moments */
    trendId: orNull(Type.Integer()),
    traceId: orNull(Type.Integer()),
    /** s of that recording before the link at which it tripped; null where it ends with the trip */
    trendTrippedAt: orNull(Type.Number()),
    /** what people saw or measured, by what was asked */
    answers: Type.Record(Type.String(), Type.String()),
    /** what was done at the machine in the days before, newest first */
    lately: Type.Array(Lately),
    /** machines that tripped in the same minute */
    others: Type.Array(Type.String()),
    /** trips of the same class in the month before */
    repeats: Type.Integer(),
    /** what people want the next one to know of the machine */
    note: Type.String(),
  },
  { additionalProperties: false },
);
export type TripDetail = Static<typeof TripDetail>;

/** A trip told by a person: by the code on the display, or by words. */
export const TripNew = Type.Object(
  {
    author: Author,
    code: orNull(Type.Integer({ minimum: 0, maximum: 65535 })),
    snapshot: Type.Partial(TripSnapshot),
    answers: ByName(Text(40, { minLength: 1 })),
    /** a recording of the machine it is seen in, and the second of it at which it tripped */
    seenIn: Type.Optional(Type.Object({ recordingId: Id, at: Type.Number({ minimum: 0 }) }, { additionalProperties: false })),
  },
  { additionalProperties: false },
);
export type TripNew = Static<typeof TripNew>;

/** Answers given or, with null, taken back. */
export const TripAnswers = Type.Object({ author: Author, answers: ByName(orNull(Text(40, { minLength: 1 }))) }, { additionalProperties: false });
export type TripAnswers = Static<typeof TripAnswers>;

export const TripClose = Type.Object(
  { author: Author, cause: Text(80, { minLength: 1 }), cure: Text(400, { minLength: 1 }), proof: Text(400, { minLength: 1 }) },
  { additionalProperties: false },
);
export type TripClose = Static<typeof TripClose>;

/** What the next one should know of a machine. */
export const MachineNote = Type.Object({ author: Author, note: Paragraph(2000) }, { additionalProperties: false });
export type MachineNote = Static<typeof MachineNote>;
