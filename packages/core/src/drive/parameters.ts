/**
 * What a setting does, in the trade's words. A drive book gives each family's code for a role; nothing else of the
 * application knows a code.
 */
export interface DriveParameters {
  /** Hz */
  motorFrequency: number;
  /** V line to line */
  motorVoltage: number;
  /** A */
  motorCurrent: number;
  /** rpm */
  motorSpeed: number;
  /** s from 0 to motorFrequency and back */
  accelerationTime: number;
  decelerationTime: number;
  quickStopTime: number;
  /** Hz */
  minimumFrequency: number;
  maximumFrequency: number;
  /** A */
  currentLimit: number;
  /** A */
  overloadCurrent: number;
  /** trip class after IEC 60947-4-1: 5, 10, 20 or 30 */
  overloadClass: number;
  /** 0 self-cooled, 1 forced */
  motorCooling: number;
  /** 0 linear, 1 quadratic */
  voltageShape: number;
  /** share of motorVoltage at 0 Hz */
  startBoost: number;
  /** share of rated slip added at rated torque */
  slipCompensation: number;
  /** 0 ramp, 1 coast */
  stopMode: number;
  /** 0 forbidden, 1 permitted */
  reversePermit: number;
  /** 0 off, 1 the deceleration ramp waits while the bus is high */
  busRampHold: number;
  /** 0 off, 1 on */
  chopper: number;
  /** V */
  chopperLevel: number;
  /** Ω */
  brakeResistance: number;
  /** s without a fresh command over the link before the drive stops on its own */
  linkTimeout: number;
}

export type DriveRole = keyof DriveParameters;

/** One size of a drive family: what its hardware fixes. */
export interface DriveRating {
  /** A continuous */
  current: number;
  /** A at which the output is blocked at once */
  overcurrentTrip: number;
  /** V */
  overvoltageTrip: number;
  undervoltageTrip: number;
  /** F */
  busCapacitance: number;
  /** W lost in the drive with the output off */
  idleLoss: number;
  /** W lost in the inverter for each A of output */
  lossPerAmpere: number;
  /** Ω, smallest brake resistor */
  leastResistance: number;
}

/** What feeds the drive. */
export interface Supply {
  /** V line to line */
  voltage: number;
  /** Hz */
  frequency: number;
  /** H per phase, network and line choke together */
  inductance: number;
}

/** Usual source inductance in H for a short-circuit impedance given as a share of the load's own (3 % with a line choke; common practice). */
export const sourceInductance = (voltage: number, frequency: number, current: number, share = 0.03): number =>
  (share * voltage) / (Math.sqrt(3) * current * 2 * Math.PI * frequency);
