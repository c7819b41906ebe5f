import { Type, type Static } from '@sinclair/typebox';
import { Region } from './machine';
import { Author } from './people';
import { Text } from './text';

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

export const LockEdit = Type.Object({ author: Author, code: Text(40, { minLength: 4 }) }, { additionalProperties: false });
export type LockEdit = Static<typeof LockEdit>;
export const LockView = Type.Union([Type.Object({ author: Type.String(), at: Type.String() }, { additionalProperties: false }), Type.Null()]);
export type LockView = Static<typeof LockView>;
