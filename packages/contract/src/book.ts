import { Type, type Static } from '@sinclair/typebox';
import { literals } from './literals';

/** A figure fixed by the book, or a multiple of something the size fixes. */
export const BookNumber = Type.Union([
  Type.Number(),
  Type.Object({ of: literals(['current', 'power']), times: Type.Number() }, { additionalProperties: false }),
]);

/** A choice of a setting. `means` is the value its role knows it by, where the family numbers its choices its own way. */
export const SettingOption = Type.Object(
  { value: Type.Integer(), label: Type.String(), means: Type.Optional(Type.Integer()) },
  { additionalProperties: false },
);

/** One setting of a drive family. Values are in the unit named; `step` is what the drive can hold and what one register count means. */
export const SettingDefinition = Type.Object(
  {
    code: Type.String({ pattern: '^[0-9a-z]{1,3}(/[0-9]{1,2})?$' }),
    name: Type.String({ minLength: 3 }),
    /** what it does, where the application computes with it */
    role: Type.Optional(Type.String()),
    /** the plate figure it takes, where it takes one; a connection is 0 star, 1 delta */
    plate: Type.Optional(literals(['power', 'voltage', 'frequency', 'current', 'speed', 'powerFactor', 'efficiency', 'connection', 'poles'])),
    unit: Type.String(),
    /** percent of what; percent of rated or maximum values need no word */
    per: Type.Optional(Type.Literal('current')),
    min: BookNumber,
    max: BookNumber,
    step: Type.Number({ exclusiveMinimum: 0 }),
    factory50: BookNumber,
    factory60: BookNumber,
    access: literals(['running', 'stopped', 'read']),
    /** code of another setting and how this one must lie to it */
    depends: Type.Optional(Type.Object({ code: Type.String(), must: literals(['not exceed', 'not be below']) }, { additionalProperties: false })),
    options: Type.Optional(Type.Array(SettingOption, { minItems: 2 })),
    help: Type.String({ minLength: 20 }),
    register: Type.Integer({ minimum: 0, maximum: 65535 }),
  },
  { additionalProperties: false },
);
export type SettingDefinition = Static<typeof SettingDefinition>;

/** What a word's counts are a share or a multiple of: a setting of the drive, or its rated current. */
export const WordBase = literals(['motorFrequency', 'current', 'polePairs']);
export type WordBase = Static<typeof WordBase>;

/** A register of live or command words: value = counts · step · base, in `unit`. */
export const Word = Type.Object(
  {
    register: Type.Integer({ minimum: 0, maximum: 65535 }),
    step: Type.Number(),
    unit: Type.String(),
    signed: Type.Optional(Type.Boolean()),
    per: Type.Optional(WordBase),
  },
  { additionalProperties: false },
);
export type Word = Static<typeof Word>;

export const liveWords = [
  'status',
  'outputFrequency',
  'motorCurrent',
  'busVoltage',
  'motorSpeed',
  'torque',
  'outputVoltage',
  'driveTemperature',
  'tripCode',
  'reference',
  'commandHolder',
  'inputs',
  'analogueInput',
  'motorHeat',
  'power',
  'lastRefusal',
  'unkept',
  'mode',
  'startedBy',
  'speedBy',
  'heldBack',
  'outputs',
  'analogueInput2',
  'setpoint',
  'doing',
  'warns',
  'pumpsOn',
] as const;
export type LiveWord = (typeof liveWords)[number];

/** Words a family may be without: they read as 0. */
const sparable: readonly LiveWord[] = ['analogueInput2', 'setpoint', 'doing', 'warns', 'pumpsOn'];

/** Code of the family for each name of the core, see `startGivers`, `speedGivers` and `commandModes`; of `holdBacks` the bit that tells it. */
const Codes = Type.Record(Type.String(), Type.Integer({ minimum: 0, maximum: 65535 }));

const LiveWords = Type.Object(
  Object.fromEntries(liveWords.map((w) => [w, sparable.includes(w) ? Type.Optional(Word) : Word])) as Record<LiveWord, typeof Word>,
  { additionalProperties: false },
);

/** What a drive keeps of a trip. `trip` is the family's code, `status` its status word, `hours` its hours run, `since` how long it had run, s. */
export const memoryWords = [
  'trip',
  'status',
  'hours',
  'since',
  'outputFrequency',
  'reference',
  'motorCurrent',
  'busVoltage',
  'outputVoltage',
  'torque',
  'driveTemperature',
  'motorHeat',
  'driveHeat',
  'analogueInput',
  'inputs',
] as const;
export type MemoryWord = (typeof memoryWords)[number];
/** Words a family's trip memory may be without. */
const sparableMemory: readonly MemoryWord[] = ['hours', 'since', 'outputVoltage', 'torque', 'motorHeat', 'driveHeat', 'analogueInput'];

/** Channels a drive may keep at full rate for the moment it trips. */
export const traceWords = ['outputFrequency', 'motorCurrent', 'busVoltage', 'torque', 'outputVoltage'] as const;
export type TraceWord = (typeof traceWords)[number];

const wordsBy = <N extends string>(names: readonly N[], may: readonly N[]) =>
  Type.Object(Object.fromEntries(names.map((w) => [w, may.includes(w) ? Type.Optional(Word) : Word])) as Record<N, typeof Word>, {
    additionalProperties: false,
  });

/**
 * Trip memory: `count` records of `stride` registers from `first`, newest first; the register of a word is counted from its record. `trips`
 * counts every trip there was, so that a new one is noticed.
 */
const TripWords = Type.Object(
  {
    first: Type.Integer(),
    stride: Type.Integer(),
    count: Type.Integer({ minimum: 1 }),
    trips: Word,
    words: wordsBy(memoryWords, sparableMemory),
    /** the moments before the newest trip at full rate: `length` says how many samples there are, each of as many registers as there are channels */
    trace: Type.Optional(
      Type.Object(
        {
          first: Type.Integer(),
          length: Word,
          /** s between samples */
          step: Type.Number(),
          channels: Type.Array(Type.Object({ key: literals(traceWords), word: Word }, { additionalProperties: false }), { minItems: 1 }),
        },
        { additionalProperties: false },
      ),
    ),
  },
  { additionalProperties: false },
);
export type TripWords = Static<typeof TripWords>;

/** How a family measures its motor: a word that begins it, and words that tell how it goes. */
const Tune = Type.Object(
  {
    command: Word,
    state: Word,
    progress: Word,
    fault: Word,
    codes: Type.Object({ none: Type.Integer(), standstill: Type.Integer(), rotating: Type.Integer() }, { additionalProperties: false }),
    states: Type.Object(
      { idle: Type.Integer(), busy: Type.Integer(), done: Type.Integer(), failed: Type.Integer() },
      { additionalProperties: false },
    ),
    /** in this order: lead open, loaded, no such motor, stopped, not up to speed */
    faults: Type.Array(Type.Object({ code: Type.Integer(), sentence: Type.String() }, { additionalProperties: false }), { minItems: 5, maxItems: 5 }),
  },
  { additionalProperties: false },
);

/** V: trips of the bus and the supply the size is made for. */
const Levels = Type.Object(
  { overvoltageTrip: Type.Number(), undervoltageTrip: Type.Number(), supplyMin: Type.Number(), supplyMax: Type.Number() },
  { additionalProperties: false },
);

export const DriveBook = Type.Object(
  {
    id: Type.String({ pattern: '^[a-z0-9-]+$' }),
    family: Type.String(),
    edition: Type.Integer({ minimum: 1 }),
    summary: Type.String(),
    groups: Type.Array(Type.Object({ id: Type.String(), name: Type.String() }, { additionalProperties: false }), { minItems: 1 }),
    levels: Levels,
    /** overload over rated current for 60 s, heatsink trip °C, heatsink rise at rated current K */
    duty: Type.Object({ overloadShare: Type.Number(), temperatureTrip: Type.Number(), heatsinkRise: Type.Number() }, { additionalProperties: false }),
    ratings: Type.Array(
      Type.Object(
        {
          size: Type.String(),
          power: Type.Number(),
          current: Type.Number(),
          overcurrentTrip: Type.Number(),
          busCapacitance: Type.Number(),
          idleLoss: Type.Number(),
          leastResistance: Type.Number(),
          /** three-phase when absent */
          input: Type.Optional(literals(['single-phase', 'doubler'])),
          /** where the size differs from its family */
          levels: Type.Optional(Levels),
        },
        { additionalProperties: false, description: 'power kW, currents A, capacitance µF, loss W, resistance Ω' },
      ),
      { minItems: 1 },
    ),
    terminals: Type.Array(
      Type.Object(
        {
          id: Type.String(),
          kind: literals(['power', 'digital in', 'digital out', 'analogue in', 'analogue out', 'relay', 'safety', 'supply']),
          range: Type.String(),
          may: Type.Array(Type.String()),
          /** only sizes fed like this have it */
          input: Type.Optional(literals(['three-phase', 'single-phase', 'doubler'])),
        },
        { additionalProperties: false },
      ),
    ),
    words: Type.Object(
      {
        live: LiveWords,
        command: Type.Object({ control: Word, reference: Word, take: Word, keep: Word }, { additionalProperties: false }),
        /** what to write to `take` to get and to give back command, and to `keep` to store */
        codes: Type.Object({ take: Type.Integer(), give: Type.Integer(), keep: Type.Integer() }, { additionalProperties: false }),
        /** s, first-order smoothing of current, torque and power before they are reported */
        readOutLag: Type.Number(),
        /** absent where the family cannot measure a motor */
        tune: Type.Optional(Tune),
        memory: TripWords,
      },
      { additionalProperties: false },
    ),
    /** the last two where the family does anything by itself: its code for each of `doings`, and the bit of each guard that warns */
    told: Type.Object(
      { start: Codes, speed: Codes, held: Codes, mode: Codes, doing: Type.Optional(Codes), warns: Type.Optional(Codes) },
      { additionalProperties: false },
    ),
    refusals: Type.Array(Type.Object({ code: Type.Integer(), sentence: Type.String() }, { additionalProperties: false })),
    trips: Type.Array(
      Type.Object({ code: Type.Integer(), cause: Type.String(), name: Type.String(), sentence: Type.String() }, { additionalProperties: false }),
    ),
    settings: Type.Array(SettingDefinition, { minItems: 30 }),
  },
  { additionalProperties: false },
);
export type DriveBook = Static<typeof DriveBook>;
