import {
  EmergencySense,
  HealthyContact,
  ProcessAction,
  Switch,
  type AnalogueScale,
  type CommandSettings,
  type ControlSettings,
  type OutputJob,
  type ProcessSettings,
  type Straight,
} from '@yare/core';
import type { DriveSettings } from './driveSettings';
import { cleaningOf, emergencyOf, fillOf, guardsOf, stationOf } from './guardsOf';

/** How an input is scaled; the end of a family that cannot set it is the frequency of its mains. */
const scaleOf = (d: DriveSettings, input: 'analogue' | 'second', deadBand: number): AnalogueScale => ({
  signal: d.roleValue(`${input}Signal`),
  low: d.roleValue(`${input}Low`),
  high: d.roleValue(`${input}High`) ?? d.region,
  deadBand,
});

/** Who may start it and who may set its speed, as set. */
function commandOf(d: DriveSettings): CommandSettings {
  const limits = d.parameters();
  const remote = { start: d.roleValue('startSource'), speed: d.roleValue('speedSource') };
  return {
    jobs: d.jobs,
    localJobs: d.localJobs,
    remote,
    // a family that knows no local has one pair
    local: { start: d.roleValue('localStart') ?? remote.start, speed: d.roleValue('localSpeed') ?? remote.speed },
    switchOver: d.roleValue('switchOver'),
    startContact: d.roleValue('startContact'),
    stopKey: d.roleValue('stopKey'),
    handSpeed: d.roleValue('handSpeed'),
    upDownKeeps: d.roleValue('upDownKeeps'),
    startAfterPowerUp: d.roleValue('startAfterPowerUp'),
    keypadSpeed: d.roleValue('keypadSpeed'),
    jogSpeed: d.roleValue('jogSpeed'),
    presets: d.presets.map((s) => d.inRole(s)),
    analogue: scaleOf(d, 'analogue', d.roleValue('analogueDeadBand')),
    second: scaleOf(d, 'second', 0),
    onLiveZeroLoss: d.roleValue('liveZeroLoss'),
    emergencyOpenAsks: d.roleValue('emergencySense') === EmergencySense.open,
    externalTripOpenIsHealthy: d.roleValue('externalTripSense') === HealthyContact.open,
    upDownRate: limits.motorFrequency / limits.accelerationTime,
    limits,
    restarts: limits,
  };
}

/** Gain and offset of the feedback as stored, in use or not. */
export const straightOf = (d: DriveSettings): Straight => ({ gain: d.roleValue('feedbackGain'), offset: 100 * d.roleValue('feedbackOffset') });

/** The loop and its sleep, as set. */
const processOf = (d: DriveSettings): ProcessSettings => ({
  setpoint: {
    source: d.roleValue('setpointSource'),
    stored: 100 * d.roleValue('setpoint'),
    second: 100 * (d.role('secondSetpoint') ?? d.roleValue('setpoint')),
    low: 100 * d.roleValue('setpointLow'),
    high: 100 * d.roleValue('setpointHigh'),
    ramp: d.roleValue('setpointRamp'),
  },
  filter: d.roleValue('analogueFilter'),
  straight: d.roleValue('straightening') === Switch.on ? straightOf(d) : null,
  pid: {
    proportionalGain: d.roleValue('proportionalGain'),
    integralTime: d.roleValue('integralTime'),
    derivativeTime: d.roleValue('derivativeTime'),
    setpointWeight: 1,
    reverse: d.roleValue('processAction') === ProcessAction.reverse,
    outputLow: 100 * d.roleValue('processLow'),
    outputHigh: 100 * d.roleValue('processHigh'),
  },
  sleep: {
    frequency: d.roleValue('sleepFrequency'),
    delay: d.roleValue('sleepDelay'),
    wakeFall: 100 * d.roleValue('wakeFall'),
    wakeDelay: d.roleValue('wakeDelay'),
    boost: 100 * d.roleValue('sleepBoost'),
    boostTime: d.roleValue('sleepBoostTime'),
    leastRun: d.roleValue('leastRun'),
    leastRest: d.roleValue('leastRest'),
  },
});

/** What command, terminals, process and outputs of a drive need, each in the unit of its role. */
export const controlsOf = (d: DriveSettings): ControlSettings => ({
  command: commandOf(d),
  process: processOf(d),
  guards: guardsOf(d),
  fill: fillOf(d),
  cleaning: cleaningOf(d),
  runOn: { time: d.roleValue('runOnTime'), frequency: d.roleValue('runOnFrequency') },
  frost: d.roleValue('frostFrequency'),
  emergency: emergencyOf(d),
  station: stationOf(d),
  outputs: d.outputs.map((o) => d.inRole(o) as OutputJob),
  threshold: { frequency: d.roleValue('thresholdFrequency'), hysteresis: d.roleValue('thresholdHysteresis') },
  onLinkLoss: d.roleValue('onLinkLoss'),
});
