import { nth } from '../present';

/** Voltage unbalance after NEMA MG 1: 100 × largest deviation from the mean over the mean, %. */
export function voltageUnbalance(ab: number, bc: number, ca: number): number {
  const mean = (ab + bc + ca) / 3;
  return (100 * Math.max(Math.abs(ab - mean), Math.abs(bc - mean), Math.abs(ca - mean))) / mean;
}

/** NEMA MG 1 derating by unbalance in % (figure from memory). */
const derating: ReadonlyArray<readonly [number, number]> = [
  [0, 1],
  [1, 1],
  [2, 0.95],
  [3, 0.88],
  [4, 0.82],
  [5, 0.75],
];

/** Share of rated output a motor may give at an unbalance in %; null above 5 %, where NEMA MG 1 does not let it run. */
export function unbalanceDerating(percent: number): number | null {
  if (percent > 5) return null;
  const i = Math.max(
    1,
    derating.findIndex(([p]) => p >= percent),
  );
  const [p0, d0] = nth(derating, i - 1);
  const [p1, d1] = nth(derating, i);
  return d0 + ((percent - p0) / (p1 - p0)) * (d1 - d0);
}

/** Least insulation resistance at 40 °C of low-voltage random-wound machines, Ω (IEEE 43, from memory). */
export const leastInsulation = 5e6;

/** What a winding is insulated with: old shellac and asphalt, or the resins of most motors now. */
export const windingInsulations = ['thermosetting', 'thermoplastic'] as const;
export type WindingInsulation = (typeof windingInsulations)[number];

/** K of the two temperature coefficients of thermosetting insulation, below and above 40 °C (IEEE 43-2013, from memory). */
const below40 = 1245;
const above40 = 4230;
const kelvin = 273;
const at40 = kelvin + 40;

/**
 * An insulation reading in Ω at a winding temperature in °C, as it would be at 40 °C (IEEE 43-2013, from memory): of a thermoplastic winding
 * halved for each 10 K it rises, of a thermosetting one R exp(−B (1/T − 1/313)). Unknown (null): the lower of both, to be on the safe side.
 */
export function insulationAt40(reading: number, temperature: number, winding: WindingInsulation | null = null): number {
  if (winding === null) return Math.min(...windingInsulations.map((w) => insulationAt40(reading, temperature, w)));
  if (winding === 'thermoplastic') return reading * 2 ** ((temperature - 40) / 10);
  return reading * Math.exp(-(temperature > 40 ? above40 : below40) * (1 / (temperature + kelvin) - 1 / at40));
}
