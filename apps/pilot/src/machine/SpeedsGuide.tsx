import type { GuideProgress } from '@yare/contract';
import { formatFigure } from '@yare/core';
import { Finding } from '../ui/sheet';

/** What to do while a run is led through several speeds. */
export function SpeedsGuide({ guide, speeds }: { guide: GuideProgress | null | undefined; speeds: readonly number[] }) {
  const done = guide?.points.length ?? 0;
  if (guide?.state === 'stands') return <Finding severity="good" sentence={`All ${done} speeds are noted. Let go.`} />;
  return (
    <Finding
      severity="act"
      sentence={`Keep holding. It waits at ${formatFigure(speeds[done] ?? 0, 1)} Hz until the feedback stands: ${done} of ${speeds.length} noted.`}
    />
  );
}
