import type { Driven, DrivenKind } from '@yare/contract';
import { polesFrom, stampedPower, usualRotorInertia, type StampedPlate } from '@yare/core';

export const kindWords: Readonly<Record<DrivenKind, string>> = { pump: 'Pump', fan: 'Fan', conveyor: 'Conveyor', agitator: 'Agitator' };

/** A figure of a driven machine as it is asked for. */
export interface DrivenField {
  key: string;
  label: string;
  second: string;
  unit: string;
  min: number;
  max: number;
  decimals: number;
  /** may be missing, which means that there is none */
  optional?: true;
}

const inertia: DrivenField = { key: 'inertia', label: 'Inertia', second: 'at the motor shaft', unit: 'kg·m²', min: 0, max: 10000, decimals: 3 };
const efficiency: DrivenField = { key: 'efficiency', label: 'Efficiency', second: 'at the rated point', unit: '%', min: 1, max: 100, decimals: 0 };
const torqueShare: DrivenField = {
  key: 'torqueShare',
  label: 'Torque',
  second: 'of the motor’s rated torque, at rated speed',
  unit: '%',
  min: 0,
  max: 300,
  decimals: 0,
};

/** What is asked of each kind of machine, in the order of its own plate. */
export const drivenFields: Readonly<Record<DrivenKind, readonly DrivenField[]>> = {
  pump: [
    { key: 'flow', label: 'Rated flow', second: 'on the pump’s plate', unit: 'm³/h', min: 0.01, max: 100000, decimals: 1 },
    { key: 'head', label: 'Rated head', second: 'at that flow', unit: 'm', min: 0.1, max: 5000, decimals: 1 },
    { ...efficiency, second: 'of the pump at that flow' },
    { key: 'staticHead', label: 'Static head', second: 'lifted before anything flows', unit: 'm', min: 0, max: 5000, decimals: 1 },
    inertia,
  ],
  fan: [
    { key: 'flow', label: 'Rated flow', second: 'on the fan’s plate', unit: 'm³/h', min: 1, max: 1e6, decimals: 0 },
    { key: 'pressure', label: 'Rated pressure', second: 'at that flow', unit: 'Pa', min: 1, max: 100000, decimals: 0 },
    { ...efficiency, second: 'of the fan at that flow' },
    { key: 'volume', label: 'Air in the ducts', second: 'that is pressed and let go', unit: 'm³', min: 0.1, max: 100000, decimals: 1 },
    inertia,
  ],
  conveyor: [
    { ...torqueShare, second: 'of the motor’s, with its feed at rated speed' },
    { key: 'feed', label: 'Feed', second: 'at rated speed', unit: 't/h', min: 0, max: 100000, decimals: 1 },
    { key: 'beltSpeed', label: 'Belt speed', second: 'at rated motor speed', unit: 'm/s', min: 0.01, max: 20, decimals: 2 },
    { key: 'length', label: 'Length', second: 'from feed to drop', unit: 'm', min: 0.5, max: 10000, decimals: 1 },
    { key: 'slope', label: 'Slope', second: 'upwards; downwards below zero', unit: '°', min: -45, max: 45, decimals: 0 },
    { key: 'ratio', label: 'Gear', second: 'motor turns for one of the drum', unit: ': 1', min: 0.5, max: 1000, decimals: 1 },
    inertia,
    {
      key: 'brakeShare',
      label: 'Holding brake',
      second: 'of rated torque; not given: none fitted',
      unit: '%',
      min: 10,
      max: 500,
      decimals: 0,
      optional: true,
    },
  ],
  agitator: [torqueShare, inertia],
};

/** One of those figures; null where there is none. */
export const drivenFigure = (driven: Driven, key: string): number | null => (driven as unknown as Record<string, number | null>)[key] ?? null;

/** Share of its motor's power a machine is usually sized to take (common practice: the next motor size above the need). */
const usualShare = 0.85;
const usualEfficiency = 0.65;
const water = 998 * 9.81;

/**
 * A driven machine of a kind as nothing but its motor suggests: an estimate until its own plate is read. Head, pressure and efficiency
 * are middling figures of small plant (common practice), and the flow is what then takes the motor's power. Of inertia a pump, belt or
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
    case 'agitator':
      return { kind, torqueShare: 70, inertia: round(rotor) };
  }
}
