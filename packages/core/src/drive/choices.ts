/** How a drive stops when it is no longer told to run. */
export const StopMode = { ramp: 0, coast: 1, directCurrent: 2, quickStop: 3 } as const;
export type StopMode = (typeof StopMode)[keyof typeof StopMode];

/** What output voltage a drive gives at a frequency. */
export const ControlMethod = { linear: 0, quadratic: 1, sensorlessVector: 2 } as const;
export type ControlMethod = (typeof ControlMethod)[keyof typeof ControlMethod];
/** Where a start begins from. */
export const StartMode = { fromRest: 0, catchSpinning: 1 } as const;
export type StartMode = (typeof StartMode)[keyof typeof StartMode];
/** What carries a motor's heat away. */
export const MotorCooling = { ownFan: 0, forced: 1 } as const;
export type MotorCooling = (typeof MotorCooling)[keyof typeof MotorCooling];
/** What a lost 4 to 20 mA signal does. */
export const LiveZeroAction = { ignore: 0, holdLast: 1, stop: 2, trip: 3 } as const;
export type LiveZeroAction = (typeof LiveZeroAction)[keyof typeof LiveZeroAction];
/** What a link that has fallen silent does to a motor it held. */
export const LinkLossAction = { ramp: 0, coast: 1, trip: 2 } as const;
export type LinkLossAction = (typeof LinkLossAction)[keyof typeof LinkLossAction];
/** Which way the two outputs of the phase order lie. */
export const PhaseOrder = { asWired: 0, changedOver: 1 } as const;
export type PhaseOrder = (typeof PhaseOrder)[keyof typeof PhaseOrder];
/** What may start a drive. */
export const StartSource = { terminals: 0, keypad: 1, link: 2 } as const;
export type StartSource = (typeof StartSource)[keyof typeof StartSource];
/** Where a drive takes its speed from in automatic. */
export const SpeedSource = { analogue: 0, keypad: 1, link: 2, presets: 3, process: 4, upDown: 5, secondAnalogue: 6 } as const;
export type SpeedSource = (typeof SpeedSource)[keyof typeof SpeedSource];
/** How an analogue input is wired. */
export const AnalogueSignal = { liveZero: 0, zeroTo20: 1, volts: 2, bothWays: 3 } as const;
export type AnalogueSignal = (typeof AnalogueSignal)[keyof typeof AnalogueSignal];
/** What an analogue output shows. */
export const AnalogueOutJob = { nothing: 0, outputFrequency: 1, motorCurrent: 2 } as const;
export type AnalogueOutJob = (typeof AnalogueOutJob)[keyof typeof AnalogueOutJob];
/** Whether a run contact acts while it is closed, or only from the moment it closes on. */
export const StartContact = { level: 0, edge: 1 } as const;
export type StartContact = (typeof StartContact)[keyof typeof StartContact];
/** What a change from local to remote, or back, does to a running motor. */
export const SwitchOver = { carriesOn: 0, stops: 1 } as const;
export type SwitchOver = (typeof SwitchOver)[keyof typeof SwitchOver];
/** Whether the stop key of a drive's keypad stops whatever has command. */
export const StopKey = { keypadStart: 0, always: 1 } as const;
export type StopKey = (typeof StopKey)[keyof typeof StopKey];
/** What closes a digital input: 24 V, or 0 V. */
export const InputSense = { pnp: 0, npn: 1 } as const;
export type InputSense = (typeof InputSense)[keyof typeof InputSense];
/** Where hand takes its speed from. */
export const HandSpeed = { keypad: 0, secondAnalogue: 1 } as const;
export type HandSpeed = (typeof HandSpeed)[keyof typeof HandSpeed];
/** Whether a speed set by up and down contacts is kept over a stop. */
export const UpDownKeeps = { forgets: 0, keeps: 1 } as const;
export type UpDownKeeps = (typeof UpDownKeeps)[keyof typeof UpDownKeeps];
/** Which state of the external trip contact is the healthy one. */
export const HealthyContact = { closed: 0, open: 1 } as const;
export type HealthyContact = (typeof HealthyContact)[keyof typeof HealthyContact];
/** Which way the output goes when the feedback is too low: up, or down. */
export const ProcessAction = { direct: 0, reverse: 1 } as const;
export type ProcessAction = (typeof ProcessAction)[keyof typeof ProcessAction];
/** Where a loop takes its set point from: what is stored, the second analogue input, or a link whose highest speed is 100 %. */
export const SetpointSource = { stored: 0, secondAnalogue: 1, link: 2 } as const;
export type SetpointSource = (typeof SetpointSource)[keyof typeof SetpointSource];
/** What a start that is already given does when power comes back. */
export const PowerUpStart = { needsNew: 0, follows: 1 } as const;
export type PowerUpStart = (typeof PowerUpStart)[keyof typeof PowerUpStart];
/** A feature that is in use or not. */
export const Switch = { off: 0, on: 1 } as const;
export type Switch = (typeof Switch)[keyof typeof Switch];
/** What turns a fixed way only, or either. */
export const ReversePermit = { forbidden: 0, permitted: 1 } as const;
export type ReversePermit = (typeof ReversePermit)[keyof typeof ReversePermit];
/** How the windings of a plate are joined. */
export const WindingConnection = { star: 0, delta: 1 } as const;
/** Whether a drive takes changes of its settings. */
export const SettingsLock = { open: 0, locked: 1 } as const;
export type SettingsLock = (typeof SettingsLock)[keyof typeof SettingsLock];

/** What a guard does when it has waited its delay: stop with a trip, stop and try again after a rest, or only say so. */
export const GuardAction = { trip: 0, rest: 1, warn: 2 } as const;
export type GuardAction = (typeof GuardAction)[keyof typeof GuardAction];
/** What tells a drive that nothing flows. */
export const NoFlowSource = { flowSwitch: 0, load: 1, either: 2 } as const;
export type NoFlowSource = (typeof NoFlowSource)[keyof typeof NoFlowSource];
/** Which position of its contact asks for emergency ventilation. */
export const EmergencySense = { closed: 0, open: 1 } as const;
/** Which trips emergency ventilation runs on through: none, those of process and wiring, or all that do not destroy the drive at once. */
export const EmergencyOverride = { none: 0, process: 1, all: 2 } as const;
export type EmergencyOverride = (typeof EmergencyOverride)[keyof typeof EmergencyOverride];
/** What ends emergency ventilation: its contact going back, or only power off and on. */
export const EmergencyEnds = { contact: 0, powerCycle: 1 } as const;
/** How several pumps are worked: this one alone, contactor pumps beside it, or several drives side by side. */
export const StationKind = { alone: 0, contactors: 1, sideBySide: 2 } as const;
export type StationKind = (typeof StationKind)[keyof typeof StationKind];

/** Jobs an input can have; drive books number and name them as they like. */
export const InputJob = {
  notUsed: 0,
  runForward: 1,
  runReverse: 2,
  startPulse: 3,
  stopOpens: 4,
  hand: 5,
  auto: 6,
  presetBit0: 7,
  presetBit1: 8,
  presetBit2: 9,
  secondRamp: 10,
  externalTrip: 11,
  resetTrip: 12,
  enable: 13,
  flowSwitch: 14,
  direction: 15,
  reversePulse: 16,
  jogForward: 17,
  jogReverse: 18,
  faster: 19,
  slower: 20,
  local: 21,
  presetBit3: 22,
  secondSetpoint: 23,
  /** smoke has been found: emergency ventilation */
  emergency: 24,
  /** a thermostat closes because it freezes */
  frost: 25,
  cleanNow: 26,
  /** a thermostat at a coil opens because it freezes */
  freezeStat: 27,
} as const;
export type InputJob = (typeof InputJob)[keyof typeof InputJob];

/** Jobs a relay or a transistor output can have. */
export const OutputJob = {
  notUsed: 0,
  running: 1,
  ready: 2,
  tripped: 3,
  atSpeed: 4,
  underMinimum: 5,
  holdingBrake: 6,
  aboveThreshold: 7,
  /** contactors of pumps that run across the line beside the drive's own */
  pump2: 8,
  pump3: 9,
  pump4: 10,
  guardWarns: 11,
  emergency: 12,
} as const;
export type OutputJob = (typeof OutputJob)[keyof typeof OutputJob];
