export const say = {
  settingsNotAsFromThe: ({ all, notAsFactory }: { all: number; notAsFactory: number }) => `${all} settings, ${notAsFactory} not as from the factory`,
  turnedAndRecorded: 'turned and recorded',
  holdToRunAtAny: 'hold to run at any speed',
  kept: ({ recordings }: { recordings: number }) => `${recordings} kept`,
  noneYet: 'none yet',
  whatATrippedDriveSays: 'what a tripped drive says, and its reset',
  theSimulatedMachinePanelHandles: 'the simulated machine: panel, handles, faults',
};
