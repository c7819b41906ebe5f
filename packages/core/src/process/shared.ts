import { fanStiffness, outletOf, type FanLoad } from '../load/fan';
import { demandOf, pumpStiffness, waterFollows, type PumpLoad } from '../load/pump';
import type { LoadState } from '../load/state';
import { sumpLevel, type Sump } from './sump';
import { vesselPressure } from './vessel';

/** One shaft's part in a process: its load, and how that stands. */
export interface Attached<L> {
  load: L;
  state: LoadState;
}

/** A sump several pumps draw from. Advanced in place. */
export interface SharedSump extends Sump {
  /** m */
  level: number;
}

/** Takes what all pumps draw, and tells each the level. Pumps on it have no sump of their own (`sumpArea` 0). */
export function stepSharedSump(sump: SharedSump, pumps: ReadonlyArray<Attached<PumpLoad>>, dt: number): void {
  let drawn = 0;
  for (const { state } of pumps) drawn += state.flow;
  sump.level = sumpLevel(sump.level, sump, drawn, dt);
  for (const { state } of pumps) state.level = sump.level;
}

/**
 * One pressure for all pumps on a header, against the demand of the first of them. Pumps on it are marked `headerShared`; each still has a
 * check valve of its own, so that one that stands takes nothing back.
 */
export function stepSharedHeader(pumps: ReadonlyArray<Attached<PumpLoad>>, dt: number): void {
  const first = pumps[0];
  if (!first) return;
  const { pressure } = first.state;
  const out = demandOf(first.load, pressure);
  let flow = -out.flow;
  let stiffness = out.stiffness;
  for (const { load, state } of pumps) {
    flow += state.flow;
    stiffness += waterFollows(load, dt) * pumpStiffness(load, state.flow);
  }
  const next = vesselPressure(pressure, flow, stiffness, first.load.compliance, dt);
  for (const { state } of pumps) state.pressure = next;
}

/** One pressure for all fans on a duct, against the damper of the first of them. Fans on it are marked `ductShared`. */
export function stepSharedDuct(fans: ReadonlyArray<Attached<FanLoad>>, dt: number): void {
  const first = fans[0];
  if (!first) return;
  const { pressure } = first.state;
  const out = outletOf(first.load, pressure);
  let flow = -out.flow;
  let stiffness = out.stiffness;
  for (const { load, state } of fans) {
    flow += state.flow;
    stiffness += fanStiffness(load, state.flow);
  }
  const next = vesselPressure(pressure, flow, stiffness, first.load.compliance, dt);
  for (const { state } of fans) state.pressure = next;
}
