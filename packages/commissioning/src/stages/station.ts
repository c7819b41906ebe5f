import { OutputJob, StationKind, type SettingRole } from '@yare/core';
import { say } from '@yare/words/stages/station';
import { hertz, type Checked, type Finding, type Remedy } from '../checked';
import { against, defineStage, ofItems, type ProofDefinition, notNeeded } from '../stage';
import { usesProcess } from './process';
import { keptAt, keptPump, lowestOutput } from './sleep';

const roles: readonly SettingRole[] = [
  'stationKind',
  'stationNumber',
  'stationPumps',
  'stationMost',
  'stageUpFrequency',
  'stageUpDelay',
  'stageDownFrequency',
  'stageDownDelay',
  'alternateHours',
  'jockey',
];

/** Another pump was seen to come, and to go again. */
export const stagingProof: ProofDefinition = { id: 'staging', facts: 'staging', relies: { roles } };
/** A pump was taken out, and another was seen to take its place. */
export const replacedProof: ProofDefinition = { id: 'replaced', facts: 'replaced', relies: { roles } };

/** Whether several pumps work together. */
export const inStation = ({ settings }: Pick<Checked, 'settings'>): boolean => {
  const { station } = settings.controls();
  return station.kind !== StationKind.alone && station.pumps > 1;
};

/**
 * Where pumps are added and taken off, Hz: as it is added now where that leaves room, or near the top.
 * @param low lowest output, most highest; null where the output has no room to tell anything by
 */
function staging(settings: Checked['settings'], low: number, most: number, up: number): Remedy | null {
  const room = most - low;
  if (room <= 1) return null;
  const down = Math.round(10 * (low + takenOffAt * room)) / 10;
  const stays = up <= most && up - down >= leastApart * room + 0.1;
  const added = Math.floor(10 * (most - addedUnder * room)) / 10;
  const off = settings.change('stageDownFrequency', down, 'worked out');
  return stays
    ? { label: say.takeOneOffAt({ hertz: hertz(down) }), changes: off }
    : {
        label: say.addOneAtTakeOne({ hertz: hertz(added), hertz2: hertz(down) }),
        changes: [...settings.change('stageUpFrequency', added, 'worked out'), ...off],
      };
}

/** Of the outputs there are, the share that has to lie between adding a pump and taking one off, and where one is proposed to be taken off: nearer, and they come and go by turns (common practice: about a third). */
const leastApart = 0.3;
const takenOffAt = 0.15;
/** Share of them below the highest where one is added. */
const addedUnder = 0.05;

function check(c: Checked): Finding[] {
  const { settings } = c;
  const { station, outputs } = settings.controls();
  const kind = settings.find('stationKind');
  if (!kind || station.kind === StationKind.alone) return [];
  const out: Finding[] = [];
  if (!usesProcess(c))
    out.push({
      ...{ id: 'no process', code: kind.code, severity: 'error' },
      sentence: say.pumpsAreAddedByThe,
    });
  const pumps = settings.find('stationPumps');
  if (pumps && station.pumps < 2) out.push({ ...{ id: 'one pump', code: pumps.code, severity: 'error' }, sentence: say.itIsToWorkWith });
  const number = settings.find('stationNumber');
  if (number && station.kind === StationKind.sideBySide && station.number > station.pumps)
    out.push({
      ...{ id: 'number beyond', code: number.code, severity: 'error' },
      sentence: say.itIsNumberOfIt({ number: station.number, pumps: station.pumps }),
    });
  if (station.kind === StationKind.contactors) {
    const wired = [OutputJob.pump2, OutputJob.pump3, OutputJob.pump4].slice(0, station.pumps - 1).filter((job) => !outputs.includes(job));
    if (wired.length > 0)
      out.push({
        ...{ id: 'no relay', code: kind.code, severity: 'error' },
        sentence: say.hasNoRelayGiveAn({ wired: wired.map((job) => `Pump ${job - OutputJob.pump2 + 2}`).join(' and '), wired2: wired.length }),
        remedy: { label: say.goToTerminals, go: 'terminals' },
      });
  }
  const up = settings.find('stageUpFrequency');
  const { maximumFrequency } = settings.parameters();
  const most = Math.min(maximumFrequency, settings.roleValue('processHigh') * maximumFrequency);
  const kept = keptPump(c);
  const low = Math.max(lowestOutput(c), kept ? keptAt(kept) : 0);
  const way = staging(settings, low, most, station.upFrequency);
  if (up && station.upFrequency > most)
    out.push({
      ...{ id: 'never added', code: up.code, severity: 'error' },
      sentence: say.theOutputNeverGoesAbove({ hertz: hertz(most), hertz2: hertz(station.upFrequency) }),
      ...(way && { remedy: way }),
    });
  const down = settings.find('stageDownFrequency');
  if (down && station.downFrequency < low)
    out.push({
      ...{ id: 'never taken off', code: down.code, severity: 'error' },
      sentence: say.theOutputNeverGoesBelow({ hertz: hertz(low), hertz2: hertz(station.downFrequency) }),
      ...(way && { remedy: way }),
    });
  else if (down && station.upFrequency - station.downFrequency < leastApart * (most - low))
    out.push({
      ...{ id: 'too near', code: down.code, severity: 'warning' },
      sentence: say.aPumpIsAddedAt({ hertz: hertz(station.upFrequency), hertz2: hertz(station.downFrequency) }),
      ...(way && { remedy: way }),
    });
  const jockey = settings.find('jockey');
  if (jockey && station.jockey > station.pumps)
    out.push({
      ...{ id: 'no such jockey', code: jockey.code, severity: 'error' },
      sentence: say.thereIsNoPumpThe({ jockey: station.jockey, pumps: station.pumps }),
    });
  return out;
}

/** Several pumps that work as one. */
export const stationStage = defineStage({
  path: 'station',
  key: 'o',
  sections: [
    { id: 'who', title: say.whoWorksTogether, roles: ['stationKind', 'stationNumber', 'stationPumps', 'stationMost', 'jockey'] },
    { id: 'staging', title: say.addingAndTakingOff, roles: ['stageUpFrequency', 'stageUpDelay', 'stageDownFrequency', 'stageDownDelay'] },
    { id: 'alternate', title: say.sharingTheHours, roles: ['alternateHours'] },
  ],
  proofs: [stagingProof, replacedProof],
  check,
  standing: (m, { proofOf }) => {
    if (!m.drafted.find('stationKind')) return notNeeded(say.thisDriveWorksAlone);
    const found = against(m, 'station');
    if (!inStation({ settings: m.drafted })) return found ?? notNeeded(say.itWorksAlone);
    return (
      found ??
      ofItems(m, [proofOf('station', stagingProof.id), proofOf('station', replacedProof.id)], {
        passed: say.seenToComeAndGo,
        open: say.notSeenToComeAnd,
      })
    );
  },
});
