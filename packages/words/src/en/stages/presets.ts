export const say = {
  reverseIsForbiddenChosenIt: 'reverse is forbidden: chosen, it stands still',
  itIsBelowTheMinimum: 'it is below the minimum',
  itIsAboveTheMaximum: 'it is above the maximum',
  itLiesInASpeed: 'it lies in a speed to avoid',
  theDriveDoesWithEvery: 'the drive does with every switch open',
  presetDoes: ({ preset }: { preset: number }) => `preset ${preset} does`,
  permitReverse: 'Permit reverse',
  presetAsksForAndGives: ({
    number,
    asked,
    given,
    alike,
    limit,
  }: {
    number: number;
    asked: string;
    given: string;
    alike: string | null;
    limit: string;
  }) => `Preset ${number} asks for ${asked} and gives ${given}${alike === null ? '' : `, as ${alike}`}: ${limit}.`,
  presetGivesAsOneOf: ({ number, hz, sameAs }: { number: number; hz: string; sameAs: string }) =>
    `Preset ${number} gives ${hz}, as ${sameAs}: one of the switch positions changes nothing.`,
  theSpeedContactsAreNot: ({ unreached }: { unreached: string }) =>
    `The speed contacts are not the first ones in a row, so presets ${unreached} are never chosen.`,
  goToTerminals: 'Go to Terminals',
  rampsBetweenPresets: 'Ramps between presets',
  noSwitchChoosesAPreset: 'no switch chooses a preset',
  preset: ({ number }: { number: number }) => `preset ${number}`,
  measured: ({ chosen }: { chosen: number }) => `${chosen} measured`,
  toBeMeasured: ({ chosen }: { chosen: number }) => `${chosen} to be measured`,
};
