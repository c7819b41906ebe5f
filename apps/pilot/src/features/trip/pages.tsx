import { lazy, Suspense, type ComponentType } from 'react';
import { Waiting } from '../../ui/Waiting';

type Screens = typeof import('./screens');

/** A page of trips, fetched with the others of them when the first is wanted. */
function later(pick: (all: Screens) => ComponentType): ComponentType {
  const Screen = lazy(async () => ({ default: pick(await import('./screens')) }));
  return function Later() {
    return (
      <Suspense fallback={<Waiting />}>
        <Screen />
      </Suspense>
    );
  };
}

export const TripPage = later((all) => all.TripScreen);
export const CasePage = later((all) => all.CaseScreen);
export const TripHistoryPage = later((all) => all.TripHistoryScreen);
