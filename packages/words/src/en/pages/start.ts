export const say = {
  pump: 'Pump',
  fan: 'Fan',
  conveyor: 'Conveyor',
  hoist: 'Hoist',
  general: 'General',
  takeValue: ({ changes }: { changes: number }) => `Take ${changes} ${changes === 1 ? 'value' : 'values'}`,
  goToProtection: 'Go to Protection',
  startFrom: 'Start from',
  notToBeCopied: 'Not to be copied',
  nothingIsWrittenToThe: 'Nothing is written to the drive here: only the draft changes.',
  aTemplate: 'A template',
  forItsKind: 'for its kind',
  anotherMachine: 'Another machine',
  whatIsAlike: 'what is alike',
  valueTakenIntoTheDraft: ({ done, tag }: { done: number; tag: string }) =>
    `${done} ${done === 1 ? 'value' : 'values'} taken into the draft of ${tag}. Nothing was written to the drive.`,
  kindOfMachine: 'Kind of machine',
  wouldChange: ({ changes }: { changes: number }) => `${changes} would change`,
  whatItWouldPutInto: 'What it would put into the draft',
  theDraftSaysAllOf: 'The draft says all of it already.',
  isAAndIsA: ({ other, otherKind, tag, kind }: { other: null | string; otherKind: string; tag: string; kind: string }) =>
    `${other} is a ${otherKind}, and ${tag} is a ${kind}: what is set for its kind stays there. Look at every value before it is taken.`,
  settings: ({ left }: { left: number }) => `${left} settings`,
  nowLeftOutTapTo: ({ code, why, textOf, has }: { code: string; why: string; textOf: string; has: boolean }) =>
    `${code} · ${why} · now ${textOf} · ${has ? 'left out; tap to take it' : 'tap to leave it out'}`,
  whichMachine: 'Which machine',
};
