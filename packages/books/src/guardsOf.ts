import {
  Switch,
  type CleaningSettings,
  type EmergencySettings,
  type FillSettings,
  type Guard,
  type GuardKind,
  type GuardSettings,
  type StationSettings,
} from '@yare/core';
import type { DriveSettings } from './driveSettings';

/** A guard as set; one that has no level is switched by its delay alone. */
const guardOf = (d: DriveSettings, kind: GuardKind): Guard => ({
  level: kind === 'noFlow' ? 1 : d.roleValue(`${kind}Level`),
  delay: d.roleValue(`${kind}Delay`),
  action: d.roleValue(`${kind}Action`),
});

/** What watches the running machine, as set. */
export const guardsOf = (d: DriveSettings): GuardSettings => ({
  guards: {
    dryRun: guardOf(d, 'dryRun'),
    noFlow: guardOf(d, 'noFlow'),
    highLoad: guardOf(d, 'highLoad'),
    lowLoad: guardOf(d, 'lowLoad'),
    highPressure: guardOf(d, 'highPressure'),
    lowPressure: guardOf(d, 'lowPressure'),
  },
  noFlowSource: d.roleValue('noFlowSource'),
  shutLoad: d.roleValue('shutLoad'),
  curve: [d.roleValue('loadCurve1'), d.roleValue('loadCurve2'), d.roleValue('loadCurve3')],
  rest: d.roleValue('guardRest'),
  tries: d.roleValue('guardTries'),
  filter: { cleanAir: d.roleValue('cleanAir'), level: d.roleValue('filterLevel'), delay: d.roleValue('filterDelay') },
});

export const fillOf = (d: DriveSettings): FillSettings => ({
  frequency: d.roleValue('fillFrequency'),
  level: d.roleValue('fillLevel'),
  time: d.roleValue('fillTime'),
});

export const cleaningOf = (d: DriveSettings): CleaningSettings => ({
  strokes: d.roleValue('cleanStrokes'),
  frequency: d.roleValue('cleanFrequency'),
  time: d.roleValue('cleanTime'),
  every: d.roleValue('cleanEvery'),
  atStart: d.roleValue('cleanAtStart') === Switch.on,
  atLoad: d.roleValue('cleanAtLoad') === Switch.on,
  most: d.roleValue('cleanMost'),
});

export const emergencyOf = (d: DriveSettings): EmergencySettings => ({
  frequency: d.roleValue('emergencyFrequency'),
  reverse: d.roleValue('emergencyDirection') === Switch.on,
  overrides: d.roleValue('emergencyOverrides'),
  ends: d.roleValue('emergencyEnds'),
});

export const stationOf = (d: DriveSettings): StationSettings => ({
  kind: d.roleValue('stationKind'),
  number: d.roleValue('stationNumber'),
  pumps: d.roleValue('stationPumps'),
  most: d.roleValue('stationMost'),
  upFrequency: d.roleValue('stageUpFrequency'),
  upDelay: d.roleValue('stageUpDelay'),
  downFrequency: d.roleValue('stageDownFrequency'),
  downDelay: d.roleValue('stageDownDelay'),
  alternate: d.roleValue('alternateHours'),
  jockey: d.roleValue('jockey'),
});
