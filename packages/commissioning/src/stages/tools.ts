import { notAsFactory } from '../sheets';
import { defineStage } from '../stage';

export const settingsTool = defineStage({
  path: 'settings',
  key: 's',
  tool: true,
  standing: (m) => ({ proof: 'not yet', text: `${m.drafted.all.length} settings, ${notAsFactory(m.drafted).length} not as from the factory` }),
});

export const turnTool = defineStage({
  path: 'turn',
  key: 't',
  tool: true,
  standing: (_m, { runs }) => (runs > 0 ? { proof: 'proved', text: 'turned and recorded' } : { proof: 'not yet', text: 'hold to run at any speed' }),
});

export const recordingsTool = defineStage({
  path: 'recordings',
  key: 'l',
  tool: true,
  standing: (_m, { recordings }) => (recordings > 0 ? { proof: 'proved', text: `${recordings} kept` } : { proof: 'not yet', text: 'none yet' }),
});

export const tripTool = defineStage({
  path: 'trip',
  key: 'e',
  tool: true,
  standing: () => ({ proof: 'not yet', text: 'what a tripped drive says, and its reset' }),
});

export const benchTool = defineStage({
  path: 'bench',
  key: 'b',
  tool: true,
  standing: () => ({ proof: 'not yet', text: 'the simulated machine: panel, handles, faults' }),
});
