export const say = {
  itRunsOnThrough: 'It runs on through',
  noTrip: 'no trip',
  trips: ({ through }: { through: number }) => `${through} trips`,
  everyTripStopsIt: 'Every trip stops it.',
  theseStopItEvenSo: 'These stop it even so',
  trips2: ({ stops }: { stops: number }) => `${stops} trips`,
  safeTorqueOffAlwaysStops: ({ names, through }: { names: string; through: number }) =>
    `${names}. Safe torque off always stops it. After the others it tries again every few seconds${through === 0 ? ' only where restarts are set' : ', without end'}.`,
  emergencyVentilation: 'Emergency ventilation',
  live: 'Live',
  lastS: ({ shownSeconds }: { shownSeconds: number }) => `last ${shownSeconds} s`,
  knowsOfNoEmergencyAny: ({ family }: { family: string }) =>
    `${family} knows of no emergency: any trip stops it. Smoke has to be drawn off by another fan.`,
  itRunsInEmergencyNow:
    'It runs in emergency now: stops, trips and selectors are passed over as set. Only its contact, safe torque off or the mains end it.',
  testedItDueAgainBy: ({ when, author, proofText, dueAt }: { when: string; author: string; proofText: string; dueAt: string }) =>
    `Tested ${when}, ${author}: it ${proofText}. Due again by ${dueAt}.`,
  writeTheDraftFirst: 'write the draft first',
  proveIt: 'Prove it',
  makeSureThatTheFan: ({ watched }: { watched: string }) =>
    `Make sure that the fan may run at any moment. Let the detector’s contact ask for it, provoke a trip it has to run on through, then let the contact go back. ${watched}`,
  seenJustNowIt: ({ seen }: { seen: string }) => `Seen just now: it ${seen}.`,
  countItTestedToday: 'Count it: tested today',
  asLastRead: 'as last read',
  notReadYet: 'not read yet',
};
