import type { DriveSettings } from '@yare/books';
import type { TripCause } from '@yare/core';
import { demoDraft, demoMachine } from '@yare/demo-plant';
import { runUp } from '../trips/scenario';
import { Stage, type Roles } from '../trips/stage';

/** What a machine of the bench did: left alone, started at its panel, and stopped. */
export interface Life {
  /** it started before anybody started it */
  byItself: boolean;
  backwards: boolean;
  trip: TripCause | null;
  /** it stood in the end */
  stops: boolean;
}

/** Settings that differ from the draft of the demo, by role, as a bench takes them. */
export function rolesOf(tag: string, settings: DriveSettings): Roles {
  const draft = demoDraft(demoMachine(tag));
  return Object.fromEntries(settings.all.flatMap((s) => (s.role && settings.value(s) !== draft.value(s) ? [[s.role, settings.inRole(s)]] : [])));
}

/** s it is left alone, run at speed, and given to stop. */
const times = { alone: 2, runs: 12, stops: 40 };

/** Lives a machine of the bench with these settings: its own plant, its own panel, one seed and one day. */
export function liveWith(tag: string, settings: DriveSettings, seed: number, day: number): Life {
  const stage = new Stage(tag, rolesOf(tag, settings), seed, day);
  stage.wait(times.alone);
  const life: Life = { byItself: stage.d.running, backwards: false, trip: stage.tripped, stops: true };
  stage.start(0.85);
  for (let t = 0; t < times.runs + (runUp[tag] ?? 6) && stage.tripped === null; t += 0.5) {
    stage.wait(0.5);
    life.backwards ||= stage.d.machine.speed < -1;
  }
  stage.stop();
  for (let t = 0; t < times.stops + (runUp[tag] ?? 0) && stage.d.running && stage.tripped === null; t += 0.5) stage.wait(0.5);
  return { ...life, trip: stage.tripped, stops: !stage.d.running };
}

/** What came by a change that was not before; null where nothing did. @param turns backwards is what was chosen */
export function harmOf(before: Life, after: Life, turns = false): string | null {
  if (after.byItself && !before.byItself) return 'starts by itself';
  if (after.trip !== null && before.trip === null) return `trips: ${after.trip}`;
  if (after.backwards && !before.backwards && !turns) return 'turns backwards';
  return !after.stops && before.stops ? 'does not stop' : null;
}
