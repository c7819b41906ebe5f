import { formatFigure } from '@yare/core/units';

export const say = {
  speedAtHz: ({ frequency }: { frequency: number }) => `Speed at ${frequency} Hz`,
  atTheBelt: 'At the belt',
  runItAtASteady: 'run it at a steady speed of 5 Hz or more to measure',
  takeWhatTheBeltDoes: ({ speed, frequency }: { speed: number; frequency: number }) =>
    `Take what the belt does: ${formatFigure(speed, 1)} m/min at ${formatFigure(frequency, 1)} Hz`,
  measuredOnTheBenchBy: 'measured on the bench, by a wheel on the belt',
  mMin: 'm/min',
  goesUpAndDownWith: 'goes up and down with it',
  notGivenHzRpmAnd: 'not given: Hz, rpm and % only, or what the record tells',
  nameOfTheMachinesOwn: 'Name of the machine’s own unit',
  itsName: 'Its name',
  preset: ({ number }: { number: number }) => `Preset ${number}`,
  preset2: ({ number }: { number: number }) => `preset ${number}`,
  keepMeasured: ({ fresh }: { fresh: number }) => `Keep ${fresh} measured`,
  presets: 'Presets',
  whichSwitchesGiveWhich: 'Which switches give which',
  asDrafted: 'as drafted',
  unitOfTheSpeeds: 'Unit of the speeds',
  noInputChoosesAPreset:
    'No input chooses a preset here. Give inputs the jobs of preset bits on Terminals: one contact chooses 2 speeds, two 4, three 8, four 16.',
  turnTheRealSwitchesWhile: ({ contacts }: { contacts: string }) =>
    `${contacts}. Turn the real switches while it runs: each speed that is reached is measured.`,
  withSwitch: ({ rows, contacts }: { rows: number; contacts: number }) => `${rows} with ${contacts} ${contacts === 1 ? 'switch' : 'switches'}`,
  speeds: 'Speeds',
  theMachinesOwnUnit: 'The machine’s own unit',
  noneGiven: 'none given',
  allSwitchesOpen: 'All switches open',
  chosenNow: 'chosen now',
  backward: ', backward',
  givesHz: ({ given }: { given: number }) => `gives ${formatFigure(given, 1)} Hz`,
  measuredHz: ({ seen }: { seen: number }) => `measured ${formatFigure(seen, 1)} Hz`,
  preset3: ({ number, way }: { number: number; way: string }) => `Preset ${number}${way}`,
  noPresetIsChosenNow: 'No preset is chosen now.',
  presetIsChosenNow: ({ chosen }: { chosen: number }) => `Preset ${chosen} is chosen now.`,
};
