import type { TripEntry } from '@yare/contract';
import { go } from '../../ui/go';
import { SheetRow } from '../../ui/sheet';
import { when } from '../../ui/when';
import { causeName } from './CloseRows';

/** Trips as a list: open ones say so, closed ones what it was. */
export function TripRows({ trips, withTag = false }: { trips: readonly TripEntry[]; withTag?: boolean }) {
  return (
    <>
      {trips.map((t) => (
        <SheetRow
          key={t.id}
          mark={t.code === null ? '?' : String(t.code)}
          label={withTag ? `${t.tag} ${t.name}` : t.name}
          second={`${when(t.at)}${t.closed ? ` · ${causeName(t.closed.cause)}` : ''}`}
          text={t.closed ? 'cured' : 'open'}
          onPress={() => go(`/m/${t.tag}/trip/${t.id}`)}
          testID={`trip-${t.id}`}
        />
      ))}
    </>
  );
}
