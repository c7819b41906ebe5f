import {
  AnalogueSignal,
  EmergencySense,
  HandSpeed,
  HealthyContact,
  LiveZeroAction,
  PowerUpStart,
  ProcessAction,
  SetpointSource,
  SpeedSource,
  StartContact,
  StartSource,
  StopKey,
  Switch,
  SwitchOver,
  UpDownKeeps,
  type AnalogueScale,
  type CommandSettings,
  type ControlSettings,
  type OutputJob,
  type ProcessSettings,
  type SettingRole,
  type Straight,
} from '@yare/core';
import type { DriveSettings } from './driveSettings';
import { cleaningOf, emergencyOf, fillOf, guardsOf, stationOf } from './guardsOf';

/** A choice of a setting, or what a family without it does. */
const choice = <C extends number>(d: DriveSettings, role: SettingRole, absent: C): C => d.roleOr(role, absent) as C;

const scaleOf = (d: DriveSettings, signal: SettingRole, low: SettingRole, high: SettingRole, deadBand: number): AnalogueScale => ({
  signal: choice<AnalogueSignal>(d, signal, AnalogueSignal.volts),
  low: d.roleOr(low, 0),
  high: d.roleOr(high, d.region),
  deadBand,
});

/** Who may start it and who may set its speed, as set. */
function commandOf(d: DriveSettings): CommandSettings {
  const limits = d.parameters();
  const remote = {
    start: choice<StartSource>(d, 'startSource', StartSource.terminals),
    speed: choice<SpeedSource>(d, 'speedSource', SpeedSource.analogue),
  };
  return {
    jobs: d.jobs,
    localJobs: d.localJobs,
    remote,
    // a family that knows no local has one pair
    local: { start: choice<StartSource>(d, 'localStart', remote.start), speed: choice<SpeedSource>(d, 'localSpeed', remote.speed) },
    switchOver: d.roleOr('switchOver', SwitchOver.carriesOn),
    startContact: d.roleOr('startContact', StartContact.level),
    stopKey: d.roleOr('stopKey', StopKey.keypadStart),
    handSpeed: d.roleOr('handSpeed', HandSpeed.keypad),
    upDownKeeps: d.roleOr('upDownKeeps', UpDownKeeps.forgets),
    startAfterPowerUp: d.roleOr('startAfterPowerUp', PowerUpStart.needsNew),
    keypadSpeed: d.roleOr('keypadSpeed', 0),
    jogSpeed: d.roleOr('jogSpeed', 0),
    presets: d.presets.map((s) => d.inRole(s)),
    analogue: scaleOf(d, 'analogueSignal', 'analogueLow', 'analogueHigh', d.roleOr('analogueDeadBand', 0)),
    second: scaleOf(d, 'secondSignal', 'secondLow', 'secondHigh', 0),
    onLiveZeroLoss: d.roleOr('liveZeroLoss', LiveZeroAction.ignore),
    emergencyOpenAsks: d.role('emergencySense') === EmergencySense.open,
    externalTripOpenIsHealthy: d.role('externalTripSense') === HealthyContact.open,
    upDownRate: limits.motorFrequency / limits.accelerationTime,
    limits,
    restarts: limits,
  };
}

/** Gain and offset of the feedback as stored, in use or not. */
export const straightOf = (d: DriveSettings): Straight => ({ gain: d.roleOr('feedbackGain', 1), offset: 100 * d.roleOr('feedbackOffset', 0) });

/** The loop and its sleep, as set. */
const processOf = (d: DriveSettings): ProcessSettings => ({
  setpoint: {
    source: choice<SetpointSource>(d, 'setpointSource', SetpointSource.stored),
    stored: 100 * d.roleOr('setpoint', 0),
    second: 100 * d.roleOr('secondSetpoint', d.roleOr('setpoint', 0)),
    low: 100 * d.roleOr('setpointLow', 0),
    high: 100 * d.roleOr('setpointHigh', 1),
    ramp: d.roleOr('setpointRamp', 0),
  },
  filter: d.roleOr('analogueFilter', 0),
  straight: d.role('straightening') === Switch.on ? straightOf(d) : null,
  pid: {
    proportionalGain: d.roleOr('proportionalGain', 1),
    integralTime: d.roleOr('integralTime', 10),
    derivativeTime: d.roleOr('derivativeTime', 0),
    setpointWeight: 1,
    reverse: d.role('processAction') === ProcessAction.reverse,
    outputLow: 100 * d.roleOr('processLow', 0),
    outputHigh: 100 * d.roleOr('processHigh', 1),
  },
  sleep: {
    frequency: d.roleOr('sleepFrequency', 0),
    delay: d.roleOr('sleepDelay', 20),
    wakeFall: 100 * d.roleOr('wakeFall', 0.03),
    wakeDelay: d.roleOr('wakeDelay', 2),
    boost: 100 * d.roleOr('sleepBoost', 0),
    boostTime: d.roleOr('sleepBoostTime', 0),
    leastRun: d.roleOr('leastRun', 0),
    leastRest: d.roleOr('leastRest', 0),
  },
});

/** What command, terminals, process and outputs of a drive need, each in the unit of its role. */
export const controlsOf = (d: DriveSettings): ControlSettings => ({
  command: commandOf(d),
  process: processOf(d),
  guards: guardsOf(d),
  fill: fillOf(d),
  cleaning: cleaningOf(d),
  runOn: { time: d.roleOr('runOnTime', 0), frequency: d.roleOr('runOnFrequency', 0) },
  frost: d.roleOr('frostFrequency', 0),
  emergency: emergencyOf(d),
  station: stationOf(d),
  outputs: d.outputs.map((o) => d.inRole(o) as OutputJob),
  threshold: { frequency: d.roleOr('thresholdFrequency', 0), hysteresis: d.roleOr('thresholdHysteresis', 0) },
  onLinkLoss: d.roleOr('onLinkLoss', 0),
});
