import { Type, type Static } from '@sinclair/typebox';
import { Author, Tag } from './machine';

/** What one drive reported last, decoded into units of people. */
export const LiveSample = Type.Object(
  {
    tag: Type.String(),
    /** ms since 1970 on the server */
    at: Type.Number(),
    link: Type.Union([Type.Literal('up'), Type.Literal('down')]),
    state: Type.Union(['ready', 'running', 'stopping', 'asleep', 'held', 'tripped', 'no link'].map((k) => Type.Literal(k))),
    outputFrequency: Type.Number(),
    motorCurrent: Type.Number(),
    busVoltage: Type.Number(),
    motorSpeed: Type.Number(),
    torque: Type.Number(),
    reference: Type.Number(),
    motorHeat: Type.Number(),
    power: Type.Number(),
    driveTemperature: Type.Number(),
    /** % of the process sensor's range */
    feedback: Type.Number(),
    trip: Type.Union([
      Type.Object({ code: Type.Integer(), name: Type.String(), sentence: Type.String() }, { additionalProperties: false }),
      Type.Null(),
    ]),
    /** who has command, in words */
    command: Type.String(),
    unkept: Type.Boolean(),
  },
  { additionalProperties: false },
);
export type LiveSample = Omit<Static<typeof LiveSample>, 'state'> & {
  state: 'ready' | 'running' | 'stopping' | 'asleep' | 'held' | 'tripped' | 'no link';
};

/** What a client says on the socket. A hold must be repeated: silence for 600 ms is a release. */
export const ClientMessage = Type.Union(
  [
    Type.Object({ kind: Type.Literal('watch'), tags: Type.Array(Tag, { maxItems: 100 }) }, { additionalProperties: false }),
    Type.Object(
      {
        kind: Type.Literal('hold'),
        tag: Tag,
        author: Author,
        frequency: Type.Number({ minimum: -600, maximum: 600 }),
        press: Type.String({ maxLength: 40 }),
        /** measure the motor instead of running it at a frequency */
        tune: Type.Optional(Type.Union([Type.Literal('standstill'), Type.Literal('rotating')])),
      },
      { additionalProperties: false },
    ),
    Type.Object({ kind: Type.Literal('release'), tag: Tag, press: Type.String({ maxLength: 40 }) }, { additionalProperties: false }),
    Type.Object({ kind: Type.Literal('ping'), sent: Type.Number() }, { additionalProperties: false }),
  ],
  {},
);
export type ClientMessage = Static<typeof ClientMessage>;

/** How measuring the motor goes, of a run that measures. */
export interface TuneProgress {
  kind: 'standstill' | 'rotating';
  state: 'busy' | 'done' | 'failed';
  /** % */
  progress: number;
}

export type ServerMessage =
  | { kind: 'live'; samples: LiveSample[] }
  | {
      kind: 'run';
      tag: string;
      press: string;
      phase: 'taken' | 'running' | 'stopping' | 'ended';
      recordingId: number | null;
      reason: string | null;
      tune?: TuneProgress;
    }
  | { kind: 'refused'; tag: string; press: string; sentence: string }
  | { kind: 'pong'; sent: number };
