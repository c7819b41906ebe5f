/** What the model of motor, drive and load needs of a drive's settings, in the units of their roles. */
export interface DriveParameters {
  /** Hz */
  motorFrequency: number;
  /** V line to line */
  motorVoltage: number;
  /** A */
  motorCurrent: number;
  /** rpm */
  motorSpeed: number;
  /** W at the shaft; 0 when the drive was not told */
  motorPower: number;
  /** Ω per phase as the drive has it; 0 when it was never measured */
  statorResistance: number;
  /** s from 0 to motorFrequency and back */
  accelerationTime: number;
  decelerationTime: number;
  secondAccelerationTime: number;
  secondDecelerationTime: number;
  /** Hz above which the second ramps act; 0 leaves the choice to an input */
  rampChangeOver: number;
  /** share of each ramp that is rounded; the ramp's time stays */
  sShare: number;
  quickStopTime: number;
  /** Hz */
  minimumFrequency: number;
  maximumFrequency: number;
  /** Hz, middle and whole width; width 0 is no band */
  skipCentre: number;
  skipWidth: number;
  skipCentre2: number;
  skipWidth2: number;
  /** A */
  currentLimit: number;
  /** share of rated torque that sensorless vector control gives at most */
  torqueLimit: number;
  /** A */
  overloadCurrent: number;
  /** trip class after IEC 60947-4-1: 5, 10, 20 or 30 */
  overloadClass: number;
  /** see MotorCooling */
  motorCooling: number;
  /** see ControlMethod */
  controlMethod: number;
  /** share of motorVoltage at 0 Hz */
  startBoost: number;
  /** share of rated slip added at rated torque */
  slipCompensation: number;
  /** see StartMode */
  startMode: number;
  /** see StopMode */
  stopMode: number;
  /** share of motorCurrent as direct current, and for how long, s; with stop by ramp it holds the shaft at the end */
  dcCurrent: number;
  dcTime: number;
  /** see ReversePermit */
  reversePermit: number;
  /** see PhaseOrder */
  phaseOrder: number;
  /** 1 the deceleration ramp waits while the bus is high */
  busRampHold: number;
  chopper: number;
  /** V */
  chopperLevel: number;
  /** Ω */
  brakeResistance: number;
  /** W the resistor carries for ever */
  resistorPower: number;
  /** 1 when a relay of the drive works a holding brake */
  holdingBrake: number;
  /** Hz at which the brake is told to open and to close */
  brakeFrequency: number;
  /** s the output waits after either */
  brakeOpenDelay: number;
  brakeCloseDelay: number;
  /** s without a fresh command over the link before the drive stops on its own */
  linkTimeout: number;
  /** share of maximumFrequency at which overspeed trips */
  overspeedLevel: number;
  /** 1 trips on a lost phase of supply or motor */
  phaseLoss: number;
  earthFault: number;
  /** see LiveZeroAction */
  liveZeroLoss: number;
  /** s at the current limit without turning; 0 never */
  stallTime: number;
  /** 1 when the motor's thermistors are wired */
  motorSensor: number;
  autoRestarts: number;
  /** s */
  restartInterval: number;
}

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
  /** V of a phase, RMS, that dead time and devices take from what is asked, in step with the current; absent: nothing */
  inverterDrop?: number;
  /** Ω, smallest brake resistor */
  leastResistance: number;
  /** °C of the heatsink at which the drive trips */
  temperatureTrip: number;
  /** K the heatsink rises at rated current */
  heatsinkRise: number;
  /** share of rated current carried for 60 s: 1.1 normal duty, 1.5 heavy duty */
  overloadShare: number;
}

/** What feeds the drive. */
export interface Supply {
  /** V line to line */
  voltage: number;
  /** Hz */
  frequency: number;
  /** H per phase, network and line choke together */
  inductance: number;
  /** how the bus is fed; three-phase when absent. A doubler charges each half of the bus on one half-wave */
  rectifier?: 'three-phase' | 'single-phase' | 'doubler';
}

/** How a size is fed where it stands: one made for three phases works as a single-phase bridge on one. @param phases of the supply; unknown is three */
export const rectifierOn = (made: Supply['rectifier'], phases: number | undefined): Supply['rectifier'] =>
  phases === 1 && (made ?? 'three-phase') === 'three-phase' ? 'single-phase' : made;

/** Usual source inductance in H for a short-circuit impedance given as a share of the load's own (3 % with a line choke; common practice). */
export const sourceInductance = (voltage: number, frequency: number, current: number, share = 0.03): number =>
  (share * voltage) / (Math.sqrt(3) * current * 2 * Math.PI * frequency);

/** What holds a reference within bounds: which way it may turn, least and most, and the bands to keep out of. */
export type SpeedLimits = Pick<
  DriveParameters,
  'reversePermit' | 'minimumFrequency' | 'maximumFrequency' | 'skipCentre' | 'skipWidth' | 'skipCentre2' | 'skipWidth2'
>;
