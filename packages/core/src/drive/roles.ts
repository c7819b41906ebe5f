import type { DriveParameters } from './parameters';

/** Settings of command, terminals, process and measuring, which the model of motor and load does not need. */
type ControlRole =
  | 'motorPoles'
  | 'motorPowerFactor'
  | 'keypadSpeed'
  | 'onLinkLoss'
  | 'startSource'
  | 'speedSource'
  | 'localStart'
  | 'localSpeed'
  | 'switchOver'
  | 'startContact'
  | 'stopKey'
  | 'handSpeed'
  | 'jogSpeed'
  | 'upDownKeeps'
  | 'startAfterPowerUp'
  | 'externalTripSense'
  | 'analogueSignal'
  | 'analogueFilter'
  | 'analogueLow'
  | 'analogueHigh'
  | 'analogueDeadBand'
  | 'secondSignal'
  | 'secondLow'
  | 'secondHigh'
  | 'thresholdFrequency'
  | 'thresholdHysteresis'
  | 'inputSense'
  | 'setpoint'
  | 'proportionalGain'
  | 'integralTime'
  | 'derivativeTime'
  | 'processAction'
  | 'secondSetpoint'
  | 'setpointSource'
  | 'setpointRamp'
  | 'setpointLow'
  | 'setpointHigh'
  | 'processLow'
  | 'processHigh'
  | 'feedbackGain'
  | 'feedbackOffset'
  | 'straightening'
  | 'sleepFrequency'
  | 'sleepDelay'
  | 'wakeFall'
  | 'wakeDelay'
  | 'hoursRun'
  | 'rotorResistance'
  | 'leakageReactance'
  | 'noLoadCurrent'
  | 'carrier'
  | 'linkAddress'
  | 'settingsLock'
  | `relay ${string}`
  | `analogue out ${string}`
  | `preset${number}`
  | `job ${string}`
  | `local job ${string}`;

/**
 * What a setting does, in the trade's words. A drive book gives each family's code for a role; nothing else of the application knows a code.
 * Figures are in the unit that {@link DriveParameters} names, choices in the numbering of the named choices beside it.
 */
export type SettingRole = keyof DriveParameters | ControlRole;
