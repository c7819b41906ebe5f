import type { Evidence, MeasurementId, ObservationId, RankedCause, Seen } from '@yare/core/trips';
import { causeWords } from '@yare/words/trips/causes';
import { measurementWords } from '@yare/words/trips/measurements';
import { says } from '@yare/words/trips/seen';
import { say } from '@yare/words/trips';

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
  const size = times >= 20 ? say.farMoreLikely : say.timesAsLikely({ times, times2: times < 3 ? 1 : 0 });
  return bits < 0 ? say.againstItWithAnotherCause({ size }) : say.withThisCause({ size });
}

/** How sure the ranking is, in words. */
export function sureText([first, second]: readonly RankedCause[]): string {
  if (!first) return say.theLibraryKnowsNoCause;
  if (first.probability > 0.85) return say.nothingElseExplainsItNearly;
  if (second && first.probability > 0.55) return say.likelyAndIsNotRuled({ name: causeWords[second.id]?.name ?? second.id });
  return say.notSureWhatIsKnown;
}
