import { Type, type Static } from '@sinclair/typebox';
import { Author } from './machine';
import { Id, Text } from './text';

export const sources = ['factory', 'plate', 'worked out', 'chosen', 'measured', 'read from drive', 'imported'] as const;
export const Source = Type.Union(sources.map((s) => Type.Literal(s)));
export type Source = (typeof sources)[number];

export const SheetKind = Type.Union(['draft', 'in drive', 'as found', 'as left'].map((k) => Type.Literal(k)));
export type SheetKind = 'draft' | 'in drive' | 'as found' | 'as left';

/** A setting's value in the book's unit, with where it came from, who put it there and when. */
export const SheetValue = Type.Object(
  { value: Type.Number(), source: Source, author: Type.String(), at: Type.String() },
  { additionalProperties: false },
);
export type SheetValue = { value: number; source: Source; author: string; at: string };

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
export type Sheet = { kind: SheetKind; revision: number; author: string; at: string; values: Record<string, SheetValue> };

export const SheetChange = Type.Object({ code: Text(12), value: Type.Number(), source: Source }, { additionalProperties: false });
export type SheetChange = { code: string; value: number; source: Source };

/** An edit of the draft: the revision it was made on, so that the loser of a race is told. */
export const DraftEdit = Type.Object(
  { revision: Id, author: Author, changes: Type.Array(SheetChange, { minItems: 1, maxItems: 500 }) },
  { additionalProperties: false },
);
export type DraftEdit = { revision: number; author: string; changes: SheetChange[] };

const SheetOrNull = Type.Union([Sheet, Type.Null()]);
export const Sheets = Type.Object({ draft: Sheet, inDrive: SheetOrNull, asFound: SheetOrNull }, { additionalProperties: false });
export type Sheets = { draft: Sheet; inDrive: Sheet | null; asFound: Sheet | null };

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
    readBack: Type.Union([Type.Number(), Type.Null()]),
    result: Type.Union(['verified', 'refused', 'put back', 'not reached', 'unknown'].map((k) => Type.Literal(k))),
    sentence: Type.Optional(Type.String()),
  },
  { additionalProperties: false },
);
export type WriteLine = {
  code: string;
  name: string;
  unit: string;
  before: number;
  asked: number;
  stored: number;
  readBack: number | null;
  result: 'verified' | 'refused' | 'put back' | 'not reached' | 'unknown';
  sentence?: string;
};

export const WriteReport = Type.Object(
  {
    outcome: Type.Union(['kept', 'refused', 'link lost', 'not kept', 'stopped'].map((k) => Type.Literal(k))),
    sentence: Type.String(),
    lines: Type.Array(WriteLine),
    at: Type.String(),
    author: Type.String(),
    inDrive: Type.Union([Sheet, Type.Null()]),
  },
  { additionalProperties: false },
);
export type WriteReport = {
  outcome: 'kept' | 'refused' | 'link lost' | 'not kept' | 'stopped';
  sentence: string;
  lines: WriteLine[];
  at: string;
  author: string;
  inDrive: Sheet | null;
};

/** A write as it goes, or as it ended: the newest of a machine. `interrupted` is one the server did not live to finish. */
export const WriteJob = Type.Object(
  {
    id: Type.Integer(),
    state: Type.Union(['writing', 'kept', 'refused', 'link lost', 'not kept', 'stopped', 'interrupted'].map((k) => Type.Literal(k))),
    sentence: Type.String(),
    lines: Type.Array(WriteLine),
    revision: Type.Integer(),
    author: Type.String(),
    at: Type.String(),
  },
  { additionalProperties: false },
);
export type WriteJob = {
  id: number;
  state: 'writing' | 'kept' | 'refused' | 'link lost' | 'not kept' | 'stopped' | 'interrupted';
  sentence: string;
  lines: WriteLine[];
  revision: number;
  author: string;
  at: string;
};

export const AuthorOnly = Type.Object({ author: Author }, { additionalProperties: false });

export const AuditEvent = Type.Object(
  {
    id: Type.Integer(),
    at: Type.String(),
    author: Type.String(),
    action: Type.String(),
    tag: Type.Union([Type.String(), Type.Null()]),
    detail: Type.Unknown(),
    /** the paired device it came from; null for the server's own computer and its own acts */
    device: Type.Union([Type.String(), Type.Null()]),
    /** where from on the network */
    address: Type.Union([Type.String(), Type.Null()]),
  },
  { additionalProperties: false },
);
export const AuditPage = Type.Object(
  { events: Type.Array(AuditEvent), next: Type.Union([Type.Integer(), Type.Null()]) },
  { additionalProperties: false },
);
export type AuditPage = Static<typeof AuditPage>;

/** A settings sheet as a file: what `settingsToJson` of the books writes. */
export const SettingsFile = Type.Object(
  {
    format: Type.Literal('yare settings sheet'),
    edition: Type.Literal(1),
    tag: Type.String(),
    book: Type.String({ description: 'id of the drive book' }),
    size: Type.String(),
    settings: Type.Array(
      Type.Object(
        {
          code: Type.String(),
          name: Type.String(),
          value: Type.Number(),
          unit: Type.String(),
          source: Source,
          author: Type.String(),
          at: Type.String(),
        },
        { additionalProperties: false },
      ),
    ),
  },
  { additionalProperties: false },
);
