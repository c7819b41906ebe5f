import { Type, type Static } from '@sinclair/typebox';

/** A name chosen on the device; sign-in will replace it in one place. */
export const Author = Type.String({ minLength: 1, maxLength: 60 });
export const Tag = Type.String({ pattern: '^[A-Z]{1,3}-[0-9]{1,4}$' });

const positive = (maximum: number) => Type.Number({ exclusiveMinimum: 0, maximum });

/** A nameplate as stamped. What is not stamped is null. Impossible combinations are kept and said, not refused. */
export const StampedPlate = Type.Object(
  {
    standard: Type.Union([Type.Literal('IEC'), Type.Literal('NEMA')]),
    power: positive(10000),
    powerUnit: Type.Union([Type.Literal('kW'), Type.Literal('hp')]),
    voltage: positive(20000),
    connection: Type.Union([Type.Literal('star'), Type.Literal('delta')]),
    current: positive(20000),
    frequency: positive(1000),
    speed: positive(60000),
    powerFactor: Type.Union([Type.Number({ minimum: 0, maximum: 200 }), Type.Null()]),
    efficiency: Type.Union([Type.Number({ minimum: 0, maximum: 200 }), Type.Null()]),
    design: Type.Union([Type.Literal('A'), Type.Literal('B'), Type.Literal('C'), Type.Literal('D'), Type.Null()]),
    serviceFactor: Type.Union([positive(3), Type.Null()]),
  },
  { additionalProperties: false },
);

/** What is driven, as far as it is known: the look-ahead's view of the load. */
export const Driven = Type.Union([
  Type.Object(
    {
      kind: Type.Literal('pump'),
      flow: Type.Number({ description: 'm³/h at the rated point' }),
      head: Type.Number({ description: 'm' }),
      efficiency: Type.Number({ description: '%' }),
      staticHead: Type.Number({ description: 'm' }),
      setPressure: Type.Union([Type.Number({ description: 'bar' }), Type.Null()]),
      inertia: Type.Number({ description: 'kg·m² at the motor shaft' }),
    },
    { additionalProperties: false },
  ),
  Type.Object(
    {
      kind: Type.Union([Type.Literal('fan'), Type.Literal('conveyor'), Type.Literal('agitator')]),
      torqueShare: Type.Number({ description: '% of rated torque at rated speed' }),
      inertia: Type.Number({ description: 'kg·m² at the motor shaft' }),
    },
    { additionalProperties: false },
  ),
]);
export type Driven = Static<typeof Driven>;

export const Supply = Type.Object(
  { voltage: Type.Number({ description: 'V line to line' }), frequency: Type.Number({ description: 'Hz' }) },
  { additionalProperties: false },
);

export const MachineSummary = Type.Object(
  {
    tag: Tag,
    name: Type.String(),
    site: Type.String(),
    area: Type.String(),
    bookId: Type.String(),
    size: Type.String(),
    plate: Type.Object({ power: Type.Number(), powerUnit: Type.String() }, { additionalProperties: false }),
    /** settings in which draft and drive differ; null before the drive was ever read */
    differences: Type.Union([Type.Integer(), Type.Null()]),
  },
  { additionalProperties: false },
);
export type MachineSummary = Static<typeof MachineSummary>;

export const PlateRevision = Type.Object(
  { revision: Type.Integer(), plate: StampedPlate, author: Type.String(), at: Type.String() },
  { additionalProperties: false },
);
export type PlateRevision = Static<typeof PlateRevision>;

export const MachineDetail = Type.Object(
  {
    tag: Tag,
    name: Type.String(),
    site: Type.String(),
    area: Type.String(),
    bookId: Type.String(),
    size: Type.String(),
    region: Type.Union([Type.Literal(50), Type.Literal(60)]),
    supply: Supply,
    driven: Driven,
    plate: PlateRevision,
  },
  { additionalProperties: false },
);
export type MachineDetail = Static<typeof MachineDetail>;

export const PlateEdit = Type.Object(
  { revision: Type.Integer({ minimum: 1 }), author: Author, plate: StampedPlate },
  { additionalProperties: false },
);
export type PlateEdit = Static<typeof PlateEdit>;
