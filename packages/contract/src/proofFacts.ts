import { Type, type Static, type TProperties } from '@sinclair/typebox';
import { literals, orNull } from './literals';
import { Count, Id, Paragraph, Text } from './text';

const figure = Type.Number({ minimum: -1e9, maximum: 1e9 });
const strict = <const K extends string, P extends TProperties>(kind: K, figures: P) =>
  Type.Object({ kind: Type.Literal(kind), ...figures }, { additionalProperties: false });

/** Figures of a run that were looked ahead and measured. */
export const comparedQuantities = ['peak bus', 'peak current', 'stop time'] as const;
const Compared = Type.Object(
  {
    quantity: literals(comparedQuantities),
    predicted: figure,
    /** how far it may be off, in the same unit; null where none was measured */
    band: orNull(figure),
    measured: figure,
  },
  { additionalProperties: false },
);

/** What the drive did at a position of its selector. */
const AtPosition = Type.Union([
  Type.Object({ did: literals(['stood', 'slept']) }, { additionalProperties: false }),
  Type.Object({ did: Type.Literal('ran'), /** Hz */ frequency: figure }, { additionalProperties: false }),
]);

/** How a guard, or something the drive does by itself, acted. */
const GuardAct = Type.Union([
  Type.Object({ did: Type.Literal('tripped'), /** the family's own code */ code: Count }, { additionalProperties: false }),
  Type.Object({ did: literals(['rested', 'warned', 'turned']) }, { additionalProperties: false }),
  Type.Object({ did: Type.Literal('ran'), /** s */ seconds: figure }, { additionalProperties: false }),
]);

const pumps = Type.Array(Type.Integer({ minimum: 1, maximum: 8 }), { maxItems: 8 });

/** What a test found, as figures and codes, by the kind of test; what it says of them is made when it is shown. */
export const proofFacts = {
  /** looked at or tried by a person; its outcome says what came of it */
  look: strict('look', {}),
  /** MΩ read at °C, what that makes at 40 °C, and MΩ that are wanted there */
  insulation: strict('insulation', { reading: figure, temperature: figure, at40: figure, least: figure }),
  /** V between L1–L2, L2–L3, L3–L1, against those of the supply */
  lineVoltages: strict('lineVoltages', { lines: Type.Array(figure, { minItems: 3, maxItems: 3 }), nominal: figure }),
  /** which way it turned, at up to so many Hz; null where no recording was kept */
  direction: strict('direction', { right: Type.Boolean(), frequency: figure, recording: orNull(Id) }),
  /** constants of the motor by role, in the setting's own unit */
  tune: strict('tune', {
    constants: Type.Array(
      Type.Object(
        { role: Text(40), value: figure, unit: Text(12), decimals: Type.Integer({ minimum: 0, maximum: 6 }) },
        { additionalProperties: false },
      ),
      { maxItems: 12 },
    ),
  }),
  /** ran up to so many Hz and down without a trip */
  run: strict('run', { frequency: figure, recording: Id, compared: Type.Array(Compared, { maxItems: 12 }) }),
  /** command over the link was given back */
  givenBack: strict('givenBack', {}),
  /** inputs that answered what hangs there, and those nobody could try */
  wires: strict('wires', {
    right: Type.Array(Type.Object({ terminal: Text(12), device: Paragraph(60) }, { additionalProperties: false }), { maxItems: 40 }),
    untried: Type.Array(Type.Object({ terminal: Text(12), device: Paragraph(60) }, { additionalProperties: false }), { maxItems: 40 }),
  }),
  /** what a gauge read and what the drive saw at two points, in the sensor's unit; % of the range they may differ */
  gauges: strict('gauges', {
    unit: Text(12),
    decimals: Type.Integer({ minimum: 0, maximum: 6 }),
    points: Type.Array(Type.Object({ gauge: figure, seen: figure }, { additionalProperties: false }), { maxItems: 4 }),
    allowed: figure,
  }),
  /** a guard, or what the drive does by itself, by the name of its test */
  guard: strict('guard', { guard: Text(24), act: GuardAct }),
  /** s it slept, and % of the range the feedback fell */
  sleep: strict('sleep', { seconds: figure, fell: figure }),
  /** Hz a preset ran at */
  preset: strict('preset', { frequency: figure }),
  /** what it did at each position that was tried */
  selector: strict('selector', { hand: Type.Optional(AtPosition), off: Type.Optional(AtPosition), auto: Type.Optional(AtPosition) }),
  /** s and the highest Hz of an emergency run, and how many trips it ran on through; null where the drive does not tell */
  emergency: strict('emergency', { seconds: figure, frequency: figure, through: orNull(Count) }),
  /**
   * a loop that was disturbed and held: % of the range the feedback went off at most, % of full speed the output moved, s until it was back; % of the
   * range, least and most while it held, and s it held; what 0 and 100 % are
   */
  holds: strict('holds', {
    ...{ off: figure, output: figure, back: figure, low: figure, high: figure, held: figure },
    range: orNull(
      Type.Object({ low: figure, high: figure, unit: Text(12), decimals: Type.Integer({ minimum: 0, maximum: 6 }) }, { additionalProperties: false }),
    ),
  }),
  staging: strict('staging', { together: pumps, left: pumps }),
  replaced: strict('replaced', { gone: pumps, come: pumps }),
} as const;

export type ProofKind = keyof typeof proofFacts;
export type FactsOf<K extends ProofKind> = Static<(typeof proofFacts)[K]>;
export const ProofFacts = Type.Union(Object.values(proofFacts));
export type ProofFacts = { [K in ProofKind]: FactsOf<K> }[ProofKind];
