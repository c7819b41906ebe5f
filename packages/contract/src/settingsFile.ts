import { Type, type Static } from '@sinclair/typebox';
import { Source } from './sheet';

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
export type SettingsFile = Static<typeof SettingsFile>;
