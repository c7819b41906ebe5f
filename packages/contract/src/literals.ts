import { Type, type TSchema, type TUnsafe } from '@sinclair/typebox';

/** One of some words or numbers; the type keeps which. */
export const literals = <const T extends ReadonlyArray<string | number>>(values: T): TUnsafe<T[number]> =>
  Type.Unsafe<T[number]>(Type.Union(values.map((v) => Type.Literal(v))));

/** Something, or null where there is none. */
export const orNull = <T extends TSchema>(schema: T) => Type.Union([schema, Type.Null()]);
