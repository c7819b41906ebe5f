import { Type, type Static } from '@sinclair/typebox';

export const PhotoMeta = Type.Object(
  { id: Type.Integer(), type: Type.String(), bytes: Type.Integer(), author: Type.String(), at: Type.String() },
  { additionalProperties: false },
);
export type PhotoMeta = Static<typeof PhotoMeta>;
