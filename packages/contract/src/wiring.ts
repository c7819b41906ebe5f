import { Type, type Static } from '@sinclair/typebox';
import { literals, orNull } from './literals';
import { Author } from './people';
import { Count, Text } from './text';
import { wiredDevices } from './wiredDevices';

/** What hangs on a digital input, as somebody drew it or found it. */
export const WiredInput = Type.Object(
  {
    device: literals(wiredDevices),
    /** as it is marked on the panel */
    label: Text(40),
    /** whether its contact is open or closed while nobody works it and nothing is wrong */
    atRest: literals(['open', 'closed']),
  },
  { additionalProperties: false },
);
export type WiredInput = Static<typeof WiredInput>;

/** What is wired to a drive, and the unit the machine's speed is spoken of in. */
export const Wiring = Type.Object(
  {
    /** by terminal; what is not here is as its job makes one expect */
    inputs: Type.Record(Type.String({ pattern: '^[A-Za-z0-9 ]{1,12}$' }), WiredInput, { additionalProperties: false, maxProperties: 40 }),
    /** so many of the unit at so many Hz; null where the machine's own figures give one, or there is none */
    unit: orNull(
      Type.Object(
        {
          name: Text(16, { minLength: 1 }),
          value: Type.Number({ exclusiveMinimum: 0, maximum: 1e6 }),
          frequency: Type.Number({ exclusiveMinimum: 0, maximum: 600, description: 'Hz' }),
        },
        { additionalProperties: false },
      ),
    ),
  },
  { additionalProperties: false },
);
export type Wiring = Static<typeof Wiring>;

export const WiringRevision = Type.Object(
  { revision: Type.Integer(), wiring: Wiring, author: Type.String(), at: Type.String() },
  { additionalProperties: false },
);
export type WiringRevision = Static<typeof WiringRevision>;

/** `revision` is 0 before the first. */
export const WiringEdit = Type.Object({ revision: Count, author: Author, wiring: Wiring }, { additionalProperties: false });
export type WiringEdit = Static<typeof WiringEdit>;
