import { Type, type Static } from '@sinclair/typebox';
import { literals } from './literals';
import type { RefusalCode, StopCause } from './hold';
import { Tag } from './machine';
import { Author } from './people';
import type { MachineSeen } from './seen';
import { Text } from './text';

/** What a drive says it is, where a book knows it. */
export const DriveIdentity = Type.Object({ bookId: Type.String(), family: Type.String(), size: Type.String() }, { additionalProperties: false });
export type DriveIdentity = Static<typeof DriveIdentity>;

/** What one drive reported last, decoded into units of people. */
export const LiveSample = Type.Object(
  {
    tag: Type.String(),
    /** ms since 1970 on the server */
    at: Type.Number(),
    link: literals(['up', 'down']),
    state: literals(['ready', 'running', 'stopping', 'asleep', 'held', 'tripped', 'no link']),
    outputFrequency: Type.Number(),
    /** it looks for a motor that turns: its output is no speed of anything */
    searching: Type.Boolean(),
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
    /** what the loop holds now, % of the range as the loop sees it; 0 where the family does not tell */
    setpoint: Type.Number(),
    trip: Type.Union([
      Type.Object({ code: Type.Integer(), name: Type.String(), sentence: Type.String() }, { additionalProperties: false }),
      Type.Null(),
    ]),
    /** who has command: the drive's terminals, this application, or another master on the link */
    holder: literals(['terminals', 'here', 'other', 'unknown']),
    /** the same in words */
    command: Type.String(),
    /** what it waits for before it starts from its terminals, though it is ready or would be; null when a start would start it */
    waits: Type.Union([
      Type.Object({ code: literals(['safe torque off', 'start contact']), sentence: Type.String() }, { additionalProperties: false }),
      Type.Null(),
    ]),
    unkept: Type.Boolean(),
    /** ms since 1970 until which its panel starts nothing, as its wires are being tried; null when it does */
    stillUntil: Type.Union([Type.Number(), Type.Null()]),
    /** what it does by itself beside what it is told, and what it warns of or rests for */
    doing: literals(['nothing', 'emergency', 'cleaning', 'filling', 'boosting', 'resting', 'frost', 'running on', 'standby']),
    warns: Type.Array(literals(['dryRun', 'noFlow', 'highLoad', 'lowLoad', 'highPressure', 'lowPressure', 'filter'])),
    /** pumps of its station that are to run, by number from 1 */
    pumps: Type.Array(Type.Integer()),
    /** the drive's own words on command and terminals, undecoded but for the signals, which are % of their range; its book says what they mean */
    words: Type.Object(
      {
        mode: Type.Integer(),
        startedBy: Type.Integer(),
        speedBy: Type.Integer(),
        heldBack: Type.Integer(),
        inputs: Type.Integer(),
        outputs: Type.Integer(),
        analogue: Type.Number(),
        second: Type.Number(),
      },
      { additionalProperties: false },
    ),
    /** the drive that answers instead of the one on record; null when none does, or it does not say what it is */
    another: Type.Union([DriveIdentity, Type.Null()]),
  },
  { additionalProperties: false },
);
export type LiveSample = Static<typeof LiveSample>;

const ticket = Text(40, { minLength: 1 });
/** ms on the client's own clock, which only runs forward: how long a message was on its way is told from it */
const sent = Type.Number({ minimum: 0 });

const by = Type.Number({ minimum: -100, maximum: 100, description: 'Hz' });
/**
 * What a run may be led through while a hand holds it: a step once the feedback stands; of a level there, and as far to the other side; or several
 * speeds in Hz, each until the feedback stands.
 */
export const RunGuide = Type.Union([
  Type.Object({ kind: Type.Literal('step'), by }, { additionalProperties: false }),
  Type.Object({ kind: Type.Literal('there and back'), by }, { additionalProperties: false }),
  Type.Object(
    { kind: Type.Literal('speeds'), speeds: Type.Array(Type.Number({ minimum: -600, maximum: 600 }), { minItems: 2, maxItems: 24 }) },
    { additionalProperties: false },
  ),
]);
export type RunGuide = Static<typeof RunGuide>;

/**
 * What a client says on the socket. *Begin* spends the ticket the server gave to this connection; a hold must then be repeated with it:
 * silence for 600 ms is a release. A repeat of no living run is nothing, and nobody but the connection that began a run releases it.
 */
export const ClientMessage = Type.Union(
  [
    Type.Object({ kind: Type.Literal('watch'), tags: Type.Array(Tag, { maxItems: 300 }) }, { additionalProperties: false }),
    Type.Object(
      {
        kind: Type.Literal('begin'),
        tag: Tag,
        author: Author,
        frequency: Type.Number({ minimum: -600, maximum: 600 }),
        ticket,
        sent,
        /** measure the motor instead of running it at a frequency */
        tune: Type.Optional(literals(['standstill', 'rotating'])),
        guide: Type.Optional(RunGuide),
      },
      { additionalProperties: false },
    ),
    Type.Object({ kind: Type.Literal('repeat'), ticket, sent }, { additionalProperties: false }),
    Type.Object({ kind: Type.Literal('release'), ticket }, { additionalProperties: false }),
    Type.Object({ kind: Type.Literal('ping'), sent }, { additionalProperties: false }),
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

/** How a run goes that is led: it waits until the feedback stands, has stepped, is on its way back, or is through. */
export interface GuideProgress {
  guide: RunGuide;
  state: 'settling' | 'stepped' | 'back' | 'stands';
  /** where the feedback stood at each speed, Hz and % of the range */
  points: ReadonlyArray<{ frequency: number; feedback: number }>;
}

/** What the server says on the socket. A ticket is for this connection alone; everybody else knows a run by its number. */
export type ServerMessage =
  | { kind: 'ticket'; ticket: string }
  | { kind: 'live'; samples: LiveSample[] }
  | {
      kind: 'run';
      tag: string;
      run: number;
      /** begun by this connection */
      mine: boolean;
      phase: 'taken' | 'running' | 'stopping' | 'ended';
      recordingId: number | null;
      cause: StopCause | null;
      /** the cause as a sentence */
      reason: string | null;
      tune?: TuneProgress;
      guide?: GuideProgress;
    }
  | { kind: 'seen'; tag: string; seen: MachineSeen }
  | { kind: 'refused'; tag: string; code: RefusalCode; sentence: string }
  | { kind: 'pong'; sent: number };

/** The server closes the socket of a device that was put out with this code. */
export const putOutCode = 4401;
