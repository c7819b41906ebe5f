import { Type, type Static } from '@sinclair/typebox';
import { literals, orNull } from './literals';
import { Author } from './people';
import { Text } from './text';

export const RecordingChannel = Type.Object(
  {
    key: Type.String({ pattern: '^[A-Za-z0-9-]{1,60}$' }),
    name: Text(80, { minLength: 1 }),
    unit: Text(16),
    decimals: Type.Integer({ minimum: 0, maximum: 6 }),
  },
  { additionalProperties: false },
);
export const RecordingMark = Type.Object(
  { time: Type.Number({ minimum: 0, description: 's from the start' }), label: Text(80, { minLength: 1 }) },
  { additionalProperties: false },
);

export const RecordingMeta = Type.Object(
  {
    id: Type.Integer(),
    tag: Type.String(),
    /** of a run, of an armed recorder, of another instrument, or of what the link or the drive told of a trip */
    kind: literals(['run', 'recorder', 'file', 'trip']),
    title: Type.String(),
    author: Type.String(),
    startedAt: Type.String(),
    duration: Type.Number({ description: 's' }),
    samples: Type.Integer(),
    complete: Type.Boolean(),
    channels: Type.Array(RecordingChannel),
    marks: Type.Array(RecordingMark),
  },
  { additionalProperties: false },
);
export type RecordingMeta = Static<typeof RecordingMeta>;

export const RecordingPage = Type.Object({ recordings: Type.Array(RecordingMeta), next: orNull(Type.Integer()) }, { additionalProperties: false });
export type RecordingPage = Static<typeof RecordingPage>;

/** A recording with its samples; NaN where a channel has none. They cross the boundary packed (`GET /recordings/:id/samples`). */
export interface RecordingData {
  meta: RecordingMeta;
  /** s */
  time: number[];
  data: Record<string, number[]>;
}

export const MarkRequest = Type.Object({ author: Author, mark: RecordingMark }, { additionalProperties: false });
export type MarkRequest = Static<typeof MarkRequest>;

const Channel = Text(40, { minLength: 1 });
/** What an armed recorder waits for: nothing, a trip, a state, a level, or an edge that is gone through. */
export const RecorderTrigger = Type.Union([
  Type.Object({ kind: Type.Literal('now') }, { additionalProperties: false }),
  Type.Object({ kind: Type.Literal('trip') }, { additionalProperties: false }),
  Type.Object({ kind: Type.Literal('state'), state: literals(['ready', 'running', 'stopping', 'asleep', 'held']) }, { additionalProperties: false }),
  Type.Object(
    { kind: Type.Literal('level'), channel: Channel, side: literals(['above', 'below']), value: Type.Number() },
    { additionalProperties: false },
  ),
  Type.Object(
    { kind: Type.Literal('edge'), channel: Channel, way: literals(['rising', 'falling', 'either']), value: Type.Number() },
    { additionalProperties: false },
  ),
]);
export type RecorderTrigger = Static<typeof RecorderTrigger>;

/** How a recorder is armed. */
export const Arming = Type.Object(
  {
    trigger: RecorderTrigger,
    channels: Type.Array(Channel, { minItems: 1, maxItems: 16 }),
    before: Type.Number({ minimum: 0, maximum: 600, description: 's kept from before the trigger' }),
    after: Type.Number({ minimum: 1, maximum: 3600, description: 's recorded from it on' }),
    every: Type.Integer({ minimum: 20, maximum: 1000, description: 'ms' }),
    again: Type.Boolean({ description: 'armed again after each recording' }),
  },
  { additionalProperties: false },
);
export type Arming = Static<typeof Arming>;

export const ArmRequest = Type.Object({ author: Author, arming: Arming }, { additionalProperties: false });
export type ArmRequest = Static<typeof ArmRequest>;

/** The recorder of a machine as it stands. */
export const RecorderStatus = Type.Object(
  {
    armed: orNull(
      Type.Object(
        {
          arming: Arming,
          author: Type.String(),
          at: Type.String(),
          /** when the trigger came, while what follows it is recorded */
          triggeredAt: orNull(Type.String()),
          /** s of history it holds */
          held: Type.Number(),
          /** ms between samples lately, as they came; null before any */
          pace: orNull(Type.Number()),
          /** recordings it has made since it was armed */
          made: Type.Integer(),
        },
        { additionalProperties: false },
      ),
    ),
    /** the recording it made last, or makes */
    lastId: orNull(Type.Integer()),
    /** why it is no longer armed though nobody ended it; null otherwise */
    ended: orNull(Type.String()),
  },
  { additionalProperties: false },
);
export type RecorderStatus = Static<typeof RecorderStatus>;

export const RecordingRemoval = Type.Object({ author: Author, why: Text(120, { minLength: 3 }) }, { additionalProperties: false });
export type RecordingRemoval = Static<typeof RecordingRemoval>;

/** Most figures a recording from a file may hold, over all channels. */
export const mostFigures = 4_000_000;
/** Little-endian doubles (time) or floats (channels) as base64. */
const Packed = Type.String({ minLength: 4, maxLength: 24_000_000, pattern: '^[A-Za-z0-9+/]+={0,2}$' });
/** A recording another instrument made. */
export const RecordingImport = Type.Object(
  {
    author: Author,
    title: Text(80, { minLength: 1 }),
    /** where the file says it */
    startedAt: orNull(Type.String({ maxLength: 30, pattern: '^\\d{4}-\\d\\d-\\d\\dT\\d\\d:\\d\\d:\\d\\d(\\.\\d+)?Z$' })),
    channels: Type.Array(RecordingChannel, { minItems: 1, maxItems: 64 }),
    time: Packed,
    values: Type.Array(Packed, { minItems: 1, maxItems: 64 }),
    marks: Type.Array(RecordingMark, { maxItems: 500 }),
  },
  { additionalProperties: false },
);
export type RecordingImport = Static<typeof RecordingImport>;
