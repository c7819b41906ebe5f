import { formatFigure, OutputJob, StationKind, type SettingRole } from '@yare/core';
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
    ? { label: `Take one off at ${hertz(down)}`, changes: off }
    : {
        label: `Add one at ${hertz(added)}, take one off at ${hertz(down)}`,
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
      sentence: 'Pumps are added by the output of the loop, and the speed does not come from a process: none is ever added.',
    });
  const pumps = settings.find('stationPumps');
  if (pumps && station.pumps < 2)
    out.push({ ...{ id: 'one pump', code: pumps.code, severity: 'error' }, sentence: 'It is to work with others, and there is one pump in all.' });
  const number = settings.find('stationNumber');
  if (number && station.kind === StationKind.sideBySide && station.number > station.pumps)
    out.push({
      ...{ id: 'number beyond', code: number.code, severity: 'error' },
      sentence: `It is number ${station.number} of ${station.pumps}: it is never asked to run.`,
    });
  if (station.kind === StationKind.contactors) {
    const wired = [OutputJob.pump2, OutputJob.pump3, OutputJob.pump4].slice(0, station.pumps - 1).filter((job) => !outputs.includes(job));
    if (wired.length > 0)
      out.push({
        ...{ id: 'no relay', code: kind.code, severity: 'error' },
        sentence: `${wired.map((job) => `Pump ${job - OutputJob.pump2 + 2}`).join(' and ')} ${wired.length === 1 ? 'has' : 'have'} no relay: give an output that job under Terminals.`,
        remedy: { label: 'Go to Terminals', go: 'terminals' },
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
      sentence: `The output never goes above ${hertz(most)}: no pump is ever added at ${hertz(station.upFrequency)}.`,
      ...(way && { remedy: way }),
    });
  const down = settings.find('stageDownFrequency');
  if (down && station.downFrequency < low)
    out.push({
      ...{ id: 'never taken off', code: down.code, severity: 'error' },
      sentence: `The output never goes below about ${hertz(low)}: no pump is ever taken off at ${hertz(station.downFrequency)}.`,
      ...(way && { remedy: way }),
    });
  else if (down && station.upFrequency - station.downFrequency < leastApart * (most - low))
    out.push({
      ...{ id: 'too near', code: down.code, severity: 'warning' },
      sentence: `A pump is added at ${hertz(station.upFrequency)} and taken off at ${hertz(station.downFrequency)}: so near that they come and go by turns.`,
      ...(way && { remedy: way }),
    });
  const jockey = settings.find('jockey');
  if (jockey && station.jockey > station.pumps)
    out.push({
      ...{ id: 'no such jockey', code: jockey.code, severity: 'error' },
      sentence: `There is no pump ${formatFigure(station.jockey, 0)}: the jockey is one of ${station.pumps}.`,
    });
  return out;
}

/** Several pumps that work as one. */
export const stationStage = defineStage({
  path: 'station',
  key: 'o',
  sections: [
    { id: 'who', title: 'Who works together', roles: ['stationKind', 'stationNumber', 'stationPumps', 'stationMost', 'jockey'] },
    { id: 'staging', title: 'Adding and taking off', roles: ['stageUpFrequency', 'stageUpDelay', 'stageDownFrequency', 'stageDownDelay'] },
    { id: 'alternate', title: 'Sharing the hours', roles: ['alternateHours'] },
  ],
  proofs: [stagingProof, replacedProof],
  check,
  standing: (m, { proofOf }) => {
    if (!m.drafted.find('stationKind')) return notNeeded('this drive works alone');
    const found = against(m, 'station');
    if (!inStation({ settings: m.drafted })) return found ?? notNeeded('it works alone');
    return (
      found ??
      ofItems(m, [proofOf('station', stagingProof.id), proofOf('station', replacedProof.id)], {
        passed: 'seen to come and go',
        open: 'not seen to come and go yet',
      })
    );
  },
});
