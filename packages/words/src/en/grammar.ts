const plural = new Intl.PluralRules('en-GB');
const list = new Intl.ListFormat('en-GB', { type: 'conjunction' });
const number = new Intl.NumberFormat('en-GB');

/** So many of something: `#` stands for the number. */
export const counted = (n: number, forms: { one: string; other: string }): string =>
  (plural.select(n) === 'one' ? forms.one : forms.other).replace('#', number.format(n));

/** A label begins with a capital. */
export const capital = (text: string): string => text.replace(/^./, (c) => c.toLocaleUpperCase('en-GB'));

/** One, one and another, one, another and a third. */
export const and = (parts: ReadonlyArray<string | number>): string => list.format(parts.map(String));

/** So many of something: *one* where it is a single one. */
export const many = (n: number, one: string, more: string): string => `${n === 1 ? 'one' : n} ${n === 1 ? one : more}`;
