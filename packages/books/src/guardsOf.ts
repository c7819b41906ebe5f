import {
  EmergencyEnds,
  EmergencyOverride,
  GuardAction,
  NoFlowSource,
  StationKind,
  Switch,
  type CleaningSettings,
  type EmergencySettings,
  type FillSettings,
  type Guard,
  type GuardSettings,
  type SettingRole,
  type StationSettings,
} from '@yare/core';
import type { DriveSettings } from './driveSettings';

/** A guard as set; one without its level is switched by its delay, and one a family is without never acts. */
const guardOf = (d: DriveSettings, level: SettingRole | null, delay: SettingRole, action: SettingRole): Guard => ({
  level: level === null ? 1 : d.roleOr(level, 0),
  delay: d.roleOr(delay, 0),
  action: d.roleOr(action, GuardAction.trip) as GuardAction,
});

/** What watches the running machine, as set. */
export const guardsOf = (d: DriveSettings): GuardSettings => ({
  guards: {
    dryRun: guardOf(d, 'dryRunLevel', 'dryRunDelay', 'dryRunAction'),
    noFlow: guardOf(d, null, 'noFlowDelay', 'noFlowAction'),
    highLoad: guardOf(d, 'highLoadLevel', 'highLoadDelay', 'highLoadAction'),
    lowLoad: guardOf(d, 'lowLoadLevel', 'lowLoadDelay', 'lowLoadAction'),
    highPressure: guardOf(d, 'highPressureLevel', 'highPressureDelay', 'highPressureAction'),
    lowPressure: guardOf(d, 'lowPressureLevel', 'lowPressureDelay', 'lowPressureAction'),
  },
  noFlowSource: d.roleOr('noFlowSource', NoFlowSource.flowSwitch) as NoFlowSource,
  shutLoad: d.roleOr('shutLoad', 0),
  curve: [d.roleOr('loadCurve1', 0), d.roleOr('loadCurve2', 0), d.roleOr('loadCurve3', 0)],
  rest: d.roleOr('guardRest', 600),
  tries: d.roleOr('guardTries', 0),
  filter: { cleanAir: d.roleOr('cleanAir', 0), level: d.roleOr('filterLevel', 0), delay: d.roleOr('filterDelay', 60) },
});

export const fillOf = (d: DriveSettings): FillSettings => ({
  frequency: d.roleOr('fillFrequency', 0),
  level: d.roleOr('fillLevel', 0),
  time: d.roleOr('fillTime', 120),
});

export const cleaningOf = (d: DriveSettings): CleaningSettings => ({
  strokes: d.roleOr('cleanStrokes', 0),
  frequency: d.roleOr('cleanFrequency', 25),
  time: d.roleOr('cleanTime', 5),
  every: d.roleOr('cleanEvery', 0),
  atStart: d.role('cleanAtStart') === Switch.on,
  atLoad: d.role('cleanAtLoad') === Switch.on,
  most: d.roleOr('cleanMost', 1),
});

export const emergencyOf = (d: DriveSettings): EmergencySettings => ({
  frequency: d.roleOr('emergencyFrequency', 0),
  reverse: d.role('emergencyDirection') === Switch.on,
  overrides: d.roleOr('emergencyOverrides', EmergencyOverride.none) as EmergencyOverride,
  ends: d.roleOr('emergencyEnds', EmergencyEnds.contact),
});

export const stationOf = (d: DriveSettings): StationSettings => ({
  kind: d.roleOr('stationKind', StationKind.alone) as StationKind,
  number: d.roleOr('stationNumber', 1),
  pumps: d.roleOr('stationPumps', 1),
  most: d.roleOr('stationMost', 1),
  upFrequency: d.roleOr('stageUpFrequency', Infinity),
  upDelay: d.roleOr('stageUpDelay', 30),
  downFrequency: d.roleOr('stageDownFrequency', 0),
  downDelay: d.roleOr('stageDownDelay', 30),
  alternate: d.roleOr('alternateHours', 0),
  jockey: d.roleOr('jockey', 0),
});
