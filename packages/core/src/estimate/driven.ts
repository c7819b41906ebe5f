import { gravity } from '../load';
import { usualRotorInertia } from '../motor';
import type { UnitSymbol } from '../units';
import { polesFrom, stampedPower, type StampedPlate } from '../plate';

/** What a process sensor may measure, each in the units it is ordered in. */
export const sensorUnits = {
  pressure: ['bar', 'psi', 'kPa', 'Pa', 'inH2O'],
  level: ['m'],
  flow: ['m³/h', 'gpm'],
  temperature: ['°C', '°F'],
} as const satisfies Record<string, readonly UnitSymbol[]>;
export type Measured = keyof typeof sensorUnits;

/** The transmitter of a process. */
export interface ProcessSensor {
  measures: Measured;
  /** at 4 and at 20 mA, in `unit` */
  low: number;
  high: number;
  unit: (typeof sensorUnits)[Measured][number];
}

export interface DrivenPump {
  kind: 'pump';
  /** m³/h at the rated point */
  flow: number;
  /** m */
  head: number;
  /** % */
  efficiency: number;
  /** m */
  staticHead: number;
  /** bar; null when no pressure is kept */
  setPressure: number | null;
  /** kg·m² at the motor shaft */
  inertia: number;
  /** m², m³/h into it, m of water above the level where it draws air; null when it draws from something that does not run empty */
  sump: { area: number; inflow: number; depth: number } | null;
  sensor: ProcessSensor | null;
}

export interface DrivenFan {
  kind: 'fan';
  /** m³/h at the rated point */
  flow: number;
  /** Pa */
  pressure: number;
  /** % */
  efficiency: number;
  /** m³ of ductwork */
  volume: number;
  /** kg·m² at the motor shaft */
  inertia: number;
  sensor: ProcessSensor | null;
}

export interface DrivenConveyor {
  kind: 'conveyor';
  /** % of rated torque with its feed at rated speed */
  torqueShare: number;
  /** t/h */
  feed: number;
  /** m/s at rated speed */
  beltSpeed: number;
  /** m */
  length: number;
  /** °, upwards */
  slope: number;
  /** motor turns for one of the drum */
  ratio: number;
  /** kg·m² at the motor shaft */
  inertia: number;
  /** holding brake, % of rated torque; null when none is fitted */
  brakeShare: number | null;
}

export interface DrivenHoist {
  kind: 'hoist';
  /** kg it is made for, and kg of the hook or bucket itself */
  lifts: number;
  hook: number;
  /** m/s at rated motor speed */
  hoistSpeed: number;
  /** %, of gear and rope */
  efficiency: number;
  /** kg·m² at the motor shaft */
  inertia: number;
  /** holding brake, % of rated torque; null when none is fitted */
  brakeShare: number | null;
}

export interface DrivenAgitator {
  kind: 'agitator';
  /** % of rated torque at rated speed */
  torqueShare: number;
  /** kg·m² at the motor shaft */
  inertia: number;
}

/** What is driven, as far as it is known, in the units of its own plate. */
export type Driven = DrivenPump | DrivenFan | DrivenConveyor | DrivenHoist | DrivenAgitator;
export type DrivenKind = Driven['kind'];

/** Share of its motor's power a machine is usually sized to take (common practice: the next motor size above the need). */
const usualShare = 0.85;
const usualEfficiency = 0.65;
const water = 998 * 9.81;

/**
 * A driven machine of a kind as nothing but its motor suggests: an estimate until its own plate is read. Head, pressure and efficiency
 * are middling figures of small plant (common practice), and the flow or the weight is what then takes the motor's power. Of inertia a pump, belt or
 * agitator is given as much as the rotor, a fan the most IEC 60034-12 expects a motor to start, 0.04 P^0.9 p^2.5 kg·m² with P in kW and
 * p pole pairs (from memory).
 */
export function drivenFromMotor(kind: DrivenKind, stamped: StampedPlate): Driven {
  const power = stampedPower(stamped);
  const poles = polesFrom(stamped.frequency, stamped.speed) ?? 4;
  const rotor = usualRotorInertia(power, poles);
  const round = (x: number) => Number(x.toPrecision(2));
  const shaft = usualShare * power;
  switch (kind) {
    case 'pump': {
      const head = 30;
      return {
        kind,
        flow: round((3600 * shaft * usualEfficiency) / (water * head)),
        head,
        efficiency: 100 * usualEfficiency,
        staticHead: 5,
        setPressure: null,
        inertia: round(rotor),
        sump: null,
        sensor: null,
      };
    }
    case 'fan': {
      const pressure = 1000;
      return {
        kind,
        flow: round((3600 * shaft * usualEfficiency) / pressure),
        pressure,
        efficiency: 100 * usualEfficiency,
        volume: 10,
        inertia: round(0.04 * (power / 1000) ** 0.9 * (poles / 2) ** 2.5),
        sensor: null,
      };
    }
    case 'conveyor':
      return { kind, torqueShare: 70, feed: 10, beltSpeed: 1, length: 10, slope: 0, ratio: 25, inertia: round(rotor), brakeShare: null };
    case 'hoist': {
      const hoistSpeed = 0.1;
      const gear = 0.8;
      const hung = (shaft * gear) / (gravity * hoistSpeed);
      return {
        ...{ kind, hoistSpeed, efficiency: 100 * gear, inertia: round(rotor), brakeShare: null },
        lifts: round(0.95 * hung),
        hook: round(0.05 * hung),
      };
    }
    case 'agitator':
      return { kind, torqueShare: 70, inertia: round(rotor) };
  }
}
