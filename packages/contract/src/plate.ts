import { Type, type Static } from '@sinclair/typebox';
import { literals, orNull } from './literals';
import { Author } from './people';
import { Id } from './text';

const positive = (maximum: number) => Type.Number({ exclusiveMinimum: 0, maximum });

/** A nameplate as stamped. What is not stamped is null. Impossible combinations are kept and said, not refused. */
export const StampedPlate = Type.Object(
  {
    standard: literals(['IEC', 'NEMA']),
    power: positive(10000),
    powerUnit: literals(['kW', 'hp']),
    voltage: positive(20000),
    connection: literals(['star', 'delta']),
    current: positive(20000),
    frequency: positive(1000),
    speed: positive(60000),
    powerFactor: orNull(Type.Number({ minimum: 0, maximum: 200 })),
    efficiency: orNull(Type.Number({ minimum: 0, maximum: 200 })),
    design: orNull(literals(['A', 'B', 'C', 'D'])),
    serviceFactor: orNull(positive(3)),
    /** leads in the terminal box: six join in star or delta, nine in series (high volts) or parallel (low volts); none said when absent */
    leads: Type.Optional(literals([3, 6, 9])),
    joined: Type.Optional(literals(['series', 'parallel'])),
    /** a delta winding run on to √3 of its frequency and volts, at rated flux; as stamped when absent */
    base: Type.Optional(literals(['rated', 'raised'])),
  },
  { additionalProperties: false },
);
export type StampedPlate = Static<typeof StampedPlate>;

export const PlateRevision = Type.Object(
  { revision: Type.Integer(), plate: StampedPlate, author: Type.String(), at: Type.String() },
  { additionalProperties: false },
);
export type PlateRevision = Static<typeof PlateRevision>;

export const PlateEdit = Type.Object({ revision: Id, author: Author, plate: StampedPlate }, { additionalProperties: false });
export type PlateEdit = Static<typeof PlateEdit>;
