import { useLiveValue } from '../data/live';
import { go } from '../ui/go';
import { Refusal } from '../ui/Answer';
import { Finding } from '../ui/sheet';
import { clock } from '../ui/when';
import { stillLapse, stillRepeat } from '@yare/contract/hold';
import { say } from '@yare/words/pages/frame';
import { useGiveBack } from '../data/wiring';

/** At the head of every page of a machine that has tripped, or is kept still: why, and the way on. */
export function TripNotice({ tag }: { tag: string }) {
  const trip = useLiveValue(tag, (s) => (s?.state === 'tripped' ? (s.trip?.name ?? say.noCode) : null));
  const waits = useLiveValue(tag, (s) => (s?.state === 'held' ? s.waits?.sentence : null));
  // while a page goes on asking for it, that page says so itself
  const still = useLiveValue(tag, (s) => (s && s.stillUntil !== null && s.stillUntil - s.at < stillLapse - 3 * stillRepeat ? s.stillUntil : null));
  const giveBack = useGiveBack(tag);
  if (trip) return <Finding severity="error" sentence={say.hasTripped({ tag, trip })} act={say.seeWhyAndReset} onAct={() => go(`/m/${tag}/trip`)} />;
  if (still !== null)
    return (
      <>
        <Refusal of={giveBack.error} />
        <Finding
          severity="warning"
          sentence={say.isKeptStillForIts({ tag, clock: clock(still) })}
          act={giveBack.isPending ? say.givingBack : say.everyButtonIsLetGo}
          onAct={() => giveBack.mutate()}
        />
      </>
    );
  if (waits) return <Finding severity="act" sentence={say.isHeld({ tag, waits })} />;
  return null;
}
