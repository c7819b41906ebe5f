import { formatFigure, givenBackAt, hardestStopFrom, Switch, type MachineSpec } from '@yare/core';
import type { MotionFinding } from './motionFindings';

export const kilowatts = (watts: number): string => `${formatFigure(watts / 1000, 2)} kW`;

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
    ? `a brake resistor between ${ohms(rating.leastResistance)} and ${ohms(mostResistance)} Ω that carries ${kilowatts(power)} for ever`
    : `a larger drive: this one may not have less than ${ohms(rating.leastResistance)} Ω, and ${ohms(mostResistance)} Ω would be wanted`;
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
  const at = `at ${formatFigure(top, 1)} Hz`;
  const back = lowers
    ? `Lowering the load ${at} gives back ${kilowatts(runs.power)} for as long as it goes down`
    : `The load drives the motor: ${at} it gives back ${kilowatts(runs.power)} for as long as it runs`;
  const on = chopper === Switch.on;
  const holds = on && brakeResistance <= runs.mostResistance;
  const taken = holds && resistorPower >= runs.power;
  const fitted = `${formatFigure(brakeResistance, 0)} Ω with ${kilowatts(resistorPower)} does not take that`;
  const trips = holds ? 'the resistor gets too hot and the drive trips' : lowers ? 'the DC bus trips' : 'the DC bus trips whatever the ramps';
  return {
    id: lowers ? 'lowering' : 'overhauling',
    row: 'decelerationTime',
    severity: taken ? 'good' : 'error',
    sentence: taken
      ? `${back}; the brake resistor of ${formatFigure(brakeResistance, 0)} Ω carries ${kilowatts(resistorPower)}.`
      : `${back}, and ${on ? fitted : 'nothing takes that'}: ${trips}${lowers ? ' and the holding brake has to catch the load' : ''}. It wants ${wanted(spec, runs)}.`,
  };
}
