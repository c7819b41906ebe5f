import type { Wiring } from '@yare/contract';

/** What stands before anybody has noted anything: every input is as its job makes one expect. */
export const emptyWiring: Wiring = { inputs: {}, unit: null };
