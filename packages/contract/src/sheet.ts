import { Type, type Static } from '@sinclair/typebox';
import { literals, orNull } from './literals';
import { Author } from './people';
import { sources } from './sources';
import { Id, Text } from './text';

export const Source = literals(sources);
export type Source = Static<typeof Source>;

export const SheetKind = literals(['draft', 'in drive', 'as found', 'as left']);
export type SheetKind = Static<typeof SheetKind>;

/** A setting's value in the book's unit, with where it came from, who put it there and when. */
export const SheetValue = Type.Object(
  { value: Type.Number(), source: Source, author: Type.String(), at: Type.String() },
  { additionalProperties: false },
);
export type SheetValue = Static<typeof SheetValue>;

export const Sheet = Type.Object(
  {
    kind: SheetKind,
    revision: Type.Integer(),
    author: Type.String(),
    at: Type.String(),
    values: Type.Record(Type.String(), SheetValue),
  },
  { additionalProperties: false },
);
export type Sheet = Static<typeof Sheet>;

export const SheetChange = Type.Object({ code: Text(12), value: Type.Number(), source: Source }, { additionalProperties: false });
export type SheetChange = Static<typeof SheetChange>;

/** An edit of the draft: the revision it was made on, so that the loser of a race is told. */
export const DraftEdit = Type.Object(
  { revision: Id, author: Author, changes: Type.Array(SheetChange, { minItems: 1, maxItems: 500 }) },
  { additionalProperties: false },
);
export type DraftEdit = Static<typeof DraftEdit>;

const SheetOrNull = orNull(Sheet);
export const Sheets = Type.Object({ draft: Sheet, inDrive: SheetOrNull, asFound: SheetOrNull }, { additionalProperties: false });
export type Sheets = Static<typeof Sheets>;

/** A revision of a sheet without its values; `changed` counts the settings that differ from the revision before. */
export const SheetRevision = Type.Object(
  { kind: SheetKind, revision: Type.Integer(), author: Type.String(), at: Type.String(), changed: Type.Integer(), otherDrive: Type.Boolean() },
  { additionalProperties: false },
);
export type SheetRevision = Static<typeof SheetRevision>;
export const SheetRevisionPage = Type.Object({ revisions: Type.Array(SheetRevision), next: orNull(Type.Integer()) }, { additionalProperties: false });
export type SheetRevisionPage = Static<typeof SheetRevisionPage>;
