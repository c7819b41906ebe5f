import type { Plate, StampedPlate } from './plate';

/** One way to join the windings of a dual-voltage motor. */
export interface WindingUse {
  connection: 'star' | 'delta' | 'parallel' | 'series' | 'parallel star' | 'series star';
  /** V line to line */
  voltage: number;
  /** A */
  current: number;
}

/** Star and delta of the same six leads: √3 in volts and, the other way, in amperes (any textbook on electrical machines). */
export function starAndDelta(stamped: WindingUse): WindingUse {
  const root = Math.sqrt(3);
  return stamped.connection === 'delta'
    ? { connection: 'star', voltage: stamped.voltage * root, current: stamped.current / root }
    : { connection: 'delta', voltage: stamped.voltage / root, current: stamped.current * root };
}

/** Series and parallel halves of nine leads: 2 in volts and, the other way, in amperes (NEMA MG 1). */
export const seriesAndParallel = (stamped: WindingUse): WindingUse =>
  stamped.connection.startsWith('series')
    ? { connection: 'parallel', voltage: stamped.voltage / 2, current: stamped.current * 2 }
    : { connection: 'series', voltage: stamped.voltage * 2, current: stamped.current / 2 };

/**
 * A stamped motor joined the other way, as plates are stamped: volts to the nearest 5, amperes to three figures. Null when its leads allow
 * no other.
 */
export function otherConnection(
  plate: StampedPlate,
): (Pick<StampedPlate, 'voltage' | 'current'> & Partial<Pick<StampedPlate, 'connection' | 'joined'>>) | null {
  const stamp = (use: WindingUse) => ({ voltage: Math.round(use.voltage / 5) * 5, current: Number(use.current.toPrecision(3)) });
  if (plate.leads === 6) {
    const other = starAndDelta({ connection: plate.connection, voltage: plate.voltage, current: plate.current });
    return { connection: plate.connection === 'star' ? 'delta' : 'star', ...stamp(other) };
  }
  if (plate.leads === 9) {
    const joined = plate.joined ?? 'series';
    const other = seriesAndParallel({ connection: joined, voltage: plate.voltage, current: plate.current });
    return { joined: joined === 'series' ? 'parallel' : 'series', ...stamp(other) };
  }
  return null;
}

/** A delta winding run on to √3 of its frequency and volts at rated flux: the "87 Hz" use of a 50 Hz motor. */
export interface RaisedBase {
  /** Hz */
  frequency: number;
  /** V line to line the drive must give at that frequency */
  voltage: number;
  /** W at the same torque */
  power: number;
  /** rpm, at the rated slip speed */
  speed: number;
  /** A, as at the lower voltage */
  current: number;
}

/** @param plate the delta figures, e.g. 230 V of a 230/400 V motor */
export function raisedBase(plate: Plate): RaisedBase {
  const root = Math.sqrt(3);
  const slipSpeed = (120 * plate.frequency) / plate.poles - plate.speed;
  const frequency = plate.frequency * root;
  const speed = (120 * frequency) / plate.poles - slipSpeed;
  return { frequency, voltage: plate.voltage * root, power: (plate.power * speed) / plate.speed, speed, current: plate.current };
}

/** Whether a plate may be run so: in delta, for a supply of about √3 of its volts. */
export const mayBeRaised = (plate: Pick<StampedPlate, 'connection' | 'voltage'>, supplyVoltage: number): boolean =>
  plate.connection === 'delta' && plate.voltage * Math.sqrt(3) <= 1.05 * supplyVoltage && plate.voltage * Math.sqrt(3) >= 0.85 * supplyVoltage;

/**
 * rpm up to which a standard cage motor may turn for ever (IEC 60034-1, maximum safe operating speeds of motors up to 1000 V, from memory).
 * @param power W
 */
export function safeSpeed(power: number, poles: number): number {
  const size = power <= 11_000 ? 0 : power <= 45_000 ? 1 : 2;
  const speeds = poles <= 2 ? [5200, 4500, 3600] : poles === 4 ? [3600, 2700, 2300] : [2400, 2400, 1800];
  return speeds[size] ?? 1800;
}

/** Hz from which the supply cannot keep up rated flux: f_rated · U_supply / U_rated. Above it the field weakens. */
export const fieldWeakeningOnset = (ratedFrequency: number, ratedVoltage: number, supplyVoltage: number): number =>
  (ratedFrequency * supplyVoltage) / ratedVoltage;
