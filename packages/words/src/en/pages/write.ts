import { formatFigure } from '@yare/core/units';

export const say = {
  onlyAtStandstill: ' · only at standstill',
  notKnown: 'not known',
  now: ({ isText }: { isText: string }) => ` · now ${isText}`,
  theDraftSaysThisDrive: ({
    value,
    unit,
    step,
    textOf,
    abs,
    off,
    severity,
  }: {
    value: number;
    unit: string;
    step: number;
    textOf: string;
    abs: number;
    off: number;
    severity: string;
  }) =>
    `The draft says ${value} ${unit}; this drive holds steps of ${step} and will store ${textOf} ${unit}, ${formatFigure(abs, 1)} % ${off > 0 ? 'more' : 'less'}.${severity === 'good' ? ' Little enough.' : ''}`,
  inDrive: 'In drive',
  factory: 'Factory',
  asFound: 'As found',
  draftAndDriveAgreeIn: ({ all }: { all: number }) => `Draft and drive agree in all ${all} settings. Nothing to write.`,
  theDriveWasNotRead: 'The drive was not read yet.',
  noDifference: 'No difference.',
  theDraftAgainst: 'The draft against',
  theDriveWasNotRead2: 'The drive was not read yet. As soon as it answers, its settings are listed here against the draft.',
  ofSettings: ({ shown, all }: { shown: number; all: number }) => `${shown} of ${all} settings`,
  theDraftIsNotAs: ({ against }: { against: string }) => `The draft is not as ${against === 'factory' ? 'from the factory' : 'found'}`,
  stillDiffering: 'Still differing',
  whatDiffers: 'What differs',
  willChangeInTheDrive: 'Will change in the drive',
  howMuchToWrite: 'How much to write',
  chosen: 'Chosen',
  oneByOne: 'one by one',
  all: 'All',
  compareWithSomethingElse: 'Compare with something else',
  aRevisionAnotherMachine: 'a revision, another machine',
  value: ({ n }: { n: number }) => `${n} ${n === 1 ? 'value' : 'values'}`,
  isWritingToAtThis: ({ author, tag }: { author: string; tag: string }) => `${author} is writing to ${tag} at this moment.`,
  ofWereInTheDrive: ({
    report,
    sentence,
    lines,
    lines2,
    rest,
  }: {
    report: boolean;
    sentence: string;
    lines: number;
    lines2: number;
    rest: boolean;
  }) =>
    `${report ? '' : `${sentence} `}${lines} of ${lines2} were in the drive, not kept. ${rest ? 'Writing the rest reads each one again first.' : 'The next write begins afresh.'}`,
  beginAfreshInstead: 'Begin afresh instead',
  theDriveHoldsValuesIn: 'The drive holds values in working memory that are gone at power-off.',
  keeping: 'Keeping…',
  keepThem: 'Keep them',
  anotherAnswers: ({ family, size, read }: { family: string; size: string; read: string }) =>
    `${family} ${size} answers instead of the drive on record: take it on the Drive stage, or check the Modbus address. ${read}`,
  theDriveOfDoesNot: ({ tag, read }: { tag: string; read: string }) => `The drive of ${tag} does not answer. ${read}`,
  whatIsListedAsIn: ({ when }: { when: string }) => `What is listed as in drive was read ${when}.`,
  itWasNeverRead: 'It was never read.',
  isTurningSettingsLockedWhile: ({ tag }: { tag: string }) =>
    `${tag} is turning. Settings locked while running will be refused and nothing will be changed; let it stand first.`,
  lookedAheadWithThisDraft: ({ sentence }: { sentence: string }) => `Looked ahead with this draft: ${sentence}`,
  goToMotion: 'Go to Motion',
  goThere: 'Go there',
  readBackTheSame: 'read back the same',
  putBackAsItWas: 'put back as it was',
  notWritten: 'not written',
  notKnownReadTheDrive: 'not known: read the drive',
  was: ({
    code,
    resultText,
    sentence,
    textOf,
    unit,
  }: {
    code: string;
    resultText: string;
    sentence: undefined | string;
    textOf: string;
    unit: string;
  }) => `${code} · ${resultText}${sentence ? `: ${sentence}` : ''} · was ${textOf} ${unit}`,
  writingAndReadingBack: 'Writing and reading back',
  ofText: ({ done, ofText }: { done: number; ofText: number }) => `${done} of ${ofText}`,
  backTo: ({ name }: { name: string }) => `Back to ${name}`,
  holdToWrite: ({ extent, count, values }: { extent: string; count: number; values: string }) =>
    `Hold to write ${extent === 'all' ? `all ${count}` : values}`,
  holdToWriteTheRest: ({ values }: { values: string }) => `Hold to write the rest: ${values}`,
  stopAndPutBack: 'Stop and put back',
  reading: 'Reading…',
  readFromDrive: 'Read from drive',
  write: 'Write',
  whatWasWritten: 'What was written',
  whatTheSettingsDo: 'What the settings do',
  whereItBrokeOff: 'Where it broke off',
  lastWrite: 'Last write',
  rangeToStep: ({ min, max, unit, step }: { min: number; max: number; unit: string; step: number }) =>
    ` Range ${min} to ${max}${unit}, step ${step}.`,
};
