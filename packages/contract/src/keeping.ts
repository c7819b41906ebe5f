import { Type, type Static } from '@sinclair/typebox';
import { orNull } from './literals';
import { Author } from './people';

const days = (minimum: number) => orNull(Type.Integer({ minimum, maximum: 3650, description: 'days; null for always' }));

/** How long recordings are kept whole, and how long thinned to a sample a second after that. */
export const Keeping = Type.Object({ wholeDays: days(7), thinnedDays: days(0) }, { additionalProperties: false });
export type Keeping = Static<typeof Keeping>;

export const KeepingEdit = Type.Composite([Keeping, Type.Object({ author: Author })], { additionalProperties: false });
export type KeepingEdit = Static<typeof KeepingEdit>;
