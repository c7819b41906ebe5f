export const say = {
  settingsSheet: 'Settings sheet',
  settingsNotAsFromThe: ({ all, notAsFactory }: { all: number; notAsFactory: number }) => `${all} settings, ${notAsFactory} not as from the factory`,
  testRun: 'Test run',
  turnedAndRecorded: 'turned and recorded',
  holdToRunAtAny: 'hold to run at any speed',
  recordings: 'Recordings',
  kept: ({ recordings }: { recordings: number }) => `${recordings} kept`,
  noneYet: 'none yet',
  trip: 'Trip',
  whatATrippedDriveSays: 'what a tripped drive says, and its reset',
  bench: 'Bench',
  theSimulatedMachinePanelHandles: 'the simulated machine: panel, handles, faults',
};
