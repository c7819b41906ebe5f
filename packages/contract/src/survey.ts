import { Type, type Static } from '@sinclair/typebox';
import { Driven } from './driven';
import { literals, orNull } from './literals';
import { limits, type Limit } from './limits';
import { Author } from './people';
import { Count, Paragraph } from './text';

const within = ({ min, max }: Limit, description?: string) => Type.Number({ minimum: min, maximum: max, ...(description && { description }) });

/** What is found at the machine before anything is connected. What nobody has looked at yet is null. */
export const Survey = Type.Object(
  {
    why: Paragraph(400, { description: 'why the drive is commissioned, in words' }),
    voltage: within(limits.supplyVoltage),
    frequency: within(limits.supplyFrequency),
    phases: literals([3, 1]),
    ambient: orNull(within(limits.ambient, '°C around the drive')),
    altitude: orNull(within(limits.altitude, 'm above the sea')),
    cableLength: orNull(within(limits.cableLength, 'm from drive to motor')),
    screened: orNull(Type.Boolean()),
    // a reading that is still missing is null: 0 is a blown fuse, or a winding that lies on earth
    lineVoltages: orNull(Type.Array(orNull(within(limits.lineVoltage)), { minItems: 3, maxItems: 3, description: 'V, L1–L2, L2–L3, L3–L1' })),
    insulation: orNull(
      Type.Object(
        {
          reading: orNull(within(limits.insulation, 'MΩ')),
          temperature: within(limits.windingTemperature, '°C of the winding'),
          /** absent or null: nobody knows */
          winding: Type.Optional(orNull(literals(['thermosetting', 'thermoplastic']))),
        },
        { additionalProperties: false },
      ),
    ),
    /** what the machine drives, once somebody took it down; before that it stands as it was first put on record */
    driven: Type.Optional(orNull(Driven)),
  },
  { additionalProperties: false },
);
export type Survey = Static<typeof Survey>;

export const SurveyRevision = Type.Object(
  { revision: Type.Integer(), survey: Survey, author: Type.String(), at: Type.String() },
  { additionalProperties: false },
);
export type SurveyRevision = Static<typeof SurveyRevision>;

/** `revision` is 0 before the first. */
export const SurveyEdit = Type.Object({ revision: Count, author: Author, survey: Survey }, { additionalProperties: false });
export type SurveyEdit = Static<typeof SurveyEdit>;
