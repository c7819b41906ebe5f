import type { DriveRating } from './parameters';

/** Time constant of a heatsink with its fan, s (common practice for these sizes). */
const heatsinkTime = 150;

/**
 * Heatsink after a step, °C. Rises with the loss by `heatsinkRise` at rated current; without its fan three times as much.
 * @param loss W now @param ratedLoss W at rated current
 */
export function stepHeatsink(temperature: number, rating: DriveRating, loss: number, ambient: number, fanRuns: boolean, dt: number): number {
  const ratedLoss = rating.idleLoss + rating.lossPerAmpere * rating.current;
  const goal = ambient + (rating.heatsinkRise * (fanRuns ? 1 : 3) * loss) / ratedLoss;
  return temperature + (goal - temperature) * (1 - Math.exp(-dt / (heatsinkTime * (fanRuns ? 1 : 2))));
}

/** Time constant of a wire-wound brake resistor, s (common practice: ten times its power for some six seconds). */
export const resistorTime = 60;

/** Heat of a resistor after a step, 1 being what it carries for ever. */
export const stepResistorHeat = (heat: number, share: number, dt: number): number => heat + (share - heat) * (1 - Math.exp(-dt / resistorTime));
