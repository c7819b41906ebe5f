/**
 * What goes with the square of the speed, at full speed, from what it was at some speeds: least squares through the origin. Torque of a pump or fan against
 * an unchanged system, its pressure, and the drop over a filter do (affinity laws, any handbook of pumps or fans).
 * @param points share of full speed, and the figure there in any unit
 * @returns the figure at full speed in that unit; NaN where nothing turned
 */
export function atFullSpeed(points: ReadonlyArray<{ share: number; figure: number }>): number {
  let [above, below] = [0, 0];
  for (const { share, figure } of points) {
    const square = share * share;
    above += square * figure;
    below += square * square;
  }
  return above / below;
}
