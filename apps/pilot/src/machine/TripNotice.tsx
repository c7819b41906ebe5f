import { useLiveValue } from '../data/live';
import { go } from '../ui/go';
import { Finding } from '../ui/sheet';

/** At the head of every page of a tripped machine: that it has, and the way to why and to its reset. */
export function TripNotice({ tag }: { tag: string }) {
  const trip = useLiveValue(tag, (s) => (s?.state === 'tripped' ? (s.trip?.name ?? 'no code') : null));
  const waits = useLiveValue(tag, (s) => (s?.state === 'held' ? s.waits?.sentence : null));
  if (trip) return <Finding severity="error" sentence={`${tag} has tripped: ${trip}.`} act="See why, and reset" onAct={() => go(`/m/${tag}/trip`)} />;
  if (waits) return <Finding severity="act" sentence={`${tag} is held. ${waits}.`} />;
  return null;
}
