import { formatFigure } from '@yare/core/units';

export const say = {
  timesTheNeed: ({ m }: { m: number }) => `${formatFigure(m, 1)} times the need`,
  toSpare: ({ abs, abs2, m }: { abs: number; abs2: number; m: boolean }) => `${formatFigure(abs, abs2)} % ${m ? 'to spare' : 'too small'}`,
  drive: 'Drive',
  reading: 'Reading…',
  readFromDrive: 'Read from drive',
  isItBigEnoughHere: 'Is it big enough here?',
  bigEnoughHere: 'Big enough here?',
  asFound: 'As found',
  theDriveAtModbusAddress: ({
    unitId,
    family,
    size,
    family2,
    size2,
  }: {
    unitId: number;
    family: string;
    size: string;
    family2: string;
    size2: string;
  }) =>
    `The drive at Modbus address ${unitId} says that it is ${family} ${size}. On record is ${family2} ${size2}: nothing is read from it or written to it.`,
  take: ({ family, size }: { family: string; size: string }) => `Take ${family} ${size}`,
  carriesAHereAndThe: ({ family, size, a, a2, marginText }: { family: string; size: string; a: string; a2: string; marginText: string }) =>
    `${family} ${size} carries ${a} A here and the motor asks ${a2} A: ${marginText}.`,
  familyAndSize: 'Family and size',
  driveFamily: 'Drive family',
  sizes: 'Sizes',
  ofText: ({ ratings, family }: { ratings: number; family: string }) => `${ratings} of ${family}`,
  getsItsDraftBeginsAnew: ({ tag, family, size, region }: { tag: string; family: string; size: string; region: number }) =>
    `${tag} gets ${family} ${size}. Its draft begins anew: factory of ${region} Hz, the plate, and what can be carried over. Sheets and proofs of the previous drive stay in the history and no longer count.`,
  changing: 'Changing…',
  thatIsTheDriveThat: 'That is the drive that stands there',
  kw: ({ power }: { power: number }) => `${power} kW`,
  onePhaseDoubled: 'one phase, doubled',
  forToVOnly: ({ supplyMin, supplyMax }: { supplyMin: number; supplyMax: number }) => `for ${supplyMin} to ${supplyMax} V only`,
  ambient: 'Ambient',
  altitude: 'Altitude',
  carrierFrequency: 'Carrier frequency',
  supplyPhases: 'Supply phases',
  ratedCurrent: 'Rated current',
  ofTheSizeContinuous: 'of the size, continuous',
  availableHere: 'Available here',
  underAllOfThemTogether: 'under all of them together',
  fullLoadCurrent: 'Full-load current',
  ofThePlate: 'of the plate',
  overload: 'Overload',
  ofTheMotorsCurrentFor: ({ left }: { left: number }) => `${formatFigure(left, 0)} % of the motor’s current for 60 s`,
  voltageUnbalance: 'Voltage unbalance',
  aboveNoMotorMayRun: 'above 5 %: no motor may run on it',
  ofTheSupplyTheDrive: 'of the supply; the drive evens it out for its motor',
  notReadYetAsSoon: 'Not read yet. As soon as the drive answers, all of its settings are kept as found, before anything is written.',
  read: 'Read',
  everySettingBeforeAnythingWas: 'every setting, before anything was changed',
  notAsFromTheFactory: 'Not as from the factory',
  settings: ({ moved }: { moved: number }) => `${moved} settings`,
  factory: ({ code, textOf }: { code: string; textOf: string }) => `${code} · factory ${textOf}`,
  valuesDifferBetweenAndHz: ({ differing }: { differing: number }) => `${differing} values differ between 50 and 60 Hz`,
  factoryStart: 'Factory start',
  region: 'Region',
  hz: ({ x }: { x: number }) => `${x} Hz`,
  asNow: 'as now',
  leaveTheDraftAsIt: 'Leave the draft as it is',
  setTheWholeDraftTo: ({ to }: { to: number }) => `Set the whole draft to factory of ${to} Hz`,
  itIsSoAlreadyNothing: 'it is so already: nothing to undo',
  undoesValueOfTheDraft: ({ lost }: { lost: number }) => `undoes ${lost} ${lost === 1 ? 'value' : 'values'} of the draft; nothing is written by it`,
  thisUndoesValueOfThe: ({ lost, tag, to }: { lost: number; tag: string; to: number }) =>
    `This undoes ${lost} ${lost === 1 ? 'value' : 'values'} of the draft of ${tag}, listed below, and takes the factory values of ${to} Hz. Undo on the settings sheet brings them back; the drive itself stays as it is until you write.`,
  undoAndStartFromFactory: ({ lost }: { lost: number }) => `Undo ${lost} and start from factory`,
};
