/** A tank that pumps draw from and something fills. */
export interface Sump {
  /** m², as seen from above */
  area: number;
  /** m³/s into it */
  inflow: number;
  /** m, level against the one the plant was built for at which it is empty and pumps draw air */
  dryLevel: number;
}

/** m, above which it spills over. */
const spillLevel = 2;

/**
 * Level after a step, by what flows in and out.
 * @param level m @param drawn m³/s by all pumps together @param dt s
 */
export function sumpLevel(level: number, sump: Sump, drawn: number, dt: number): number {
  const next = level + ((sump.inflow - drawn) * dt) / sump.area;
  return next < sump.dryLevel ? sump.dryLevel : next > spillLevel ? spillLevel : next;
}
