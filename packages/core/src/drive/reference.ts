import { ReversePermit } from './choices';
import type { SpeedLimits } from './parameters';

/** Out of a skip band: to the edge on the side the output stands on. Hz, sizes without sign. */
function outOfBand(size: number, present: number, centre: number, width: number, minimum: number): number {
  if (width <= 0) return size;
  const low = centre - width / 2;
  const high = centre + width / 2;
  if (size <= low || size >= high) return size;
  // a ramp that arrived stands a rounding beside its goal
  return present >= high - 1e-6 || low < minimum ? high : low;
}

/**
 * The reference a drive makes of what it is given: direction permitted or not, held between minimum and maximum, out of the
 * skip bands. Hz, signed.
 * @param present Hz, where the ramp stands: a band is left on that side
 */
export function clampReference(p: SpeedLimits, reference: number, present = 0): number {
  if (reference === 0) return 0;
  if (reference < 0 && p.reversePermit === ReversePermit.forbidden) return 0;
  let size = Math.min(Math.max(Math.abs(reference), p.minimumFrequency), p.maximumFrequency);
  const stands = reference * present > 0 ? Math.abs(present) : 0;
  size = outOfBand(size, stands, p.skipCentre, p.skipWidth, p.minimumFrequency);
  size = outOfBand(size, stands, p.skipCentre2, p.skipWidth2, p.minimumFrequency);
  return reference < 0 ? -size : size;
}

/** What changed a reference on its way to the ramp. */
export type Limited = 'reverse forbidden' | 'minimum' | 'maximum' | 'skip band';

/** What made a reference differ from the one that was asked, Hz; null when nothing did. */
export function limitedBy(p: SpeedLimits, asked: number, given: number): Limited | null {
  if (given === asked) return null;
  if (given === 0) return 'reverse forbidden';
  const size = Math.abs(asked);
  if (size < p.minimumFrequency) return 'minimum';
  return size > p.maximumFrequency ? 'maximum' : 'skip band';
}
