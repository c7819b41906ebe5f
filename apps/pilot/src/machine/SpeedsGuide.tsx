import type { GuideProgress } from '@yare/contract';
import { say } from '@yare/words/pages/frame';
import { Finding } from '../ui/sheet';

/** What to do while a run is led through several speeds. */
export function SpeedsGuide({ guide, speeds }: { guide: GuideProgress | null | undefined; speeds: readonly number[] }) {
  const done = guide?.points.length ?? 0;
  if (guide?.state === 'stands') return <Finding severity="good" sentence={say.allSpeedsAreNotedLet({ done })} />;
  return <Finding severity="act" sentence={say.keepHoldingItWaitsAt({ speeds: speeds[done] ?? 0, done, speeds2: speeds.length })} />;
}
