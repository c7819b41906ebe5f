export const say = {
  vHzPhCM: ({
    voltage,
    frequency,
    phases,
    ambient,
    altitude,
    cableLength,
  }: {
    voltage: number;
    frequency: number;
    phases: number;
    ambient: number | string;
    altitude: number | string;
    cableLength: number | string;
  }) => `${voltage} V ${frequency} Hz ${phases} ph, ${ambient} °C, ${altitude} m, cable ${cableLength} m`,
  whatItDrives: 'what it drives',
  cableLength: 'cable length',
  lockAndTagVoltageTester: 'Lock and tag, voltage tester',
  theIsolatorIsLockedOff: 'the isolator is locked off by whoever works',
  insulationTesterV: 'Insulation tester, 500 V',
  theMotorIsMeasuredBefore: 'the motor is measured before it is connected',
  multimeter: 'Multimeter',
  threeLineVoltages: 'three line voltages',
  torchAndCloth: 'Torch and cloth',
  thePlateIsReadNot: 'the plate is read, not guessed; a photo of it is kept',
  waterInThePump: 'Water in the pump',
  aDrySealBurnsWithin: 'a dry seal burns within the direction test',
  somebodyAtTheFan: 'Somebody at the fan',
  theWheelIsLookedAt: 'the wheel is looked at while it turns slowly',
  anEmptyBeltAndSomebody: 'An empty belt and somebody at its tail',
  theDirectionTestMovesIt: 'the direction test moves it',
  anEmptyHookAndNobody: 'An empty hook, and nobody under it',
  theDirectionTestLiftsAnd: 'the direction test lifts and lowers it',
  aWayToHoldThe: 'A way to hold the load',
  theHoldingBrakeIsOpened: 'the holding brake is opened by the drive',
  outputChokeOrFilter: 'Output choke or filter',
  mOfMotorCablePulses: ({ cableLength, longCable }: { cableLength: null | number; longCable: number }) =>
    `${cableLength} m of motor cable: pulses reflect at the motor and stress its first turns above about ${longCable} m`,
  screenedMotorCable: 'Screened motor cable',
  anOpenOneDisturbsWhat: 'an open one disturbs what lies beside it',
  aDriveMadeForOne: 'A drive made for one phase, or twice the size',
  halfOfItsCurrentIs: 'half of its current is left on one phase',
  supplyPlaceAndCableNot: 'supply, place and cable not recorded',
  lacks: ({ lacks }: { lacks: string }) => `lacks ${lacks}`,
  recorded: 'recorded',
};
