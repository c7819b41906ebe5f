export const say = {
  revisions: 'Revisions',
  settingsSheet: 'Settings sheet',
  whatItWouldBringBack: 'What it would bring back',
  bringingARevisionBackMakes: 'Bringing a revision back makes a new one of the draft; nothing is lost and nothing is written to the drive.',
  text: ({ revisions, next }: { revisions: number; next: null | number }) => `${revisions}${next === null ? '' : ' newest'}`,
  newestFirst: 'Newest first',
  ofThePreviousDrive: ({ author, when, otherDrive, changed }: { author: string; when: string; otherDrive: boolean; changed: number }) =>
    `${author}, ${when}${otherDrive ? ' · of the previous drive' : changed > 0 ? ` · ${changed} changed` : ''}`,
  readingIt: 'Reading it…',
  theDraftIsJustAs: 'The draft is just as it was then.',
  settingOfTheDraftIs: ({ changes }: { changes: number }) =>
    `${changes} ${changes === 1 ? 'setting of the draft is' : 'settings of the draft are'} not as then.`,
  bringBackIntoTheDraft: ({ changes }: { changes: number }) => `Bring ${changes} back into the draft`,
};
