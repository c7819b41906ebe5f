import type { Supply } from './parameters';
import { nth } from '../present';

/**
 * Mean current of a six-pulse diode bridge behind an inductance into a stiff DC bus, in units of √2 U / (ω L), against bus volts in
 * units of √2 U. Above the boundary the current comes in separate pulses: each starts where the line voltage passes the bus and
 * ends when its volt-seconds are used up. Below it conduction is continuous and the mean falls by 3 ω L I / π, giving
 * 1.35 U at light continuous load (Mohan, Undeland, Robbins, *Power Electronics*, ch. 5). At rest it gives √2 U.
 */
function pulseMean(v: number, period: number): number {
  const start = -Math.acos(v);
  const area = (angle: number) => Math.sin(angle) - Math.sin(start) - v * (angle - start);
  const step = period / 400;
  let sum = 0;
  for (let i = 1; i <= 400; i++) {
    const current = area(start + i * step);
    if (current <= 0) break;
    sum += current * step;
  }
  return sum / period;
}

const continuousMean = (v: number): number => ((3 / Math.PI - v) * Math.PI) / 3;

const tablePoints = 256;

/** Of six pulses two lines carry each one, so that twice the inductance of a line stands in its way while they come apart. */
const bothLines = 0.5;

/** One rectifier: its mean current against bus volts, both normalised, and what lies below the table. */
interface Rectifier {
  lowest: number;
  /** table slope scale: dv per entry */
  dv: number;
  table: Float64Array;
  /** bus at rest over √2 U */
  peak: number;
  /** share of the pulse current that charges the whole bus */
  share: number;
}

/** @param share of one line's pulse current that charges the whole bus; the straight part is given for the whole bus already */
function rectifier(period: number, lowest: number, straight: (v: number) => number, peak: number, share: number): Rectifier {
  const table = new Float64Array(tablePoints + 1);
  for (let i = 0; i <= tablePoints; i++) {
    const v = lowest + ((1 - lowest) * i) / tablePoints;
    table[i] = Math.max(v >= 1 ? 0 : share * pulseMean(v, period), straight(v), 0);
  }
  return { lowest, dv: (1 - lowest) / tablePoints, table, peak, share };
}

// the pulse model hands over where its last angle reaches the next pulse; there both agree to the table's width
const sixPulse = rectifier(Math.PI / 3, 0.9, continuousMean, 1, bothLines);
// two pulses a period have π to use up their volt-seconds; below 0.64 U√2 conduction is continuous and the pulse model is kept
const twoPulse = rectifier(Math.PI, 0.3, () => 0, 1, 0.5);
// a doubler's pulse charges one half of the bus, so half its current counts for the whole
const doubling = rectifier(Math.PI, 0.3, () => 0, 2, 0.25);

const rectifierOf = (supply: Pick<Supply, 'rectifier'>): Rectifier =>
  supply.rectifier === undefined || supply.rectifier === 'three-phase' ? sixPulse : supply.rectifier === 'doubler' ? doubling : twoPulse;

/** V the bus takes at rest: √2 U, twice that behind a doubler. */
export const busAtRest = (supply: Pick<Supply, 'voltage' | 'rectifier'>): number => Math.SQRT2 * supply.voltage * rectifierOf(supply).peak;

export interface BusState {
  /** V */
  voltage: number;
  /** 1 while the chopper conducts */
  chopping: number;
  /** W from the rectifier */
  rectifierPower: number;
  /** W into the resistor */
  chopperPower: number;
}

/** A bus charged and at rest. Each figure begins as a fraction, so that the engine never changes how it keeps them (see restingLoad). */
export const restingBus = (supply: Supply): BusState => ({
  voltage: busAtRest(supply) + 1e-9,
  chopping: 0,
  rectifierPower: 0.001,
  chopperPower: 0.001,
});

/**
 * One step of C dV/dt · V = P_rectifier − P_load − P_chopper, in energy so that with the rectifier off ½C ΔV² is exactly the energy
 * given. The rectifier is stiffer than the step, so it is taken at the end of it (linearised).
 * @param load W drawn from the bus; negative when the motor gives back
 */
export function stepBus(
  bus: BusState,
  supply: Supply,
  capacitance: number,
  load: number,
  resistance: number,
  chopOn: number,
  chopOff: number,
  dt: number,
): void {
  const volts = bus.voltage;
  if (resistance > 0) {
    if (bus.chopping === 0 && volts > chopOn) bus.chopping = 1;
    else if (bus.chopping === 1 && volts < chopOff) bus.chopping = 0;
  } else bus.chopping = 0;
  bus.chopperPower = bus.chopping === 1 ? (volts * volts) / resistance : 0;
  const drawn = load + bus.chopperPower;
  const r = rectifierOf(supply);
  const { table, lowest, dv } = r;
  const peak = Math.SQRT2 * supply.voltage * r.peak;
  const square = volts * volts - (2 * dt * drawn) / capacitance;
  const free = square > 1 ? Math.sqrt(square) : 1;
  if (free >= peak) {
    bus.voltage = free;
    bus.rectifierPower = 0;
    return;
  }
  const scale = peak / r.peak / (2 * Math.PI * supply.frequency * supply.inductance);
  // find V' with C (V' − free) = dt · i(V'): Newton on the table's straight pieces; i is convex and falls, so it closes in from below
  const gain = (dt * scale) / (capacitance * peak);
  const u = free / peak;
  if (lowest - u - gain * nth(table, 0) > 0) {
    // below the table: continuous conduction, a straight line for six pulses; two pulses keep the table's end
    const v = r === sixPulse ? (u + gain) / (1 + (gain * Math.PI) / 3) : u + gain * nth(table, 0);
    bus.voltage = v * peak;
    bus.rectifierPower = (capacitance * (bus.voltage * bus.voltage - free * free)) / (2 * dt);
    return;
  }
  let v = volts / peak;
  for (let i = 0; i < 4; i++) {
    v = v < lowest ? lowest : v > 1 ? 1 : v;
    const x = (v - lowest) / dv;
    const j = x < tablePoints - 1 ? x | 0 : tablePoints - 1;
    const steep = (nth(table, j + 1) - nth(table, j)) / dv;
    const current = nth(table, j) + steep * (v - lowest - j * dv);
    const correction = (u + gain * current - v) / (1 - gain * steep);
    v += correction;
    if (correction < 1e-7 && correction > -1e-7) break;
  }
  bus.voltage = v * peak;
  bus.rectifierPower = (capacitance * (bus.voltage * bus.voltage - free * free)) / (2 * dt);
}

/** Highest phase RMS voltage a bus can give without overmodulation beyond its first full use, V: V_bus / (√2 √3). */
export const voltageCeiling = (busVoltage: number): number => busVoltage / (Math.SQRT2 * Math.sqrt(3));
