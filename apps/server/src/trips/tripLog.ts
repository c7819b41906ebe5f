import type { LiveSample } from '@yare/contract';
import { audit } from '../audit/audit';
import type { Db } from '../db/connect';
import type { Fleet } from '../link/fleet';

/** Who is named in the log for what a drive did by itself. */
const byItself = 'Drive';
/** What is in the log when a drive trips, and when its trip is gone. */
const tripped = 'tripped';
const cleared = 'trip gone';

/** The trip that is in force by the log: its code and since when; null when the last one is gone. */
export async function lastLogged(db: Db, tag: string): Promise<{ code: number; at: Date } | null> {
  const event = await db('audit_events').where({ tag }).whereIn('action', [tripped, cleared]).orderBy('id', 'desc').first();
  if (!event || event.action !== tripped) return null;
  const { code } = event.detail as { code: number };
  return { code, at: event.at };
}

/** Notes every trip in the log when it is first seen, and when it is gone, however it was reset. */
export function logTrips(db: Db, fleet: Fleet, failed: (error: unknown) => void): () => void {
  const known = new Map<string, number>();
  let queue: Promise<unknown> = Promise.resolve();
  const note = async ({ tag, trip }: LiveSample): Promise<void> => {
    const before = (await lastLogged(db, tag))?.code ?? 0;
    const now = trip?.code ?? 0;
    if (before === now) return;
    if (trip) await audit(db, byItself, tripped, tag, { code: trip.code, name: trip.name });
    else await audit(db, byItself, cleared, tag, { code: before });
  };
  return fleet.onSample((sample) => {
    const now = sample.trip?.code ?? 0;
    if (sample.link === 'down' || known.get(sample.tag) === now) return;
    known.set(sample.tag, now);
    // one after another, in the order they were seen; one that could not be stored is tried again with the next sample
    queue = queue
      .then(() => note(sample))
      .catch((error: unknown) => {
        known.delete(sample.tag);
        failed(error);
      });
  });
}
