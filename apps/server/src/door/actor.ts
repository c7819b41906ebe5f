import { AsyncLocalStorage } from 'node:async_hooks';
import { ProblemError } from '../problem';

/** Whom a request came from: the paired device, if it is one, and its address on the network. */
export interface Actor {
  device: { id: number; name: string } | null;
  address: string;
  /** whether whoever asked has hung up meanwhile; a request alone tells that */
  gone?: () => boolean;
}

const acting = new AsyncLocalStorage<Actor>();

/** Everything `work` begins, now or later, is done for this actor. */
export const actingFor = <T>(actor: Actor, work: () => T): T => acting.run(actor, work);

/** Who is behind what is done at this moment; undefined for the server's own acts. */
export const actorNow = (): Actor | undefined => acting.getStore();

/** What was kept waiting until nobody waits for it is not done any more. @throws ProblemError 499 */
export function refuseWhenGone(): void {
  if (actorNow()?.gone?.())
    throw new ProblemError(499, 'Given up', 'Whoever asked for this has hung up before it was begun, so it was not done. Ask again.');
}
