import { Type, type Static } from '@sinclair/typebox';
import { orNull } from './literals';
import { Author } from './people';
import { Text } from './text';

export const RecordingChannel = Type.Object(
  { key: Type.String(), name: Type.String(), unit: Type.String(), decimals: Type.Integer() },
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

export const RecordingData = Type.Object(
  { meta: RecordingMeta, time: Type.Array(Type.Number()), data: Type.Record(Type.String(), Type.Array(Type.Number())) },
  { additionalProperties: false },
);
export type RecordingData = Static<typeof RecordingData>;

export const MarkRequest = Type.Object({ author: Author, mark: RecordingMark }, { additionalProperties: false });
export type MarkRequest = Static<typeof MarkRequest>;
