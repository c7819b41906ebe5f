import * as ofDrive from './driveLooks';
import * as ofMachine from './machineLooks';
import { seen, type Look, type Seen } from './look';
import type { TripCase } from './tripCase';

export type { Seen } from './look';

/** Everything a case is looked at for, by id. A look that sees nothing in a case says null. */
export const observations = { ...ofDrive, ...ofMachine } satisfies Record<string, Look>;
export type ObservationId = keyof typeof observations;

/** What can be said of a case without asking anybody; what somebody answered goes before it. */
export function observe(c: TripCase): Partial<Record<ObservationId, Seen>> {
  const out: Partial<Record<ObservationId, Seen>> = {};
  for (const [id, look] of Object.entries(observations) as Array<[ObservationId, Look]>) {
    const answer = c.answers[id];
    const found = answer === undefined ? look(c) : seen(answer);
    if (found) out[id] = found;
  }
  return out;
}
