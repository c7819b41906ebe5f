import { AsyncLocalStorage } from 'node:async_hooks';

/** Whom a request came from: the paired device, if it is one, and its address on the network. */
export interface Actor {
  device: { id: number; name: string } | null;
  address: string;
}

const acting = new AsyncLocalStorage<Actor>();

/** Everything `work` begins, now or later, is done for this actor. */
export const actingFor = <T>(actor: Actor, work: () => T): T => acting.run(actor, work);

/** Who is behind what is done at this moment; undefined for the server's own acts. */
export const actorNow = (): Actor | undefined => acting.getStore();
