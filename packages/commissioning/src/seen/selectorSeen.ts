import { toldOf, type DriveSettings } from '@yare/books';
import type { LiveSample } from '@yare/contract';
import type { Position } from '../command/selector';
import { reallyRuns, type Observer } from './observer';

/** What the drive did at a position: stood, slept, or ran at so many Hz. */
export type AtPosition = { did: 'stood' } | { did: 'slept' } | { did: 'ran'; frequency: number };
export type SelectorFound = Readonly<Partial<Record<Position, AtPosition>>>;

/** s it has to do it for. */
const lasts = 1.5;

const positionOf = (mode: string): Position => (mode === 'hand' ? 'hand' : mode === 'off' ? 'off' : 'auto');

/** What it does at a position that is right there; null for anything else. */
function doneAt(position: Position, s: LiveSample): AtPosition | null {
  if (position === 'off') return s.state === 'ready' || s.state === 'held' ? { did: 'stood' } : null;
  if (s.state === 'asleep') return position === 'auto' ? { did: 'slept' } : null;
  return reallyRuns(s) ? { did: 'ran', frequency: s.outputFrequency } : null;
}

/** The real selector, turned: a position counts once the drive has done there for a moment what it should. */
export const selectorObserver = (inDrive: DriveSettings): Observer<{ position: Position; did: string; since: number } | null, SelectorFound> => ({
  begin: null,
  none: {},
  look(pending, found, s) {
    if (s.link === 'down' || s.holder !== 'terminals') return { pending: null, found };
    const position = positionOf(toldOf(inDrive.book, s.words).mode);
    const done = doneAt(position, s);
    if (!done) return { pending: null, found };
    const since = pending && pending.position === position && pending.did === done.did ? pending.since : s.at;
    const known = found[position];
    const better =
      !known || known.did !== done.did || (done.did === 'ran' && known.did === 'ran' && Math.abs(known.frequency - done.frequency) > 0.5);
    return {
      pending: { position, did: done.did, since },
      found: better && s.at - since >= lasts * 1000 ? { ...found, [position]: done } : found,
    };
  },
});
