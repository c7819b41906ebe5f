import { formatFigure } from '@yare/core/units';

export const say = {
  vHzMotorOnA: ({
    voltage,
    frequency,
    supply,
    onset,
    torque,
  }: {
    voltage: number;
    frequency: number;
    supply: number;
    onset: string;
    torque: string;
  }) =>
    `${voltage} V ${frequency} Hz motor on a ${supply} V supply: from ${onset} on the drive has no more volts to give. Above that the field weakens${torque}. Full torque ends at ${onset}.`,
  atItsGreatestTorqueIs: ({ hertz, share }: { hertz: string; share: number }) =>
    `; at ${hertz} its greatest torque is ${formatFigure(share, 0)} % of that at plate volts (estimate)`,
  limitTo: ({ hertz }: { hertz: string }) => `Limit to ${hertz}`,
  thePlateSaysVFor: ({ voltage, voltage2, amperes }: { voltage: number; voltage2: number; amperes: string }) =>
    `The plate says ${voltage} V for this connection and the supply has ${voltage2} V. The drive holds the motor to ${voltage} V, but at ${amperes} instead of the smaller current of the higher voltage, and its links must really lie that way.`,
  useTheVConnection: ({ voltage, amperes }: { voltage: number; amperes: string }) => `Use the ${voltage} V connection, ${amperes}`,
  thePlateIsEnteredFor: ({ connection, text, sqrt }: { connection: string; text: string; sqrt: number }) =>
    `The plate is entered for ${connection} and the draft says ${text}. Star figures with delta links make ${formatFigure(sqrt, 2)} times the flux, and three times the magnetising current or more: they must agree with the links in the box.`,
  setTo: ({ code, connection }: { code: string; connection: string }) => `Set ${code} to ${connection}`,
  rpm: ({ x }: { x: number }) => `${formatFigure(x, 0)} rpm`,
  runOnToTheMotor: ({ hertz, volts, connection, voltage }: { hertz: string; volts: string; connection: string; voltage: number }) =>
    `Run on to ${hertz}, the motor wants ${volts} on windings in delta; the plate is entered for ${connection} and the supply has ${voltage} V.`,
  useTheFrequencyStamped: 'Use the frequency stamped',
  inDeltaTheMotorKeeps: ({
    hertz,
    volts,
    power,
    rpm,
    amperes,
    speed,
  }: {
    hertz: string;
    volts: string;
    power: number;
    rpm: string;
    amperes: string;
    speed: number;
  }) =>
    `In delta the motor keeps its flux up to ${hertz} and ${volts}: ${formatFigure(power, 1)} kW at ${rpm} with the ${amperes} of delta all the way, and the machine turns ${formatFigure(speed, 2)} times as fast. Its links must lie in delta.`,
  theDriveCarriesInDelta: ({ amperes, amperes2 }: { amperes: string; amperes2: string }) =>
    `The drive carries ${amperes}, in delta the motor takes ${amperes2}: a larger drive.`,
  isAboveTheAStandard: ({ rpm, rpm2 }: { rpm: string; rpm2: string }) =>
    `${rpm} is above the ${rpm2} a standard motor of this size may turn for ever: ask its maker about rotor, bearings and fan.`,
  isWithinTheAStandard: ({ rpm, rpm2 }: { rpm: string; rpm2: string }) =>
    `${rpm} is within the ${rpm2} a standard motor of this size may turn for ever; grease and fan noise are those of that speed.`,
  oneFigureDoesNotFit: 'one figure does not fit',
  figuresDoNotFit: ({ findings }: { findings: number }) => `${findings} figures do not fit`,
  theFiguresFitOneAnother: 'the figures fit one another',
  theFiguresFitTheSurvey: 'the figures fit; the survey comes first',
  inDeltaEachPhaseStands: ({ supply, star, delta }: { supply: number; star: number; delta: number }) =>
    `In delta each phase of the winding stands at the drive’s ${supply} V pulses from line to line: the winding has to be insulated for an inverter on ${supply} V, as one stamped for ${formatFigure(star, 0)}/${formatFigure(delta, 0)} V usually is.`,
};
