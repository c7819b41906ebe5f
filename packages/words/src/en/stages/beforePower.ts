import { formatFigure } from '@yare/core/units';

export const say = {
  isolatorOffYourOwnLock: 'Isolator off, your own lock and tag on it, tester proved before and after. Wait until the DC bus is empty.',
  uprightClearAboveAndBelow: 'Upright, clear above and below, nothing blows hot air into it, ambient as surveyed.',
  earthOfTheMotorOn: 'Earth of the motor on the drive’s motor earth terminal, screen clamped all round at both ends.',
  asDrawnOnThePlate: 'As drawn on the Plate stage for the connection entered there.',
  motorLeadsOffTheDrive: 'Motor leads off the drive. 500 V for one minute between the leads and earth. Never against the drive itself.',
  uVWAtThe: 'U, V, W at the drive’s motor terminals. Never the supply there: it destroys the drive.',
  protectiveEarthOfTheSupply: 'Protective earth of the supply; a second one where the leakage current asks for it.',
  lineTerminalsFusesAsThe: 'Line terminals, fuses as the drive asks, tightened.',
  controlCablesAwayFromPower: 'Control cables away from power, screens at the drive end, safety channels with both wires.',
  atTheSupplyTerminalsIsolator: 'At the supply terminals, isolator on, drive not started: L1–L2, L2–L3, L3–L1.',
  byTheLawOfThe: ', by the law of the winding that gives less',
  correctedToCAtLeast: ({ text, by, least }: { text: string; by: string; least: number }) =>
    `${text} corrected to 40 °C${by}; at least ${least} MΩ is wanted. Sound.`,
  correctedToCIsBelow: ({ text, by, least, winding }: { text: string; by: string; least: number; winding: null | string }) =>
    `${text} corrected to 40 °C${by} is below ${least} MΩ: do not connect it.${winding === null ? ' Say what the winding is insulated with, if it is known.' : ''} Dry the motor, clean its terminal box, measure again; if it stays, the winding is bad.`,
  noVoltsAtAllThe: 'No volts at all: the isolator is off, or every fuse is out. Try the tester on something that is live.',
  unbalanceAboveNoMotorMay: ({ unbalance }: { unbalance: number }) =>
    `${formatFigure(unbalance, 1)} % unbalance: above 5 % no motor may run. Look for a loose terminal, a blown fuse or a single-phase load on this supply.`,
  theSupplyHasVAbove: ({ mean, abs, off, nominal }: { mean: number; abs: number; off: number; nominal: number }) =>
    `The supply has ${formatFigure(mean, 0)} V, ${formatFigure(abs, 0)} % ${off > 0 ? 'above' : 'below'} the ${formatFigure(nominal, 0)} V surveyed. Correct the survey or find out why.`,
  unbalanceTheDcBusEvens: ({ unbalance, derating }: { unbalance: number; derating: number }) =>
    `${formatFigure(unbalance, 1)} % unbalance. The DC bus evens it out for the motor, but the drive’s input current grows uneven and its phase-loss detection may trip; a motor straight on this supply may give ${formatFigure(derating, 0)} %. Find the cause.`,
  unbalance: ({ unbalance, derating, derating2 }: { unbalance: number; derating: number; derating2: number }) =>
    `${formatFigure(unbalance, 1)} % unbalance${derating < 0.999 ? `; a motor straight on this supply may give ${formatFigure(derating2, 0)} %` : ', nothing to derate'}.`,
  theDriveReportsOnIts: ({ bus, deadBus }: { bus: string; deadBus: number }) =>
    `The drive reports ${bus} on its DC bus: it is not dead. Isolator off, then wait until the bus is below ${deadBus} V and prove it with the tester.`,
  theDriveReportsOnIts2: ({ bus, mean, expected }: { bus: string; mean: number; expected: number }) =>
    `The drive reports ${bus} on its DC bus, and ${formatFigure(mean, 0)} V between lines would make about ${formatFigure(expected, 0)} V. One of the two is wrong: measure at the drive’s own line terminals, with the isolator on.`,
  everyCheckPassed: 'every check passed',
  earthsInsulationVoltagesNotProved: 'earths, insulation, voltages not proved',
};
