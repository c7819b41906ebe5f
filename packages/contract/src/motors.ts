import { Type, type Static } from '@sinclair/typebox';
import { Author, Name } from './people';
import { StampedPlate } from './plate';

/** A motor kept for the next machine. */
export const SavedMotor = Type.Object(
  { id: Type.Integer(), name: Name, plate: StampedPlate, author: Type.String(), at: Type.String() },
  { additionalProperties: false },
);
export type SavedMotor = Static<typeof SavedMotor>;
export const MotorEdit = Type.Object({ author: Author, name: Name, plate: StampedPlate }, { additionalProperties: false });
export type MotorEdit = Static<typeof MotorEdit>;
