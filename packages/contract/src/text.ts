import { Type, type StringOptions, type TSchema } from '@sinclair/typebox';
import { noWords } from './signs';

/** A line of words. */
export const line = `^[^${noWords}]*$`;
/** The same with line ends and tabs. */
const lines = `^(?:[\\n\\t]|[^${noWords}])*$`;

/** A line of words people or programs send. */
export const Text = (maxLength: number, more: StringOptions = {}) => Type.String({ maxLength, pattern: line, ...more });
/** Words of more than one line. */
export const Paragraph = (maxLength: number, more: StringOptions = {}) => Type.String({ maxLength, pattern: lines, ...more });
/** Values by name. */
export const ByName = <T extends TSchema>(of: T) =>
  Type.Record(Type.String({ pattern: `^[^${noWords}]{1,80}$` }), of, { additionalProperties: false });

/** Largest integer the database holds in a column. */
const largest = 2147483647;
/** A row's number, or a revision. */
export const Id = Type.Integer({ minimum: 1, maximum: largest });
export const Count = Type.Integer({ minimum: 0, maximum: largest });
