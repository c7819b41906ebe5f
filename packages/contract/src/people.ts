import { Type, type Static } from '@sinclair/typebox';
import { Text } from './text';

/** A name chosen on the device; sign-in will replace it in one place. */
export const Author = Text(60, { minLength: 1 });
/** A name people give. */
export const Name = Text(60, { minLength: 1 });
/** Who does something that needs no more words. */
export const AuthorOnly = Type.Object({ author: Author }, { additionalProperties: false });
export type AuthorOnly = Static<typeof AuthorOnly>;
