import type { TripEntry } from '@yare/contract';
import { say } from '@yare/words/pages/trip';
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
          second={t.closed ? say.whenAndCause({ when: when(t.at), cause: causeName(t.closed.cause) }) : when(t.at)}
          text={t.closed ? say.cured2 : 'open'}
          onPress={() => go(`/m/${t.tag}/trip/${t.id}`)}
          testID={`trip-${t.id}`}
        />
      ))}
    </>
  );
}
