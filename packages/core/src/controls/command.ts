import type { AnalogueSignal, InputJob, Limited, SpeedLimits, SpeedSource, StartSource, TripCause } from '../drive';
import type { RestartSettings, RestartState } from './restarts';

/** Where a start and a speed come from; a drive has one such pair for local and one for remote. */
export interface SourcePair {
  start: StartSource;
  speed: SpeedSource;
}

/** How a signal becomes a speed. */
export interface AnalogueScale {
  signal: AnalogueSignal;
  /** Hz at the ends of the range; a signal that goes both ways gives plus and minus `high` */
  low: number;
  high: number;
  /** share of the range from zero that counts as zero */
  deadBand: number;
}

/** What a drive's settings say about command and speed. Frequencies in Hz. */
export interface CommandSettings {
  /** jobs of the digital inputs in the order of the terminals, while remote and while local is in force */
  jobs: readonly InputJob[];
  localJobs: readonly InputJob[];
  remote: SourcePair;
  local: SourcePair;
  /** see SwitchOver, StartContact, StopKey, HandSpeed, UpDownKeeps, PowerUpStart */
  switchOver: number;
  startContact: number;
  stopKey: number;
  handSpeed: number;
  upDownKeeps: number;
  startAfterPowerUp: number;
  keypadSpeed: number;
  jogSpeed: number;
  /** presets from 1 on; a selection above the last gives 0 Hz */
  presets: readonly number[];
  analogue: AnalogueScale;
  second: AnalogueScale;
  /** see LiveZeroAction */
  onLiveZeroLoss: number;
  externalTripOpenIsHealthy: boolean;
  /** the contact for emergency ventilation asks for it when it opens */
  emergencyOpenAsks: boolean;
  /** Hz per s that up and down contacts move the speed by */
  upDownRate: number;
  limits: SpeedLimits;
  restarts: RestartSettings;
}

/** Everything that speaks to a drive at one moment. */
export interface CommandInputs {
  /** contacts closed, in the order of the terminals */
  closed: readonly boolean[];
  /** shares of the analogue inputs' ranges; below zero where a live zero is missing or the signal goes both ways */
  analogue: number;
  second: number;
  /** keys of the drive's own keypad that are pressed */
  keypad: { start: boolean; stop: boolean };
  /** a controller on the link; not alive once it has been silent for longer than the drive allows */
  link: { alive: boolean; run: boolean; reference: number };
  /** command was taken over the link: everything else is read and does not act */
  borrowed: boolean;
  /** both channels of safe torque off are closed */
  torqueAllowed: boolean;
  trip: TripCause | null;
  /** Hz, signed, where the ramp stands */
  present: number;
}

/** What is remembered from one scan to the next. */
export interface CommandMemory {
  /** a start by a button or key that is held by memory: its direction, 0 when there is none */
  latched: -1 | 0 | 1;
  keyed: 0 | 1;
  /** Hz, last good speed of the signal in force, and of the up and down contacts */
  lastReference: number;
  upDown: number;
  /** a start that is given has to be taken away before it counts */
  mustRelease: boolean;
  /** it was told to run */
  ran: boolean;
  /** null before the first scan */
  mode: CommandMode | null;
  /** who was asked for the start; null before the first scan, or where nobody knows */
  giver: StartGiver | null;
  /** who had the speed; null before the first scan */
  speed: SpeedGiver | null;
  /** null before the first scan: what is closed then was not closed by anybody now */
  closed: readonly boolean[] | null;
  reset: boolean;
  restarts: RestartState;
}

/** Which of a drive's ways of taking command is in force. `off` is a selector between its positions, or one whose contacts contradict. */
export const commandModes = ['remote', 'local', 'hand', 'off'] as const;
export type CommandMode = (typeof commandModes)[number];

/** What a start can come from. */
export const startGivers = ['hand contact', 'auto contact', 'run contact', 'start button', 'jog contact', 'keypad', 'link', 'nothing'] as const;
export type StartGiver = (typeof startGivers)[number];

/** What a speed can come from. */
export const speedGivers = ['keypad', 'analogue', 'second analogue', 'preset', 'process', 'up and down', 'link', 'jog'] as const;
export type SpeedGiver = (typeof speedGivers)[number];

/** What holds a start back, the first to be seen to first. */
export const holdBacks = [
  'safe torque off',
  'tripped',
  'borrowed',
  'selector both',
  'selector off',
  'stop contact',
  'stop key',
  'enable contact',
  'both directions',
  'live zero lost',
  'link lost',
  'not asked',
  'start to be renewed',
  'reverse forbidden',
  'no speed',
  'asleep',
] as const;
export type HoldBack = (typeof holdBacks)[number];

/** A start or speed that is given and not taken, and what it lost to. */
export interface Lost {
  what: 'start' | 'speed';
  from: StartGiver | SpeedGiver;
  /** input it is given at, counted from 0; null when it is none */
  input: number | null;
  to: 'borrowed' | 'hand' | 'selector' | 'source' | 'preset' | 'jog' | 'stop' | 'process';
}

/** One command and one reference, with the reason for both. Frequencies in Hz. */
export interface Resolution {
  mode: CommandMode;
  /** the link has taken command: what follows is what would be in force without it */
  borrowed: boolean;
  /** the pair in force asks for a run */
  asks: boolean;
  /** and nothing holds it back */
  run: boolean;
  start: StartGiver;
  /** input that gives it, counted from 0; null when it is none */
  startInput: number | null;
  speed: SpeedGiver;
  /** the preset it comes from, 1 and up; 0 when none does */
  preset: number;
  /** signed, as asked; null when the process gives it */
  asked: number | null;
  /** signed, after direction, limits and skip bands; null when the process gives it */
  reference: number | null;
  limited: Limited | null;
  secondRamp: boolean;
  secondSetpoint: boolean;
  externalTrip: boolean;
  liveZeroLost: boolean;
  /** null when no flow switch is wired */
  flow: boolean | null;
  /** contacts of their own: smoke, frost, cleaning asked for, and a frost thermostat that has opened */
  emergency: boolean;
  frost: boolean;
  cleanNow: boolean;
  freezeStat: boolean;
  /** the trip is cleared in this scan, by its button or by the drive itself */
  clearsTrip: boolean;
  holds: readonly HoldBack[];
  memory: CommandMemory;
}

/** As a drive wakes: nothing latched, and a start that is given already counts or not as set. */
export const wakingMemory = (mustRelease: boolean, upDown = 0): CommandMemory => ({
  latched: 0,
  keyed: 0,
  lastReference: 0,
  upDown,
  mustRelease,
  ran: false,
  mode: null,
  giver: null,
  speed: null,
  closed: null,
  reset: false,
  restarts: { made: 0, sinceTrip: 0 },
});
