import { Type, type Static } from '@sinclair/typebox';
import { Id, Text } from './text';

/** A name chosen on the device; sign-in will replace it in one place. */
export const Author = Text(60, { minLength: 1 });
const Name = Text(60, { minLength: 1 });
export const Region = Type.Union([Type.Literal(50), Type.Literal(60)]);
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
    /** leads in the terminal box: six join in star or delta, nine in series (high volts) or parallel (low volts); none said when absent */
    leads: Type.Optional(Type.Union([Type.Literal(3), Type.Literal(6), Type.Literal(9)])),
    joined: Type.Optional(Type.Union([Type.Literal('series'), Type.Literal('parallel')])),
  },
  { additionalProperties: false },
);

const between = (minimum: number, maximum: number, description: string) => Type.Number({ minimum, maximum, description });
/** Some of it there must be, or the load cannot be computed. */
const some = (maximum: number, description: string) => Type.Number({ exclusiveMinimum: 0, maximum, description });
const kgm2 = between(0, 1e5, 'kg·m² at the motor shaft');

/** The transmitter of the process, wired to the drive as 4 to 20 mA. */
export const ProcessSensor = Type.Object(
  {
    measures: Type.Union([Type.Literal('pressure'), Type.Literal('level')]),
    low: Type.Number(),
    high: Type.Number(),
    unit: Type.Union([Type.Literal('bar'), Type.Literal('Pa'), Type.Literal('m')]),
  },
  { additionalProperties: false },
);
export type ProcessSensor = Static<typeof ProcessSensor>;

/** What is driven, as far as it is known: the look-ahead's view of the load. */
export const Driven = Type.Union([
  Type.Object(
    {
      kind: Type.Literal('pump'),
      flow: some(1e6, 'm³/h at the rated point'),
      head: some(5000, 'm'),
      efficiency: some(100, '%'),
      staticHead: between(0, 5000, 'm'),
      setPressure: Type.Union([Type.Number({ description: 'bar' }), Type.Null()]),
      inertia: kgm2,
      sump: Type.Union([
        Type.Object(
          {
            area: Type.Number({ description: 'm²' }),
            inflow: Type.Number({ description: 'm³/h' }),
            depth: Type.Number({ description: 'm of water above the level where it draws air' }),
          },
          { additionalProperties: false },
        ),
        Type.Null(),
      ]),
      sensor: Type.Union([ProcessSensor, Type.Null()]),
    },
    { additionalProperties: false },
  ),
  Type.Object(
    {
      kind: Type.Literal('fan'),
      flow: some(1e7, 'm³/h at the rated point'),
      pressure: some(1e6, 'Pa'),
      efficiency: some(100, '%'),
      volume: some(1e6, 'm³ of ductwork'),
      inertia: kgm2,
      sensor: Type.Union([ProcessSensor, Type.Null()]),
    },
    { additionalProperties: false },
  ),
  Type.Object(
    {
      kind: Type.Literal('conveyor'),
      torqueShare: between(0, 300, '% of rated torque with its feed at rated speed'),
      feed: between(0, 1e5, 't/h'),
      beltSpeed: some(50, 'm/s at rated speed'),
      length: some(1e5, 'm'),
      slope: between(-45, 45, '°, upwards'),
      ratio: some(1000, 'motor turns for one of the drum'),
      inertia: kgm2,
      brakeShare: Type.Union([some(500, 'holding brake, % of rated torque'), Type.Null()]),
    },
    { additionalProperties: false },
  ),
  Type.Object(
    { kind: Type.Literal('agitator'), torqueShare: between(0, 300, '% of rated torque at rated speed'), inertia: kgm2 },
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
    /** which of the two was changed last; null when they agree or the drive was never read */
    newer: Type.Union([Type.Literal('draft'), Type.Literal('drive'), Type.Null()]),
    /** somebody went away and left tests unproved */
    left: Type.Union([
      Type.Object({ author: Type.String(), at: Type.String(), unproved: Type.String() }, { additionalProperties: false }),
      Type.Null(),
    ]),
  },
  { additionalProperties: false },
);
export type MachineSummary = Static<typeof MachineSummary>;

export const PlateRevision = Type.Object(
  { revision: Type.Integer(), plate: StampedPlate, author: Type.String(), at: Type.String() },
  { additionalProperties: false },
);
export type PlateRevision = Static<typeof PlateRevision>;

/** What a recording taught about a machine: multipliers on the estimate. `values` is null once it was put aside. */
export const LearnedRevision = Type.Object(
  {
    revision: Type.Integer(),
    values: Type.Union([
      Type.Record(
        Type.String({ pattern: '^[a-zA-Z]{3,30}$' }),
        Type.Object(
          { times: Type.Number({ exclusiveMinimum: 0, maximum: 20 }), spread: Type.Number({ minimum: 0 }) },
          { additionalProperties: false },
        ),
        { additionalProperties: false },
      ),
      Type.Null(),
    ]),
    recordingId: Type.Union([Type.Integer(), Type.Null()]),
    author: Type.String(),
    at: Type.String(),
  },
  { additionalProperties: false },
);
export type LearnedRevision = Static<typeof LearnedRevision>;

export const MachineDetail = Type.Object(
  {
    tag: Tag,
    name: Type.String(),
    site: Type.String(),
    area: Type.String(),
    bookId: Type.String(),
    size: Type.String(),
    region: Region,
    supply: Supply,
    driven: Driven,
    /** nobody has taken down what is driven: it was worked out from the motor alone */
    drivenEstimated: Type.Boolean(),
    /** the drive's address on the plant's link */
    unit: Type.Integer(),
    plate: PlateRevision,
    learned: Type.Union([LearnedRevision, Type.Null()]),
    /** grows when another drive takes the place of the one before */
    driveRevision: Type.Integer(),
  },
  { additionalProperties: false },
);
export type MachineDetail = Static<typeof MachineDetail>;

export const LearnedEdit = Type.Object(
  { author: Author, recordingId: Type.Union([Id, Type.Null()]), values: LearnedRevision.properties.values },
  { additionalProperties: false },
);
export type LearnedEdit = Static<typeof LearnedEdit>;

export const PlateEdit = Type.Object({ revision: Id, author: Author, plate: StampedPlate }, { additionalProperties: false });
export type PlateEdit = Static<typeof PlateEdit>;

/** A machine as it is first put on record; what it drives is estimated from its motor until the survey tells. */
export const MachineNew = Type.Object(
  {
    author: Author,
    tag: Tag,
    name: Name,
    area: Name,
    kind: Type.Union([Type.Literal('pump'), Type.Literal('fan'), Type.Literal('conveyor'), Type.Literal('agitator')]),
    bookId: Text(40),
    size: Text(20),
    region: Region,
    unit: Type.Integer({ minimum: 1, maximum: 247, description: 'Modbus address on the plant’s link' }),
    supply: Type.Object({ voltage: between(50, 1000, 'V'), frequency: between(40, 70, 'Hz') }, { additionalProperties: false }),
    plate: StampedPlate,
  },
  { additionalProperties: false },
);
export type MachineNew = Static<typeof MachineNew>;

/** What a machine is called, where it stands and where its drive answers: what is left out stays. */
export const RecordEdit = Type.Object(
  { author: Author, name: Type.Optional(Name), area: Type.Optional(Name), unit: Type.Optional(MachineNew.properties.unit) },
  { additionalProperties: false },
);
export type RecordEdit = Static<typeof RecordEdit>;
