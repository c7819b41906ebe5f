import { Type, type Static } from '@sinclair/typebox';
import { Author, Name } from './people';
import { Text } from './text';

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
