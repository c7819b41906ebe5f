/**
 * Thermal overload as a first-order model of I² with the continuous level at 1.1 of the setting. The time constant is set so
 * that 150 % from warm trips after 6 s per class number (class 10: 60 s), which keeps the limits of IEC 60947-4-1 (from memory):
 * 1.05 × never, 1.5 × warm and 7.2 × cold inside the class.
 */
const continuous2 = 1.1 ** 2;

/** s */
export const overloadTimeConstant = (tripClass: number): number => (6 * tripClass) / Math.log((2.25 - 1) / (2.25 - continuous2));

/** Share of rated current a self-cooled motor carries for ever at a share of rated speed: 0.5 at standstill, 1 from 0.6 up (common practice). */
export const coolingShare = (forced: boolean, speedShare: number): number => (forced || speedShare >= 0.6 ? 1 : 0.5 + (0.5 * speedShare) / 0.6);

/** Heat after a step, 1 being the trip point. `ratio` is current over setting, `dt` s, `tau` s. */
export const stepHeat = (heat: number, ratio: number, tau: number, dt: number, continuous = 1.1): number =>
  heat + ((ratio * ratio) / (continuous * continuous) - heat) * (1 - Math.exp(-dt / tau));

/** What a duty class carries for ever, over rated current: a fifth of its overload on top, 1.1 at heavy duty, 1.02 at normal duty. */
export const driveContinuous = (overloadShare: number): number => 1 + (overloadShare - 1) / 5;

/** Time constant in s with which a drive warm from rated current trips after 60 s at its duty's overload (110 % or 150 %, common practice). */
export const driveOverloadTime = (overloadShare: number): number =>
  60 / Math.log((overloadShare ** 2 - 1) / (overloadShare ** 2 - driveContinuous(overloadShare) ** 2));

/** Time in s at a constant ratio until the trip, from a heat; Infinity when it never trips. */
export function timeToTrip(ratio: number, tripClass: number, heat = 0): number {
  const end = (ratio * ratio) / continuous2;
  return end <= 1 ? Infinity : overloadTimeConstant(tripClass) * Math.log((end - heat) / (end - 1));
}

/** Time in s at a constant current over the drive's rated one until its own overload trips, warm from rated current; Infinity when it never does. */
export function driveTimeToTrip(ratio: number, overloadShare: number): number {
  const continuous = driveContinuous(overloadShare) ** 2;
  const end = (ratio * ratio) / continuous;
  return end <= 1 ? Infinity : driveOverloadTime(overloadShare) * Math.log((end - 1 / continuous) / (end - 1));
}

/** Heat in the steady state at a ratio. */
export const steadyHeat = (ratio: number): number => (ratio * ratio) / continuous2;
