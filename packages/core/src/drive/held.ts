/** How a drive's setting holds the figure of its role. */
export interface HeldAs {
  min: number;
  max: number;
  step: number;
  decimals: number;
  /** from the setting's unit to the role's: figure times factor, or where the family states the inverse, `over` divided by the figure */
  factor: number;
  over: number | null;
}

/** A role's figure as the setting holds it: on its step, within its range. */
export function heldFigure({ min, max, step, decimals, factor, over }: HeldAs, inRole: number): number {
  const asked = over === null ? inRole / factor : over / inRole;
  const stored = Math.min(max, Math.max(min, Number((Math.round(asked / step) * step).toFixed(decimals))));
  return over === null ? stored * factor : over / stored;
}
