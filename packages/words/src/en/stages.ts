import type { Leaving } from '@yare/contract';

/** What the stages, their tests and the guards are called. */
export const stageNames = {
  'before-power': 'Before power',
  command: 'Command',
  direction: 'Direction',
  drive: 'Drive',
  emergency: 'Emergency ventilation',
  guards: 'Guards',
  'hand-off-auto': 'Hand-off-auto',
  motion: 'Motion',
  plate: 'Plate',
  presets: 'Presets',
  process: 'Process',
  protection: 'Protection',
  sleep: 'Sleep and wake',
  station: 'Several pumps',
  survey: 'Survey',
  terminals: 'Terminals',
  settings: 'Settings sheet',
  turn: 'Test run',
  recordings: 'Recordings',
  trip: 'Trip',
  bench: 'Bench',
  tune: 'Tune',
  write: 'Write',
} as const;

/** The guards a drive keeps over its machine. */
export const guardNames = {
  dryRun: 'Dry running',
  noFlow: 'No flow',
  highLoad: 'Something holds it',
  lowLoad: 'The load is lost',
  highPressure: 'Pressure or level too high',
  lowPressure: 'Pressure or level too low',
} as const;

const seenToAct = Object.fromEntries(Object.entries(guardNames).map(([kind, name]) => [kind, `${name}: seen to act`]));

/** Tests by the route of their stage and their own code. */
const proofNames: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  'before-power': {
    isolated: 'Isolated, locked, proved dead',
    mounted: 'Drive mounted',
    motorEarth: 'Motor earth',
    links: 'Links in the terminal box',
    insulation: 'Insulation, motor off the drive',
    motorPhases: 'Motor phases',
    supplyEarth: 'Supply earth',
    supplyPhases: 'Supply phases',
    controlRows: 'Control terminals',
    lineVoltages: 'Three line voltages',
  },
  command: { 'given back': 'Command given back' },
  direction: { direction: 'Direction' },
  emergency: { emergency: 'It runs in an emergency' },
  guards: {
    ...seenToAct,
    cleaning: 'It cleans itself',
    fill: 'It fills the pipe first',
    feedback: 'A broken sensor wire acts',
    frost: 'It turns against frost',
    runOn: 'It runs on',
  },
  'hand-off-auto': { selector: 'Every position of the selector' },
  motion: { run: 'Run as set' },
  process: { holds: 'It holds its set point', sensor: 'The sensor agrees with a gauge' },
  sleep: { sleeps: 'It falls asleep and wakes' },
  station: { staging: 'Another pump comes and goes', replaced: 'A lost pump is replaced' },
  terminals: { wires: 'Wire by wire' },
  tune: { tune: 'Tune' },
};

/** What a stage is called; its route where it has no name. */
export const stageName = (path: string): string => (stageNames as Readonly<Record<string, string>>)[path] ?? path;

/** The stages somebody left unproved, by their names; what was written down before stages were kept stands as it was. */
export const leftOpen = ({ stages, told }: Pick<Leaving, 'stages' | 'told'>): string => told ?? stages.map(stageName).join(', ');

/** What a test is called; its code where it has no name. */
export const proofName = (stage: string, item: string): string =>
  proofNames[stage]?.[item] ?? (stage === 'presets' ? item.replace(/^preset/, 'Preset') : item);

/** The stages whose one test has their own name. */
const namedAlike: readonly string[] = ['direction', 'tune'];

/** A test with its stage, as the log tells it. */
export const testName = (stage: string, item: string): string =>
  namedAlike.includes(stage) ? stageName(stage) : `${stageName(stage)}, ${proofName(stage, item).toLowerCase()},`;
