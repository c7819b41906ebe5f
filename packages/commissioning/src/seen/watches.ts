import type { DriveSettings } from '@yare/books';
import type { MachineDetail, WatchId } from '@yare/contract';
import { decode } from '../command/decode';
import { presetTable } from '../command/presets';
import { sensorOf, sensorPercent, straightIn } from '../process/scale';
import { guardProofs } from '../stages/guards';
import { proofRelies, type StagePath } from '../stages';
import { emergencyObserver, type EmergencyFound } from './emergencySeen';
import { guardsObserver, type GuardAct, type GuardsFound, type SeenKind } from './guardsSeen';
import { holdsObserver, type HoldsFound, type HoldsPending } from './holdsSeen';
import type { Observer } from './observer';
import { presetsObserver, type PresetsFound } from './presetsSeen';
import { selectorObserver, type SelectorFound } from './selectorSeen';
import { sleepObserver, type SleepFound } from './sleepSeen';
import { stationObserver, type StationFound } from './stationSeen';

/** What of a machine its watching hangs on. */
export interface WatchedMachine {
  driven: MachineDetail['driven'];
  driveRevision: number;
  drafted: DriveSettings;
  /** what is in the drive; null before it was read */
  held: DriveSettings | null;
}

/** Something that proves tests of a stage by being seen to happen. */
export interface Watch<Pending, Found> {
  stage: StagePath;
  /** the tests it can prove: what was seen rests on what they rely on */
  items(m: WatchedMachine): readonly string[];
  /** null while nothing can be watched @param now the machine as it stands at that moment */
  observer(m: WatchedMachine, now: () => WatchedMachine): Observer<Pending, Found> | null;
  /** how far it is, in a word, for whoever tells it */
  stageOf?(pending: Pending): string;
  /** what proves one test; null where it was not seen yet */
  factsOf(found: Found, item: string): unknown;
  /** what is left once a test was counted by it */
  without(found: Found, item: string): Found;
}

const watch = <Pending, Found>(definition: Watch<Pending, Found>): Watch<Pending, Found> => definition;

/** One thing was seen, and proves one test. */
const whole = <Found>() => ({ factsOf: (found: Found | null): unknown => found, without: (): Found | null => null });

/** Number of the preset a test is of. */
const presetOf = (item: string): number => Number(item.split(' ')[1]);

const loopWatch = watch<HoldsPending, HoldsFound | null>({
  stage: 'process',
  items: () => ['holds'],
  observer: ({ driven, held }) => {
    if (!held?.find('setpoint') || !sensorOf(driven)) return null;
    const straight = straightIn(held);
    const top = held.parameters().maximumFrequency;
    const tells = held.book.words.live.setpoint !== undefined;
    return holdsObserver((s) => {
      if (s.link === 'down' || s.state !== 'running' || s.searching || decode(held, s).told.speed !== 'process') return null;
      // what is held now, where the family tells: a contact or a signal may have chosen it
      const setpoint = sensorPercent(straight, tells ? s.setpoint : 100 * held.roleValue('setpoint'));
      return { setpoint, feedback: s.feedback, output: (100 * s.outputFrequency) / top };
    });
  },
  stageOf: (pending) => pending.stage,
  ...whole<HoldsFound>(),
});

const emergencyWatch = watch<{ began: number; fastest: number; ignored: number } | null, EmergencyFound | null>({
  stage: 'emergency',
  items: () => ['emergency'],
  observer: ({ held }, now) => held && emergencyObserver(held.roleValue('emergencyFrequency'), () => now().held?.role('emergencyIgnored') ?? 0),
  ...whole<EmergencyFound>(),
});

const selectorWatch = watch<{ position: string; did: string; since: number } | null, SelectorFound>({
  stage: 'hand-off-auto',
  items: () => ['selector'],
  observer: ({ held }) => held && selectorObserver(held),
  factsOf: (found) => (found.hand && found.off && found.auto ? found : null),
  without: () => ({}),
});

const presetsWatch = watch<{ preset: number; since: number } | null, PresetsFound>({
  stage: 'presets',
  items: ({ drafted }) => presetTable(drafted).rows.flatMap((r) => (r.number > 0 ? [`preset ${r.number}`] : [])),
  observer: ({ held }) => held && presetsObserver(held),
  factsOf: (found, item) => found[presetOf(item)] ?? null,
  without: (found, item) => Object.fromEntries(Object.entries(found).filter(([n]) => Number(n) !== presetOf(item))),
});

const guardsWatch = watch({
  stage: 'guards',
  items: ({ drafted, driven }) => guardProofs({ settings: drafted, driven }).map((p) => p.id),
  observer: ({ drafted }) => guardsObserver(drafted.book),
  factsOf: (found: GuardsFound, item): GuardAct | null => found[item as SeenKind] ?? null,
  without: (found, item): GuardsFound => Object.fromEntries(Object.entries(found).filter(([kind]) => kind !== item)),
});

const sleepWatch = watch({ stage: 'sleep', items: () => ['sleeps'], observer: () => sleepObserver, ...whole<SleepFound>() });

const stationWatch = watch({
  stage: 'station',
  items: () => ['staging', 'replaced'],
  observer: () => stationObserver,
  factsOf: (found: StationFound, item): unknown => found[item as keyof StationFound] ?? null,
  without: (found, item): StationFound => ({ ...found, [item]: undefined }),
});

/** Everything that is proved by watching. */
export const watches = {
  guards: guardsWatch,
  sleep: sleepWatch,
  presets: presetsWatch,
  selector: selectorWatch,
  emergency: emergencyWatch,
  holds: loopWatch,
  station: stationWatch,
} satisfies Record<WatchId, unknown>;

/** What each of them finds. */
export type FoundOf<W extends WatchId> = (typeof watches)[W] extends Watch<infer _, infer Found> ? Found : never;

/** One of them, for whoever knows nothing of what it finds. */
export const watchAt = (id: WatchId): Watch<unknown, unknown> => watches[id] as unknown as Watch<unknown, unknown>;

/** The one that proves a test, by its stage; null for a test that is not proved by watching. */
export function watchProving(stage: string, item: string, m: WatchedMachine): WatchId | null {
  const ids = Object.keys(watches) as WatchId[];
  return ids.find((id) => watches[id].stage === stage && watches[id].items(m).includes(item)) ?? null;
}

/** What stood in the drive, of all that its tests rely on: what was seen counts no longer once that has changed. */
export function groundsOfWatch(id: WatchId, m: WatchedMachine): string {
  const { stage, items } = watches[id];
  const codes = new Set(items(m).flatMap((item) => proofRelies(stage, item, m).settings));
  return JSON.stringify([m.driveRevision, ...[...codes].map((code) => `${code} ${m.held?.values[code]}`)]);
}
