export const say = {
  hand: 'Hand',
  off: 'Off',
  auto: 'Auto',
  workedOutNothingIsSent: 'worked out, nothing is sent',
  tryItHere: 'Try it here',
  selector: 'Selector',
  fromTo: ({ names, names2, sentence }: { names: string; names2: string; sentence: string }) => `From ${names} to ${names2}: ${sentence}`,
  turnItHereToSee: 'Turn it here to see what the machine would do.',
  countItEveryPositionSeen: 'Count it: every position seen',
  handOffAuto: 'Hand-off-auto',
  whatHoldsItBack: 'What holds it back',
  everyPositionSeen: ({ author, when, proofText }: { author: string; when: string; proofText: string }) =>
    `Every position seen: ${author}, ${when}. ${proofText}.`,
  hasNoHandOffAuto: ({ family }: { family: string }) =>
    `${family} has no hand-off-auto: none of its inputs does hand or auto. A selector outside may choose between two run contacts or signals.`,
  noInputIsHandOr: 'No input is hand or auto: this machine has no selector at its drive. Choose hand-off-auto under Ways to wire it, or go on.',
  goToCommand: 'Go to Command',
  turnTheRealSelector: 'turn the real selector',
  positions: 'Positions',
  hereNow: 'here now',
  theFirstOneFirst: 'the first one first',
};
