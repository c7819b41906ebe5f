import { say } from '@yare/words/stages/tools';
import { notAsFactory } from '../sheets';
import { defineStage } from '../stage';

export const settingsTool = defineStage({
  path: 'settings',
  key: 's',
  tool: true,
  standing: (m) => ({
    proof: 'not yet',
    text: say.settingsNotAsFromThe({ all: m.drafted.all.length, notAsFactory: notAsFactory(m.drafted).length }),
  }),
});

export const turnTool = defineStage({
  path: 'turn',
  key: 't',
  tool: true,
  standing: (_m, { runs }) => (runs > 0 ? { proof: 'proved', text: say.turnedAndRecorded } : { proof: 'not yet', text: say.holdToRunAtAny }),
});

export const recordingsTool = defineStage({
  path: 'recordings',
  key: 'l',
  tool: true,
  standing: (_m, { recordings }) => (recordings > 0 ? { proof: 'proved', text: say.kept({ recordings }) } : { proof: 'not yet', text: say.noneYet }),
});

export const tripTool = defineStage({
  path: 'trip',
  key: 'e',
  tool: true,
  standing: () => ({ proof: 'not yet', text: say.whatATrippedDriveSays }),
});

export const benchTool = defineStage({
  path: 'bench',
  key: 'b',
  tool: true,
  standing: () => ({ proof: 'not yet', text: say.theSimulatedMachinePanelHandles }),
});
