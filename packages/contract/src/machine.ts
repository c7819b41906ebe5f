import { Type, type Static } from '@sinclair/typebox';
import { Driven, DrivenKind } from './driven';
import { LearnedRevision } from './learned';
import { Leaving } from './leaving';
import { literals, orNull } from './literals';
import { limits } from './limits';
import { Author, Name } from './people';
import { PlateRevision, StampedPlate } from './plate';
import { Text } from './text';

export const Region = literals([50, 60]);
export type Region = Static<typeof Region>;
export const Tag = Type.String({ pattern: '^[A-Z]{1,3}-[0-9]{1,4}$' });
export const TagParams = Type.Object({ tag: Tag });

export const Supply = Type.Object(
  {
    voltage: Type.Number({ description: 'V line to line' }),
    frequency: Type.Number({ description: 'Hz' }),
    /** as surveyed; absent before */
    phases: Type.Optional(literals([3, 1])),
  },
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
    /** V of the supply on record */
    voltage: Type.Number(),
    /** trips whose cause is not cured yet */
    openTrips: Type.Integer(),
    /** settings in which draft and drive differ; null before the drive was ever read */
    differences: orNull(Type.Integer()),
    /** which of the two was changed last; null when they agree or the drive was never read */
    newer: orNull(literals(['draft', 'drive'])),
    /** somebody went away and left tests unproved */
    left: orNull(Leaving),
  },
  { additionalProperties: false },
);
export type MachineSummary = Static<typeof MachineSummary>;

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
    unitId: Type.Integer(),
    plate: PlateRevision,
    learned: orNull(LearnedRevision),
    /** grows when another drive takes the place of the one before */
    driveRevision: Type.Integer(),
  },
  { additionalProperties: false },
);
export type MachineDetail = Static<typeof MachineDetail>;

/** A machine as it is first put on record; what it drives is estimated from its motor until the survey tells. */
export const MachineNew = Type.Object(
  {
    author: Author,
    tag: Tag,
    name: Name,
    area: Name,
    kind: DrivenKind,
    bookId: Text(40),
    size: Text(20),
    region: Region,
    unitId: Type.Integer({ minimum: limits.unitId.min, maximum: limits.unitId.max, description: 'Modbus address on the plant’s link' }),
    supply: Type.Object(
      {
        voltage: Type.Number({ minimum: limits.supplyVoltage.min, maximum: limits.supplyVoltage.max, description: 'V' }),
        frequency: Type.Number({ minimum: limits.supplyFrequency.min, maximum: limits.supplyFrequency.max, description: 'Hz' }),
        phases: Type.Optional(literals([3, 1])),
      },
      { additionalProperties: false },
    ),
    plate: StampedPlate,
  },
  { additionalProperties: false },
);
export type MachineNew = Static<typeof MachineNew>;

/** What a machine is called, where it stands and where its drive answers: what is left out stays. */
export const RecordEdit = Type.Object(
  { author: Author, name: Type.Optional(Name), area: Type.Optional(Name), unitId: Type.Optional(MachineNew.properties.unitId) },
  { additionalProperties: false },
);
export type RecordEdit = Static<typeof RecordEdit>;
