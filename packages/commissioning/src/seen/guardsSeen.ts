import type { DriveBook, LiveSample } from '@yare/contract';
import { guardKinds, type GuardKind } from '@yare/core';
import type { Observer } from './observer';

/** What can be seen to act: a guard, or something the drive does by itself. */
export type SeenKind = GuardKind | 'feedback' | 'fill' | 'cleaning' | 'frost' | 'runOn';

/** How it acted: tripped by its code, rested, warned, or did something for so many s. */
export type GuardAct = { did: 'tripped'; code: number } | { did: 'rested' } | { did: 'warned' } | { did: 'ran'; seconds: number } | { did: 'turned' };
export type GuardsFound = Readonly<Partial<Record<SeenKind, GuardAct>>>;

interface Pending {
  code: number | null;
  warns: readonly string[];
  doing: LiveSample['doing'];
  began: number;
}

const isGuard = (cause: string): cause is GuardKind => (guardKinds as readonly string[]).includes(cause);

/** What the drive did by itself and has ended, so that it counts; null for what ended otherwise. */
function ended(was: LiveSample['doing'], s: LiveSample): SeenKind | null {
  if (was === 'cleaning' && s.state === 'running') return 'cleaning';
  if (was === 'filling' && s.state === 'running') return 'fill';
  return was === 'running on' && s.doing === 'nothing' ? 'runOn' : null;
}

/** Guards that act and things the drive does by itself, while somebody watches: what stood there already when the watching began was not seen to come. */
export const guardsObserver = (book: DriveBook): Observer<Pending | null, GuardsFound> => ({
  begin: null,
  none: {},
  look(pending, before, s) {
    if (s.link === 'down') return { pending: null, found: before };
    const code = s.trip?.code ?? null;
    const now: Pending = { code, warns: s.warns, doing: s.doing, began: pending?.doing === s.doing ? pending.began : s.at };
    if (!pending) return { pending: now, found: before };
    const acts: Array<[SeenKind, GuardAct]> = [];
    const cause = code !== null && code !== pending.code ? book.trips.find((t) => t.code === code)?.cause : undefined;
    if (cause && code !== null && isGuard(cause)) acts.push([cause, { did: 'tripped', code }]);
    if (cause === 'liveZeroLoss' && code !== null) acts.push(['feedback', { did: 'tripped', code }]);
    const rests = s.doing === 'resting' && pending.doing !== 'resting';
    for (const kind of s.warns)
      if (isGuard(kind) && (rests || !pending.warns.includes(kind))) acts.push([kind, { did: s.doing === 'resting' ? 'rested' : 'warned' }]);
    if (pending.doing !== s.doing) {
      const kind = ended(pending.doing, s);
      if (kind) acts.push([kind, { did: 'ran', seconds: Math.round((s.at - pending.began) / 1000) }]);
      if (s.doing === 'frost') acts.push(['frost', { did: 'turned' }]);
    }
    return { pending: now, found: acts.length > 0 ? { ...before, ...Object.fromEntries(acts) } : before };
  },
});
