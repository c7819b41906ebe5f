import { EmergencyOverride } from './choices';

/** Everything that can trip a drive. */
export const tripCauses = [
  'overvoltage',
  'undervoltage',
  'overcurrent',
  'motorOverload',
  'driveOverload',
  'earthFault',
  'outputPhaseLoss',
  'inputPhaseLoss',
  'driveTemperature',
  'motorTemperature',
  'brakeResistor',
  'stall',
  'overspeed',
  'liveZeroLoss',
  'linkLoss',
  'externalTrip',
  'lowLoad',
  'noFlow',
  'dryRun',
  'highLoad',
  'highPressure',
  'lowPressure',
  'notFilled',
  'blocked',
  'freezeStat',
  'stoDiscrepancy',
  'settingsConflict',
] as const;
export type TripCause = (typeof tripCauses)[number];

/** How a protection acts and how it lets go. Its level is a setting or fixed by the size. */
export interface Protection {
  /** s the condition must last; overloads and temperatures carry their own time in their model */
  delay: number;
  /** what a reset needs: the cause gone, the model cooled down, or power off and on */
  reset: 'cause gone' | 'cooled' | 'power cycle';
  /** whether automatic restarts may clear it */
  autoRestart: boolean;
}

/**
 * Delays and policies of the bench's families. Common practice: what may have damaged something, and what safety tripped, never
 * restarts by itself; what the supply or the process did, may.
 */
export const protections: Record<TripCause, Protection> = {
  overvoltage: { delay: 0, reset: 'cause gone', autoRestart: true },
  undervoltage: { delay: 0.004, reset: 'cause gone', autoRestart: true },
  overcurrent: { delay: 0, reset: 'cause gone', autoRestart: false },
  motorOverload: { delay: 0, reset: 'cooled', autoRestart: true },
  driveOverload: { delay: 0, reset: 'cooled', autoRestart: true },
  earthFault: { delay: 0.005, reset: 'power cycle', autoRestart: false },
  outputPhaseLoss: { delay: 0.5, reset: 'cause gone', autoRestart: false },
  inputPhaseLoss: { delay: 1, reset: 'cause gone', autoRestart: true },
  driveTemperature: { delay: 0.5, reset: 'cooled', autoRestart: true },
  motorTemperature: { delay: 1, reset: 'cooled', autoRestart: false },
  brakeResistor: { delay: 0, reset: 'cooled', autoRestart: false },
  stall: { delay: 0, reset: 'cause gone', autoRestart: false },
  overspeed: { delay: 0.1, reset: 'cause gone', autoRestart: false },
  liveZeroLoss: { delay: 0.5, reset: 'cause gone', autoRestart: true },
  linkLoss: { delay: 0, reset: 'cause gone', autoRestart: false },
  externalTrip: { delay: 0.02, reset: 'cause gone', autoRestart: false },
  lowLoad: { delay: 0, reset: 'cause gone', autoRestart: true },
  noFlow: { delay: 0, reset: 'cause gone', autoRestart: false },
  dryRun: { delay: 0, reset: 'cause gone', autoRestart: false },
  highLoad: { delay: 0, reset: 'cause gone', autoRestart: false },
  highPressure: { delay: 0, reset: 'cause gone', autoRestart: false },
  lowPressure: { delay: 0, reset: 'cause gone', autoRestart: false },
  notFilled: { delay: 0, reset: 'cause gone', autoRestart: false },
  blocked: { delay: 0, reset: 'cause gone', autoRestart: false },
  freezeStat: { delay: 0, reset: 'cause gone', autoRestart: false },
  stoDiscrepancy: { delay: 1, reset: 'power cycle', autoRestart: false },
  settingsConflict: { delay: 0, reset: 'cause gone', autoRestart: false },
};

/** Share of the drive's rated current to earth at which the earth fault acts (common practice). */
export const earthFaultShare = 0.4;

/** Thermistors of a motor switch at this winding temperature, °C (class F; IEC 60034-11 type A, from memory). */
export const thermistorTrip = 145;

/**
 * Ripple of the bus, peak over mean, at which a lost supply phase is taken for certain. A sound bridge stays below 7 %, whatever it carries; with a phase
 * lost this is passed from some six tenths of the drive's power on, and a machine that takes less goes on (common practice: drives notice it by load).
 */
export const ripplePhaseLoss = 0.075;

/** Trips of process and wiring: what they save is the product, the pump or the motor, not lives. */
const ofProcess: readonly TripCause[] = [
  'externalTrip',
  'liveZeroLoss',
  'linkLoss',
  'lowLoad',
  'noFlow',
  'dryRun',
  'highLoad',
  'highPressure',
  'lowPressure',
  'notFilled',
  'blocked',
  'freezeStat',
  'stall',
  'inputPhaseLoss',
  'motorTemperature',
];
/** Trips that save motor and drive from heat and wear, but not from breaking at once. */
const ofHeat: readonly TripCause[] = ['motorOverload', 'driveOverload', 'driveTemperature', 'brakeResistor', 'overspeed', 'outputPhaseLoss'];

/**
 * Whether emergency ventilation runs on through a trip. What breaks the drive at once, overcurrent, earth fault and the ends of its bus, always
 * stops it, and so does everything that has to do with safe torque off. @param overrides see {@link EmergencyOverride}; 0 when it does not run
 */
export const runsThrough = (overrides: number, cause: TripCause): boolean =>
  (overrides >= EmergencyOverride.process && ofProcess.includes(cause)) || (overrides === EmergencyOverride.all && ofHeat.includes(cause));
