export const say = {
  compare: 'Compare',
  swapSides: 'Swap sides',
  theTwoSides: 'The two sides',
  ofAnotherFamilyWhatDoes: 'Of another family, what does the same is set beside it, in the codes and units of the first.',
  first: ({ name }: { name: string }) => `First: ${name}`,
  second: ({ name }: { name: string }) => `Second: ${name}`,
  differAgree: ({ differing, equal }: { differing: number; equal: number }) => `${differing} differ, ${equal} agree`,
  differences: 'Differences',
  nothingThereYet: ({ name }: { name: string }) => `${name}: nothing there yet.`,
  theyAgreeInEverythingBoth: 'They agree in everything both have.',
  boldUnderIt: ({ name, name2 }: { name: string; name2: string }) => `Bold: ${name}. Under it: ${name2}.`,
  settingsOfHaveNothingBeside: ({ onlyInOne, name, name2 }: { onlyInOne: number; name: string; name2: string }) =>
    `${onlyInOne} settings of ${name} have nothing beside them in ${name2}.`,
  whichOfItsSheets: 'Which of its sheets',
  ofWhichMachine: 'Of which machine',
};
