import { settingsOf, type Setting } from '@yare/books';
import type { DriveBook } from '@yare/contract';
import type { SettingRole } from '@yare/core';
import { say } from '@yare/words/commissioning';
import { loopRoles } from './process/roles';
import type { Section } from './stage';
import { commandSources } from './stages/command';
import { emergencyStage } from './stages/emergency';
import { guardsStage } from './stages/guards';
import { sleepStage } from './stages/sleep';
import { stationStage } from './stages/station';

/** Settings that a stage of the job asks for, in its order. */
const rolesOf = ({ sections }: { sections?: readonly Section[] }): SettingRole[] => (sections ?? []).flatMap((s) => s.roles);

/** What somebody wants to do, with the settings it takes, whatever their codes are. */
const tasks: ReadonlyArray<{ id: string; name: string; roles: readonly SettingRole[]; plate?: true }> = [
  { id: 'plate', name: say.motorData, plate: true, roles: [] },
  { id: 'measured', name: say.whatATuneMeasured, roles: ['statorResistance', 'rotorResistance', 'leakageReactance', 'noLoadCurrent'] },
  {
    id: 'protect',
    name: say.protectMotorAndDrive,
    roles: [
      'overloadCurrent',
      'overloadClass',
      'motorCooling',
      'motorSensor',
      'currentLimit',
      'torqueLimit',
      'stallTime',
      'phaseLoss',
      'earthFault',
      'overspeedLevel',
    ],
  },
  {
    id: 'start',
    name: say.startAndRun,
    roles: [
      'accelerationTime',
      'secondAccelerationTime',
      'rampChangeOver',
      'sShare',
      'controlMethod',
      'startBoost',
      'slipCompensation',
      'startMode',
      'carrier',
    ],
  },
  {
    id: 'stop',
    name: say.stopAndBrake,
    roles: [
      'decelerationTime',
      'secondDecelerationTime',
      'quickStopTime',
      'stopMode',
      'busRampHold',
      'dcCurrent',
      'dcTime',
      'chopper',
      'chopperLevel',
      'brakeResistance',
      'resistorPower',
      'holdingBrake',
      'brakeFrequency',
      'brakeOpenDelay',
      'brakeCloseDelay',
    ],
  },
  {
    id: 'speeds',
    name: say.limitAndChooseSpeeds,
    roles: [
      'minimumFrequency',
      'maximumFrequency',
      'skipCentre',
      'skipWidth',
      'skipCentre2',
      'skipWidth2',
      'keypadSpeed',
      'preset1',
      'preset2',
      'preset3',
      'preset4',
      'preset5',
      'preset6',
      ...Array.from({ length: 15 - 6 }, (_, i) => `preset${i + 7}` as const),
    ],
  },
  { id: 'direction', name: say.turnTheRightWay, roles: ['phaseOrder', 'reversePermit'] },
  {
    id: 'command',
    name: say.whoStartsItWhoSets,
    roles: [...commandSources, 'handSpeed', 'jogSpeed', 'upDownKeeps', 'externalTripSense'],
  },
  {
    id: 'terminals',
    name: say.wireThePanel,
    roles: [
      'analogueSignal',
      'analogueFilter',
      'analogueLow',
      'analogueHigh',
      'analogueDeadBand',
      'liveZeroLoss',
      'secondSignal',
      'secondLow',
      'secondHigh',
      'inputSense',
      'thresholdFrequency',
      'thresholdHysteresis',
    ],
  },
  {
    id: 'process',
    name: say.holdAPressureOrLevel,
    roles: [...loopRoles],
  },
  { id: 'sleep', name: say.sleepAndWake, roles: rolesOf(sleepStage) },
  { id: 'guards', name: say.guardTheMachine, roles: rolesOf(guardsStage) },
  { id: 'station', name: say.workWithOtherPumps, roles: rolesOf(stationStage) },
  { id: 'emergency', name: say.goOnWhileSomethingBurns, roles: rolesOf(emergencyStage) },
  { id: 'trips', name: say.afterATrip, roles: ['autoRestarts', 'restartInterval'] },
  { id: 'link', name: say.talkOverTheLink, roles: ['linkAddress', 'linkTimeout', 'onLinkLoss'] },
];

/** Settings of a size by what they are for; every setting stands once, what has no task stands last. */
export function settingsByTask(book: DriveBook, size: string): Array<{ id: string; name: string; settings: Setting[] }> {
  const settings = settingsOf(book, size);
  const taken = new Set<string>();
  const groups = tasks.map(({ id, name, roles, plate }) => {
    const own = settings.filter((s) => {
      const belongs = plate ? s.plate !== undefined && s.role !== 'overloadCurrent' : s.role !== undefined && belongsTo(id, roles, s.role);
      return belongs && !taken.has(s.code);
    });
    for (const s of own) taken.add(s.code);
    return { id, name, settings: own };
  });
  return [...groups, { id: 'rest', name: say.everythingElse, settings: settings.filter((s) => !taken.has(s.code)) }].filter(
    (g) => g.settings.length > 0,
  );
}

const belongsTo = (id: string, roles: readonly SettingRole[], role: SettingRole): boolean =>
  roles.includes(role) || (id === 'terminals' && /^(local job|job|relay|analogue out) /.test(role));
