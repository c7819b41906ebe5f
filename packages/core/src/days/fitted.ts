import { slipPerTorque } from '../controls';
import { gravity, pumpPower, waterDensity, type PumpLoad } from '../load';
import type { MachineSpec } from '../machine';

const rhoG = waterDensity * gravity;

/** What a run through some speeds against the shut valve showed: Hz, and the Pa at which the pressure stood. */
export type ShutPoint = { frequency: number; pressure: number };

/** What a small draw that somebody knows showed: m³/s of it, Hz at which the pump held the pressure in Pa, and how it fell by itself: Pa per s, pump at rest. */
export interface DrawShown {
  flow: number;
  frequency: number;
  pressure: number;
  falls: number;
}

/** Share by which the pressure has to be higher than at the speed before: a check valve holds what a pipe was left with. */
const rises = 0.01;
/** Share of the pressure to be kept within which a point tells of the head there. */
const near = 0.3;
/** A head further than this off the plate's is another machine's, or the valve was not shut. */
const farOff = 0.25;

/**
 * Head at no flow and rated speed, m, as a run against the shut valve shows it: p/ρg + static head = H₀ ν² (affinity laws), by least squares over the points
 * near the pressure to be kept at which it rose, with the slip that the torque against a shut valve makes. Null without points, or far off the plate's.
 */
export function shutOffShown(spec: Pick<MachineSpec, 'circuit' | 'drive'>, pump: PumpLoad, points: readonly ShutPoint[], set: number): number | null {
  const slip = slipPerTorque(spec);
  let above = 0;
  let below = 0;
  // the first tells only what the pipe was left with
  let before = Infinity;
  for (const { frequency, pressure } of [...points].sort((a, b) => a.frequency - b.frequency)) {
    const rose = pressure > before + rises * set;
    before = before === Infinity ? pressure : Math.max(before, pressure);
    if (!rose || Math.abs(pressure / set - 1) > near) continue;
    const field = (frequency * 4 * Math.PI) / spec.circuit.poles;
    const speed = ((frequency - slip * (pumpPower(pump, field, 0) / field)) * 4 * Math.PI) / spec.circuit.poles;
    const square = (speed / pump.ratedSpeed) ** 2;
    above += square * (pump.staticHead + pressure / rhoG);
    below += square * square;
  }
  const head = above / below;
  return below > 0 && Math.abs(head / pump.shutOffHead - 1) < farOff ? head : null;
}

/** Share by which the curve's fall may be off the plate's: near no flow curves differ much. */
const bent = 4;

/**
 * What pump and valve lose near no flow, m per (m³/s)² (told as the valve's, so that the power stays the pump's), from the frequency that holds the pressure with a small draw, once the head at no flow is known; and the
 * elasticity of pipe and accumulator, m³/Pa, from how fast the pressure falls with the pump at rest: C = q / (−dp/dt). What makes no sense is left out.
 */
export function drawnShown(
  spec: Pick<MachineSpec, 'circuit' | 'drive'>,
  pump: PumpLoad,
  { flow, frequency, pressure, falls }: DrawShown,
): Partial<Pick<PumpLoad, 'shutOffHead' | 'valveFall' | 'compliance'>> {
  const perHertz = (4 * Math.PI) / spec.circuit.poles;
  const field = frequency * perHertz;
  const speed = (frequency - slipPerTorque(spec) * (pumpPower(pump, field, flow) / field)) * perHertz;
  const square = (speed / pump.ratedSpeed) ** 2;
  const against = pump.staticHead + pressure / rhoG;
  const lost = pump.shutOffHead * square - against;
  const fall = lost / (flow * flow);
  const sane = flow > 0 && fall > pump.headFall / bent && fall < pump.headFall * bent;
  // where the two runs contradict, the one with the draw counts: it is where the pump is to sleep
  const shutOffHead = (against + (pump.headFall + pump.valveFall) * flow * flow) / square;
  return { ...(sane ? { valveFall: fall - pump.headFall } : { shutOffHead }), ...(falls > 0 && flow > 0 && { compliance: flow / falls }) };
}
