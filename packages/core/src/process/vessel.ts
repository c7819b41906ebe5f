/**
 * Pressure after a step in a volume that gives way: a header, a pipe with an accumulator, a duct full of air. Taken at the end of the step and
 * linearised (one Newton step of the implicit Euler rule: Hairer, Wanner, *Solving Ordinary Differential Equations II*, ch. IV.8), because valve
 * and pump are stiff near no flow.
 * @param pressure Pa gauge @param flow m³/s in less out, at that pressure
 * @param stiffness m³/s per Pa by which a higher pressure lessens that flow @param compliance m³/Pa @param dt s
 */
export function vesselPressure(pressure: number, flow: number, stiffness: number, compliance: number, dt: number): number {
  const next = pressure + (flow * dt) / (compliance + dt * stiffness);
  return next < 0 ? 0 : next;
}
