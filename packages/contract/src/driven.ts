import { Type, type Static } from '@sinclair/typebox';
import { literals, orNull } from './literals';
import { limits, type Limit } from './limits';

/** A figure within its limits. */
const within = ({ min, max }: Limit, description: string) => Type.Number({ minimum: min, maximum: max, description });
const kgm2 = within(limits.inertia, 'kg·m² at the motor shaft');

/** Units a process sensor may be ordered in. */
export const sensorUnitNames = ['bar', 'psi', 'kPa', 'Pa', 'inH2O', 'm', 'm³/h', 'gpm', '°C', '°F'] as const;

/** The transmitter of the process, wired to the drive as 4 to 20 mA. */
export const ProcessSensor = Type.Object(
  {
    measures: literals(['pressure', 'level', 'flow', 'temperature']),
    low: Type.Number(),
    high: Type.Number(),
    unit: literals(sensorUnitNames),
  },
  { additionalProperties: false },
);
export type ProcessSensor = Static<typeof ProcessSensor>;

/** What is driven, as far as it is known: the look-ahead's view of the load. */
export const Driven = Type.Union([
  Type.Object(
    {
      kind: Type.Literal('pump'),
      flow: within(limits.pumpFlow, 'm³/h at the rated point'),
      head: within(limits.head, 'm'),
      efficiency: within(limits.efficiency, '%'),
      staticHead: within(limits.staticHead, 'm'),
      setPressure: orNull(Type.Number({ description: 'bar' })),
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
      sensor: orNull(ProcessSensor),
    },
    { additionalProperties: false },
  ),
  Type.Object(
    {
      kind: Type.Literal('fan'),
      flow: within(limits.fanFlow, 'm³/h at the rated point'),
      pressure: within(limits.fanPressure, 'Pa'),
      efficiency: within(limits.efficiency, '%'),
      volume: within(limits.volume, 'm³ of ductwork'),
      inertia: kgm2,
      sensor: orNull(ProcessSensor),
    },
    { additionalProperties: false },
  ),
  Type.Object(
    {
      kind: Type.Literal('conveyor'),
      torqueShare: within(limits.beltTorqueShare, '% of rated torque with its feed at rated speed; below zero the load drives'),
      feed: within(limits.feed, 't/h'),
      beltSpeed: within(limits.beltSpeed, 'm/s at rated speed'),
      length: within(limits.beltLength, 'm'),
      slope: within(limits.slope, '°, upwards'),
      ratio: within(limits.ratio, 'motor turns for one of the drum'),
      inertia: kgm2,
      brakeShare: orNull(within(limits.brakeShare, 'holding brake, % of rated torque')),
    },
    { additionalProperties: false },
  ),
  Type.Object(
    {
      kind: Type.Literal('hoist'),
      lifts: within(limits.lifts, 'kg it is made for'),
      hook: within(limits.hook, 'kg of the hook or bucket itself'),
      hoistSpeed: within(limits.hoistSpeed, 'm/s at rated motor speed'),
      efficiency: within(limits.efficiency, '%, of gear and rope'),
      inertia: kgm2,
      brakeShare: orNull(within(limits.brakeShare, 'holding brake, % of rated torque')),
    },
    { additionalProperties: false },
  ),
  Type.Object(
    { kind: Type.Literal('agitator'), torqueShare: within(limits.torqueShare, '% of rated torque at rated speed'), inertia: kgm2 },
    { additionalProperties: false },
  ),
]);
export type Driven = Static<typeof Driven>;
export const drivenKinds = ['pump', 'fan', 'conveyor', 'hoist', 'agitator'] as const;
export const DrivenKind = literals(drivenKinds);
export type DrivenKind = Driven['kind'];
