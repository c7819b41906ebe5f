import {
  AnalogueOutJob,
  AnalogueSignal,
  ControlMethod,
  EmergencyEnds,
  EmergencyOverride,
  EmergencySense,
  GuardAction,
  HandSpeed,
  HealthyContact,
  InputJob,
  InputSense,
  LinkLossAction,
  LiveZeroAction,
  MotorCooling,
  NoFlowSource,
  OutputJob,
  PhaseOrder,
  PowerUpStart,
  ProcessAction,
  ReversePermit,
  SetpointSource,
  SettingsLock,
  SpeedSource,
  StartContact,
  StartMode,
  StartSource,
  StationKind,
  StopKey,
  StopMode,
  Switch,
  SwitchOver,
  UpDownKeeps,
} from './choices';
import type { DriveParameters } from './parameters';

/** Units roles have: of SI, shares of one, and what a plate or a keypad states. */
export type RoleUnit = 'Hz' | 's' | 'A' | 'V' | 'W' | 'Ω' | 'rpm' | 'kHz' | 'h' | 'min' | 'share' | 'number';

/** A family that lacks the setting is no family of this application. */
const required = Symbol('required');
/** A family that lacks the setting says nothing, and nothing stands in for it. */
const unsaid = null;

type Absent<V> = V | typeof required | typeof unsaid;

/** What a setting does: its trade name, its unit or its choices, and what a family without it does. */
export interface FigureRole<A extends Absent<number> = Absent<number>> {
  kind: 'figure';
  name: string;
  unit: RoleUnit;
  absent: A;
}
export interface ChoiceRole<C extends number = number, A extends Absent<C> = Absent<C>> {
  kind: 'choice' | 'switch';
  name: string;
  /** by the names the core gives them */
  choices: Readonly<Record<string, C>>;
  absent: A;
}
export type RoleEntry = FigureRole | ChoiceRole;

const figure = <const A extends Absent<number>>(name: string, unit: RoleUnit, absent: A): FigureRole<A> => ({ kind: 'figure', name, unit, absent });
const choice = <C extends number, const A extends Absent<C>>(name: string, choices: Readonly<Record<string, C>>, absent: A): ChoiceRole<C, A> => ({
  ...{ kind: 'choice', name, choices, absent },
});
/** A feature in use or not; a family that does not know it has it off. */
const feature = (name: string): ChoiceRole<Switch, typeof Switch.off> => ({ ...{ kind: 'switch', name, choices: Switch, absent: Switch.off } });

/** What no figure of a drive reaches: a limit that is not there. */
const beyond = 1e6;

/** What the model of motor, drive and load needs. */
const model = {
  motorFrequency: figure('Motor rated frequency', 'Hz', required),
  motorVoltage: figure('Motor rated voltage', 'V', required),
  motorCurrent: figure('Motor rated current', 'A', required),
  motorSpeed: figure('Motor rated speed', 'rpm', required),
  motorPower: figure('Motor rated power', 'W', 0),
  statorResistance: figure('Stator resistance', 'Ω', 0),
  accelerationTime: figure('Acceleration time', 's', required),
  decelerationTime: figure('Deceleration time', 's', required),
  secondAccelerationTime: figure('Second acceleration time', 's', required),
  secondDecelerationTime: figure('Second deceleration time', 's', required),
  rampChangeOver: figure('Ramp change-over frequency', 'Hz', 0),
  sShare: figure('S share of ramps', 'share', 0),
  quickStopTime: figure('Quick stop time', 's', required),
  minimumFrequency: figure('Minimum frequency', 'Hz', required),
  maximumFrequency: figure('Maximum frequency', 'Hz', required),
  skipCentre: figure('Skip band, middle', 'Hz', 0),
  skipWidth: figure('Skip band, width', 'Hz', 0),
  skipCentre2: figure('Second skip band, middle', 'Hz', 0),
  skipWidth2: figure('Second skip band, width', 'Hz', 0),
  currentLimit: figure('Current limit', 'A', required),
  torqueLimit: figure('Torque limit', 'share', 2),
  overloadCurrent: figure('Motor overload current', 'A', required),
  overloadClass: figure('Motor overload class', 'number', required),
  motorCooling: choice('Motor cooling', MotorCooling, MotorCooling.ownFan),
  controlMethod: choice('Control method', ControlMethod, ControlMethod.linear),
  startBoost: figure('Starting boost', 'share', required),
  slipCompensation: figure('Slip compensation', 'share', 0),
  startMode: choice('Start into a turning load', StartMode, StartMode.fromRest),
  stopMode: choice('Way of stopping', StopMode, required),
  dcCurrent: figure('DC injection current', 'share', 0),
  dcTime: figure('DC injection time', 's', 0),
  reversePermit: choice('Reverse', ReversePermit, required),
  phaseOrder: choice('Phase order of the output', PhaseOrder, PhaseOrder.asWired),
  busRampHold: feature('Ramp hold on a high DC bus'),
  chopper: feature('Brake chopper'),
  chopperLevel: figure('Chopper level', 'V', beyond),
  brakeResistance: figure('Brake resistance', 'Ω', beyond),
  resistorPower: figure('Brake resistor power', 'W', beyond),
  holdingBrake: feature('Holding brake'),
  brakeFrequency: figure('Brake frequency', 'Hz', 0),
  brakeOpenDelay: figure('Brake opening delay', 's', 0),
  brakeCloseDelay: figure('Brake closing delay', 's', 0),
  linkTimeout: figure('Link time-out', 's', required),
  overspeedLevel: figure('Overspeed level', 'share', 10),
  phaseLoss: feature('Phase loss'),
  earthFault: feature('Earth fault'),
  liveZeroLoss: choice('Lost live zero', LiveZeroAction, LiveZeroAction.ignore),
  stallTime: figure('Stall time', 's', 0),
  motorSensor: feature('Motor thermistors'),
  autoRestarts: figure('Automatic restarts', 'number', 0),
  restartInterval: figure('Restart interval', 's', 30),
} satisfies Record<keyof DriveParameters, RoleEntry>;

const guard = (name: string) => ({
  level: figure(`${name}, level`, 'share', 0),
  delay: figure(`${name}, delay`, 's', 0),
  action: choice(`${name}, action`, GuardAction, GuardAction.trip),
});
const [dryRun, lowLoad, highLoad] = [guard('Dry running'), guard('Low load'), guard('High load')];
const [noFlow, highPressure, lowPressure] = [guard('No flow'), guard('High pressure'), guard('Low pressure')];

/** Command, terminals, process and measuring, which the model of motor and load does not need. */
const controlRoles = {
  motorPoles: figure('Motor poles', 'number', unsaid),
  motorPowerFactor: figure('Motor power factor', 'number', unsaid),
  rotorResistance: figure('Rotor resistance', 'Ω', unsaid),
  leakageReactance: figure('Leakage reactance', 'Ω', unsaid),
  noLoadCurrent: figure('No-load current', 'A', unsaid),
  // common practice for a drive that has no such setting
  carrier: figure('Carrier frequency', 'kHz', 4),
  hoursRun: figure('Hours run', 'h', unsaid),
  linkAddress: figure('Link address', 'number', unsaid),
  settingsLock: choice('Settings lock', SettingsLock, SettingsLock.open),
  onLinkLoss: choice('On a lost link', LinkLossAction, LinkLossAction.ramp),

  startSource: choice('Start source', StartSource, StartSource.terminals),
  speedSource: choice('Speed source', SpeedSource, SpeedSource.analogue),
  // a family that knows no local has one pair
  localStart: choice('Start source in local', StartSource, unsaid),
  localSpeed: choice('Speed source in local', SpeedSource, unsaid),
  switchOver: choice('Local or remote while running', SwitchOver, SwitchOver.carriesOn),
  startContact: choice('Run contact acts', StartContact, StartContact.level),
  stopKey: choice('Stop key', StopKey, StopKey.keypadStart),
  handSpeed: choice('Speed at hand', HandSpeed, HandSpeed.keypad),
  keypadSpeed: figure('Keypad speed', 'Hz', 0),
  jogSpeed: figure('Jog speed', 'Hz', 0),
  upDownKeeps: choice('Speed set by contacts', UpDownKeeps, UpDownKeeps.forgets),
  startAfterPowerUp: choice('Start after power-up', PowerUpStart, PowerUpStart.needsNew),
  externalTripSense: choice('Sense of the external trip', HealthyContact, HealthyContact.closed),
  inputSense: choice('Input logic', InputSense, InputSense.pnp),
  analogueSignal: choice('Analogue input, signal', AnalogueSignal, AnalogueSignal.volts),
  analogueFilter: figure('Analogue input, filter', 's', 0),
  analogueLow: figure('Analogue input at its low end', 'Hz', 0),
  analogueHigh: figure('Analogue input at its high end', 'Hz', unsaid),
  analogueDeadBand: figure('Analogue input, dead band', 'share', 0),
  secondSignal: choice('Second analogue input, signal', AnalogueSignal, AnalogueSignal.volts),
  secondLow: figure('Second analogue input at its low end', 'Hz', 0),
  secondHigh: figure('Second analogue input at its high end', 'Hz', unsaid),
  thresholdFrequency: figure('Output threshold', 'Hz', 0),
  thresholdHysteresis: figure('Output threshold, hysteresis', 'Hz', 0),

  setpoint: figure('Set point', 'share', 0),
  secondSetpoint: figure('Second set point', 'share', unsaid),
  setpointSource: choice('Set point from', SetpointSource, SetpointSource.stored),
  setpointRamp: figure('Set point ramp', 's', 0),
  setpointLow: figure('Lowest set point', 'share', 0),
  setpointHigh: figure('Highest set point', 'share', 1),
  proportionalGain: figure('Proportional gain', 'number', 1),
  integralTime: figure('Integral time', 's', 10),
  derivativeTime: figure('Derivative time', 's', 0),
  processAction: choice('Process action', ProcessAction, ProcessAction.direct),
  processLow: figure('Lowest output of the loop', 'share', 0),
  processHigh: figure('Highest output of the loop', 'share', 1),
  straightening: feature('Gain and offset of the feedback in use'),
  feedbackGain: figure('Feedback gain', 'number', 1),
  feedbackOffset: figure('Feedback offset', 'share', 0),

  sleepFrequency: figure('Sleep frequency', 'Hz', 0),
  sleepDelay: figure('Sleep delay', 's', 20),
  wakeFall: figure('Wake fall', 'share', 0.03),
  wakeDelay: figure('Wake delay', 's', 2),
  sleepBoost: figure('Boost before sleep', 'share', 0),
  sleepBoostTime: figure('Boost time', 's', 0),
  leastRun: figure('Least run', 's', 0),
  leastRest: figure('Least rest', 's', 0),

  dryRunLevel: dryRun.level,
  dryRunDelay: dryRun.delay,
  dryRunAction: dryRun.action,
  lowLoadLevel: lowLoad.level,
  lowLoadDelay: lowLoad.delay,
  lowLoadAction: lowLoad.action,
  highLoadLevel: highLoad.level,
  highLoadDelay: highLoad.delay,
  highLoadAction: highLoad.action,
  highPressureLevel: highPressure.level,
  highPressureDelay: highPressure.delay,
  highPressureAction: highPressure.action,
  lowPressureLevel: lowPressure.level,
  lowPressureDelay: lowPressure.delay,
  lowPressureAction: lowPressure.action,
  noFlowDelay: noFlow.delay,
  noFlowAction: noFlow.action,
  noFlowSource: choice('No flow told by', NoFlowSource, NoFlowSource.flowSwitch),
  shutLoad: figure('Load with the valve shut', 'share', 0),
  loadCurve1: figure('Usual load at a third of full speed', 'share', 0),
  loadCurve2: figure('Usual load at two thirds of full speed', 'share', 0),
  loadCurve3: figure('Usual load at full speed', 'share', 0),
  guardRest: figure('Rest after a guard', 's', 600),
  guardTries: figure('Tries after a guard', 'number', 0),

  fillFrequency: figure('Filling frequency', 'Hz', 0),
  fillLevel: figure('Full from', 'share', 0),
  fillTime: figure('Longest filling', 's', 120),
  runOnTime: figure('Run on', 's', 0),
  runOnFrequency: figure('Run on frequency', 'Hz', 0),
  cleanStrokes: figure('Cleaning strokes', 'number', 0),
  cleanFrequency: figure('Cleaning frequency', 'Hz', 25),
  cleanTime: figure('Cleaning time each way', 's', 5),
  cleanEvery: figure('Clean every', 'h', 0),
  cleanAtStart: feature('Clean at the start'),
  cleanAtLoad: feature('Clean at high load'),
  cleanMost: figure('Most cleanings an hour', 'number', 1),
  frostFrequency: figure('Anti-freeze frequency', 'Hz', 0),
  cleanAir: figure('Pressure with a clean filter', 'share', 0),
  filterLevel: figure('Filter clogged below', 'share', 0),
  filterDelay: figure('Filter clogged, delay', 's', 60),

  emergencySense: choice('Sense of the emergency contact', EmergencySense, EmergencySense.closed),
  emergencyFrequency: figure('Emergency frequency', 'Hz', 0),
  emergencyDirection: feature('Emergency turns backwards'),
  emergencyOverrides: choice('Emergency runs on through', EmergencyOverride, EmergencyOverride.none),
  emergencyEnds: choice('Emergency ends', EmergencyEnds, EmergencyEnds.contact),
  emergencyCount: figure('Emergencies so far', 'number', unsaid),
  emergencyMinutes: figure('Minutes of emergency so far', 'min', unsaid),
  emergencyIgnored: figure('Trips run through so far', 'number', unsaid),

  stationKind: choice('Works with others', StationKind, StationKind.alone),
  stationNumber: figure('Own number in the station', 'number', 1),
  stationPumps: figure('Pumps in all', 'number', 1),
  stationMost: figure('Pumps at once', 'number', 1),
  stageUpFrequency: figure('One pump more above', 'Hz', Infinity),
  stageUpDelay: figure('One pump more after', 's', 30),
  stageDownFrequency: figure('One pump less below', 'Hz', 0),
  stageDownDelay: figure('One pump less after', 's', 30),
  alternateHours: figure('Pumps change after', 'h', 0),
  jockey: figure('Jockey pump', 'number', 0),
} satisfies Record<string, RoleEntry>;

/** Every role that stands once, see {@link SettingRole}. */
export const roles = { ...model, ...controlRoles };

/** A job in local that is the same as in remote. */
export const asInRemote = -1;

/** Roles that each terminal or each preset has one of: the word before its name, and what they say. */
const manyRoles = {
  'local job': choice('Input job in local', { ...InputJob, asInRemote }, asInRemote),
  job: choice('Input job', InputJob, InputJob.notUsed),
  relay: choice('Output job', OutputJob, OutputJob.notUsed),
  'analogue out': choice('Analogue output shows', AnalogueOutJob, AnalogueOutJob.nothing),
  preset: figure('Preset speed', 'Hz', unsaid),
};

/**
 * What a setting does, in the trade's words. A drive book gives each family's code for a role; nothing else of the application knows a code.
 * Figures are in the unit the catalogue names, choices in the numbering of the named choices.
 */
export type SettingRole = keyof typeof roles | `${'job' | 'local job' | 'relay' | 'analogue out'} ${string}` | `preset${number}`;

type Many<R extends SettingRole> = R extends `local job ${string}`
  ? (typeof manyRoles)['local job']
  : R extends `job ${string}`
    ? (typeof manyRoles)['job']
    : R extends `relay ${string}`
      ? (typeof manyRoles)['relay']
      : R extends `analogue out ${string}`
        ? (typeof manyRoles)['analogue out']
        : (typeof manyRoles)['preset'];
type EntryOf<R extends SettingRole> = R extends keyof typeof roles ? (typeof roles)[R] : Many<R>;

type ValueOf<E> = E extends ChoiceRole<infer C, never> ? C : E extends { choices: Readonly<Record<string, infer C extends number>> } ? C : number;
/** What a setting of a role says: one of its choices, or a figure in its unit. */
export type Said<R extends SettingRole> = ValueOf<EntryOf<R>>;
/** What a role says where a family may lack it: null then, and never of what every family has. */
export type SaidIfAny<R extends SettingRole> = EntryOf<R>['absent'] extends typeof required ? Said<R> : Said<R> | null;
/** What a role says, or what is taken where a family lacks it. */
export type RoleValue<R extends SettingRole> = EntryOf<R>['absent'] extends typeof unsaid ? Said<R> | null : Said<R>;

const manyPattern = /^(local job|job|relay|analogue out) (?=.)|^(preset)(?=[1-9]\d*$)/;

/** What the catalogue says of a role. Null for a word that is none. */
export function roleEntry(role: string): RoleEntry | null {
  if (Object.hasOwn(roles, role)) return roles[role as keyof typeof roles];
  const [, terminal, preset] = manyPattern.exec(role) ?? [];
  const many = terminal ?? preset;
  return many === undefined ? null : manyRoles[many as keyof typeof manyRoles];
}

/** Roles of what the model of motor, drive and load needs. */
export const modelRoles = Object.keys(model) as ReadonlyArray<keyof DriveParameters>;
/** Those of them every family must have a setting for. */
export const requiredRoles: ReadonlyArray<keyof DriveParameters> = modelRoles.filter((r) => model[r].absent === required);
/** What a family without the setting does, of the others: the feature is not there. */
export const absentFeature: Partial<DriveParameters> = Object.fromEntries(
  modelRoles.flatMap((r) => {
    const { absent } = model[r];
    return typeof absent === 'number' ? [[r, absent]] : [];
  }),
);
