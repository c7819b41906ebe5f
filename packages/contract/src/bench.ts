import { Type, type Static } from '@sinclair/typebox';
import { literals, orNull } from './literals';
import { Driven, sensorUnitNames } from './driven';
import { MachineNew } from './machine';
import { Author } from './people';
import { ByName, Text } from './text';

/** One thing on a machine's panel that a hand can work. */
export const PanelDeviceView = Type.Object(
  {
    id: Type.String(),
    kind: literals(['selector', 'push', 'switch', 'knob', 'emergency stop']),
    label: Type.String(),
    positions: Type.Array(Type.String()),
    value: Type.Number(),
  },
  { additionalProperties: false },
);

/** Something in the plant that can be turned: a valve, a load, the supply. */
export const HandleView = Type.Object(
  {
    id: Type.String(),
    label: Type.String(),
    unit: Type.String(),
    min: Type.Number(),
    max: Type.Number(),
    step: Type.Number(),
    decimals: Type.Integer(),
    value: Type.Number(),
  },
  { additionalProperties: false },
);

export const Trigger = literals(['now', 'next start', 'at speed', 'next stop']);

export const FaultView = Type.Object(
  {
    id: Type.String(),
    name: Type.String(),
    what: Type.String(),
    state: literals(['off', 'armed', 'struck']),
    trigger: orNull(Trigger),
  },
  { additionalProperties: false },
);

const terminal = Text(12, { minLength: 1 });
const unseen = Type.Optional(Type.Boolean({ description: 'whoever looks for it is not told which it is' }));
/** A wire of the panel that does not lie as drawn: two changed over, one cut, one that always has voltage, a contact of the wrong kind or a bad one. */
export const WireFault = Type.Union([
  Type.Object({ kind: Type.Literal('swap'), a: terminal, b: terminal, unseen }, { additionalProperties: false }),
  Type.Object({ kind: literals(['cut', 'bridge', 'invert', 'bounce']), a: terminal, unseen }, { additionalProperties: false }),
]);
export type WireFault = Static<typeof WireFault>;

/** The plant side of one machine, as one could see it standing beside it. The drive's link knows nothing of this. */
export const BenchView = Type.Object(
  {
    tag: Type.String(),
    kind: literals(['pump', 'fan', 'conveyor', 'hoist', 'agitator']),
    /** built from the record; what ships with the bench is not */
    built: Type.Boolean(),
    powered: Type.Boolean(),
    pace: Type.Integer(),
    /** counts the trips since the bench began, so that a new one is noticed */
    trips: Type.Integer(),
    panel: Type.Array(PanelDeviceView),
    handles: Type.Array(HandleView),
    faults: Type.Array(FaultView),
    /** something hidden goes wrong or went wrong; what it was is told once it is over */
    drill: orNull(Type.Object({ on: Type.Boolean(), was: orNull(Type.String()) }, { additionalProperties: false })),
    /** wires that do not lie as drawn, those that nobody was told of left out */
    wireFaults: Type.Array(WireFault),
    /** how many nobody was told of */
    unseenFaults: Type.Integer(),
    /** digital inputs a wire of the panel leads to, with what it leads to */
    wires: Type.Array(
      Type.Object(
        {
          terminal: Type.String(),
          to: Type.String(),
          /** device of the panel; null for a contact of the machine */
          device: orNull(Type.String()),
        },
        { additionalProperties: false },
      ),
    ),
    /** what a person with instruments would read at the machine */
    seen: Type.Object(
      {
        shaftSpeed: Type.Number({ description: 'rpm, signed' }),
        pressure: Type.Number({ description: 'Pa' }),
        flow: Type.Number({ description: 'm³/s, or kg/s off a belt' }),
        level: Type.Number({ description: 'm' }),
        mass: Type.Number({ description: 'kg on a belt' }),
        beltSpeed: Type.Number({ description: 'm/s' }),
        windingTemperature: Type.Number({ description: '°C' }),
        supply: Type.Number({ description: 'V line to line' }),
        signal: Type.Number({ description: 'mA' }),
        brakeOpen: orNull(Type.Boolean()),
        asleep: Type.Boolean(),
        valve: Type.Number({ description: 'share the valve, damper or feed is open' }),
        clogging: Type.Number(),
        sensor: orNull(literals(sensorUnitNames)),
      },
      { additionalProperties: false },
    ),
  },
  { additionalProperties: false },
);
export type BenchView = Static<typeof BenchView>;
export type BenchTrigger = Static<typeof Trigger>;

export const BenchFault = Type.Object(
  { id: Text(40), trigger: Type.Union([Trigger, Type.Null()], { description: 'null takes it back or puts it right' }) },
  { additionalProperties: false },
);

/** A hand at the plant side. Push buttons spring back unless the press is repeated. */
export const BenchAct = Type.Object(
  {
    author: Author,
    panel: Type.Optional(ByName(Type.Number())),
    handles: Type.Optional(ByName(Type.Number())),
    fault: Type.Optional(BenchFault),
    pace: Type.Optional(literals([1, 5, 20])),
    /** hides a fault that strikes once the machine is at speed, or puts it right and tells it */
    drill: Type.Optional(literals(['begin', 'end'])),
    /** at the panel's wires: one laid wrong, one somewhere that nobody is told of, all as drawn, or the panel built anew for the drive's jobs */
    wires: Type.Optional(
      Type.Union([
        Type.Object({ act: Type.Literal('strike'), fault: WireFault }, { additionalProperties: false }),
        Type.Object(
          { act: Type.Literal('strike unseen'), kind: literals(['swap', 'cut', 'bridge', 'invert', 'bounce']) },
          { additionalProperties: false },
        ),
        Type.Object({ act: literals(['put right', 'build anew']) }, { additionalProperties: false }),
      ]),
    ),
  },
  { additionalProperties: false },
);
export type BenchAct = Static<typeof BenchAct>;

/** What a person with instruments reads at a machine of the bench. */
export const BenchReading = Type.Object({ outcome: Type.String() }, { additionalProperties: false });
export type BenchReading = Static<typeof BenchReading>;

const { tag, name, area, bookId, size, region, supply, unitId, plate } = MachineNew.properties;
/** A machine of the record as the bench builds it: a drive fresh from its box, with a motor and a load of the bench's own. */
export const BenchStand = Type.Object(
  { tag, name, area, bookId, size, region, supply, unitId, plate, driven: Driven },
  { additionalProperties: false },
);
export type BenchStand = Static<typeof BenchStand>;
