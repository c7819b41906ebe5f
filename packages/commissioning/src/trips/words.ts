import { formatFigure } from '@yare/core';
import type { Evidence, MeasurementId, ObservationId, RankedCause, Seen } from '@yare/core/trips';
import { causeWords } from './causeWords';
import { measurementWords } from './measurementWords';
import { says } from './seenWords';

type FactId = ObservationId | MeasurementId;

const isMeasurement = (id: FactId): id is MeasurementId => id in measurementWords;

/** A fact as a line for people. */
export function factText(id: FactId, seen: Seen): string {
  if (!isMeasurement(id)) return says[id](seen.figures, seen.outcome).replace(/^./, (c) => c.toUpperCase());
  const { asks, outcomes } = measurementWords[id];
  return `${asks}: ${(outcomes[seen.outcome] ?? seen.outcome).toLowerCase()}`;
}

/** How strongly a fact speaks, in words a bit stands for: one doubles the odds. */
export function weightText({ bits }: Evidence): string {
  const times = 2 ** Math.abs(bits);
  const size = times >= 20 ? 'far more likely' : `${formatFigure(times, times < 3 ? 1 : 0)} times as likely`;
  return bits < 0 ? `against it: ${size} with another cause` : `${size} with this cause`;
}

/** How sure the ranking is, in words. */
export function sureText([first, second]: readonly RankedCause[]): string {
  if (!first) return 'The library knows no cause for this trip.';
  if (first.probability > 0.85) return 'Nothing else explains it nearly as well.';
  if (second && first.probability > 0.55) return `Likely, and “${causeWords[second.id]?.name ?? second.id}” is not ruled out.`;
  return 'Not sure: what is known does not separate the causes. Take the measurement below.';
}
