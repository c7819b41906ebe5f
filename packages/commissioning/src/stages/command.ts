import { AnalogueSignal, InputJob, LiveZeroAction, PowerUpStart, SpeedSource, StartSource, type SettingRole } from '@yare/core';
import { say } from '@yare/words/stages/command';
import type { Checked, Finding } from '../checked';
import { analogueIds } from '../command/words';
import { against, defineStage, ofItems, type ProofDefinition } from '../stage';

/** Settings that say who starts it and who sets its speed. */
export const commandSources: readonly SettingRole[] = [
  'startSource',
  'speedSource',
  'localStart',
  'localSpeed',
  'switchOver',
  'startContact',
  'stopKey',
  'startAfterPowerUp',
];

/** Command is where the settings want it, and nobody has borrowed it. */
export const givenBackProof: ProofDefinition = {
  id: 'given back',
  facts: 'givenBack',
  relies: { roles: commandSources, inputs: true },
};

const signalFindings = (c: Checked): Finding[] => {
  const { command } = c.settings.controls();
  const s = c.settings.find('liveZeroLoss');
  const uses = [command.remote.speed, command.local.speed].some((x) => x === SpeedSource.analogue || x === SpeedSource.process);
  if (!s || !uses || command.analogue.signal !== AnalogueSignal.liveZero || command.onLiveZeroLoss !== LiveZeroAction.ignore) return [];
  return [
    {
      id: 'live zero ignored',
      code: s.code,
      severity: 'warning',
      sentence: say.aBrokenWireAtIs({ analogueIds: analogueIds(c.settings)[0] ?? 'the analogue input' }),
      remedy: { label: say.stopWhenItIsLost, changes: c.settings.change('liveZeroLoss', LiveZeroAction.stop, 'chosen') },
      more: [{ label: say.tripWhenItIsLost, changes: c.settings.change('liveZeroLoss', LiveZeroAction.trip, 'chosen') }],
    },
  ];
};

/** A pair of sources that cannot start, or whose speed nothing gives. */
function pairFindings(c: Checked, mode: 'remote' | 'local'): Finding[] {
  const { command } = c.settings.controls();
  if (mode === 'local' && !command.jobs.includes(InputJob.local)) return [];
  const pair = command[mode];
  const jobs = mode === 'local' ? command.localJobs : command.jobs;
  const starts: readonly InputJob[] = [
    InputJob.runForward,
    InputJob.runReverse,
    InputJob.startPulse,
    InputJob.reversePulse,
    InputJob.auto,
    InputJob.hand,
  ];
  const [startRole, speedRole] = mode === 'local' ? (['localStart', 'localSpeed'] as const) : (['startSource', 'speedSource'] as const);
  const start = c.settings.find(startRole);
  const speed = c.settings.find(speedRole);
  const told = (sentence: string) => (mode === 'local' ? say.inLocal({ sentence }) : sentence.replace(/^./, (first) => first.toUpperCase()));
  const out: Finding[] = [];
  if (start && pair.start === StartSource.terminals && !jobs.some((j) => starts.includes(j)))
    out.push({
      id: `${mode} nothing starts`,
      code: start.code,
      severity: 'error',
      sentence: told(say.startComesFromTheTerminals),
      remedy: { label: say.goToTerminals, go: 'terminals' },
      more: [{ label: say.startFromTheKeypad, changes: c.settings.change(startRole, StartSource.keypad, 'chosen') }],
    });
  const bits: readonly InputJob[] = [InputJob.presetBit0, InputJob.presetBit1, InputJob.presetBit2, InputJob.presetBit3];
  if (speed && pair.speed === SpeedSource.presets && !jobs.some((j) => bits.includes(j)))
    out.push({
      id: `${mode} no preset contact`,
      code: speed.code,
      severity: 'error',
      sentence: told(say.speedComesFromThePresets),
      remedy: { label: say.goToTerminals, go: 'terminals' },
      more: [{ label: say.takeTheSpeedFromThe, changes: c.settings.change(speedRole, SpeedSource.analogue, 'chosen') }],
    });
  if (speed && pair.speed === SpeedSource.upDown && !(jobs.includes(InputJob.faster) && jobs.includes(InputJob.slower)))
    out.push({
      id: `${mode} no faster and slower`,
      code: speed.code,
      severity: 'error',
      sentence: told(say.speedComesFromTheFaster({ includes: jobs.includes(InputJob.faster) })),
      remedy: { label: say.goToTerminals, go: 'terminals' },
    });
  return out;
}

function powerUpFindings(c: Checked): Finding[] {
  const s = c.settings.find('startAfterPowerUp');
  if (!s || c.settings.role('startAfterPowerUp') !== PowerUpStart.follows) return [];
  return [
    {
      id: 'starts with the power',
      code: s.code,
      severity: 'warning',
      sentence: say.itStartsByItselfWhen,
      remedy: { label: say.wantANewStart, changes: c.settings.change('startAfterPowerUp', PowerUpStart.needsNew, 'chosen') },
    },
  ];
}

const check = (c: Checked): Finding[] => [...pairFindings(c, 'remote'), ...pairFindings(c, 'local'), ...signalFindings(c), ...powerUpFindings(c)];

/** Who starts it, who sets its speed, and what wins. */
export const commandStage = defineStage({
  path: 'command',
  key: 'n',
  sections: [
    { id: 'sources', title: say.whereItComesFrom, roles: ['startSource', 'speedSource', 'keypadSpeed'] },
    { id: 'local', title: say.whileLocalIsClosed, roles: ['localStart', 'localSpeed', 'switchOver'] },
    {
      id: 'signal',
      title: say.signals,
      roles: [
        'analogueSignal',
        'analogueLow',
        'analogueHigh',
        'analogueDeadBand',
        'analogueFilter',
        'liveZeroLoss',
        'secondSignal',
        'secondLow',
        'secondHigh',
      ],
    },
    { id: 'starting', title: say.howAStartCounts, roles: ['startContact', 'stopKey', 'startAfterPowerUp', 'jogSpeed', 'upDownKeeps'] },
  ],
  proofs: [givenBackProof],
  check,
  standing: (m, { proofOf }) =>
    against(m, 'command') ??
    ofItems(m, [proofOf('command', givenBackProof.id)], { passed: 'command is with the machine', open: say.notSeenToBeGiven }),
});
