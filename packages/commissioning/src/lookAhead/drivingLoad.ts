import { formatFigure, givenBackAt, hardestStopFrom, Switch, type MachineSpec } from '@yare/core';
import { say } from '@yare/words/lookAhead';
import type { MotionFinding } from './motionFindings';

export const kilowatts = (watts: number): string => say.kw({ watts: watts / 1000 });

/** V to the trip level below which a bus is close to it. */
export const room = 25;

/** What comes back for as long as a machine runs: W, and Ω at most that take it. */
export interface GivenBack {
  power: number;
  mostResistance: number;
}

/** What a load that drives its motor, or one that is lowered, gives back; null where nothing comes back. */
export function whileItRuns(spec: MachineSpec): GivenBack | null {
  // water and air drive nothing that turns at the speed it is asked for
  if (spec.load.kind === 'pump' || spec.load.kind === 'fan') return null;
  const power = givenBackAt(spec, hardestStopFrom(spec, spec.drive.maximumFrequency));
  if (power <= 0) return null;
  const level = spec.drive.chopper === Switch.on ? spec.drive.chopperLevel : spec.rating.overvoltageTrip - room;
  return { power, mostResistance: (level * level) / power };
}

/** What then has to be fitted, in words. */
function wanted({ rating }: MachineSpec, { power, mostResistance }: GivenBack): string {
  const ohms = (x: number) => formatFigure(x, 0);
  return mostResistance >= rating.leastResistance
    ? say.aBrakeResistorBetweenAnd({ ohms: ohms(rating.leastResistance), ohms2: ohms(mostResistance), kilowatts: kilowatts(power) })
    : say.aLargerDriveThisOne({ ohms: ohms(rating.leastResistance), ohms2: ohms(mostResistance) });
}

/**
 * A load that drives its motor gives back for as long as it runs, a hoist for as long as it lowers: no ramp helps, only a resistor that carries it for
 * ever. Null where nothing comes back.
 */
export function drivingLoad(spec: MachineSpec, top: number): MotionFinding | null {
  const runs = whileItRuns(spec);
  if (!runs) return null;
  const { chopper, brakeResistance, resistorPower } = spec.drive;
  const lowers = hardestStopFrom(spec, top) < 0;
  const at = say.atHz({ top });
  const back = lowers
    ? say.loweringTheLoadGivesBack({ at, kilowatts: kilowatts(runs.power) })
    : say.theLoadDrivesTheMotor({ at, kilowatts: kilowatts(runs.power) });
  const on = chopper === Switch.on;
  const holds = on && brakeResistance <= runs.mostResistance;
  const taken = holds && resistorPower >= runs.power;
  const fitted = say.withDoesNotTakeThat({ brakeResistance, kilowatts: kilowatts(resistorPower) });
  const trips = holds ? say.theResistorGetsTooHot : lowers ? say.theDcBusTrips : say.theDcBusTripsWhatever;
  return {
    id: lowers ? 'lowering' : 'overhauling',
    row: 'decelerationTime',
    severity: taken ? 'good' : 'error',
    sentence: taken
      ? say.theBrakeResistorOfCarries({ back, brakeResistance, kilowatts: kilowatts(resistorPower) })
      : say.andAndTheHoldingBrake({ back, on, fitted, trips, lowers, wanted: wanted(spec, runs) }),
  };
}
