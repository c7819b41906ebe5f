import type { DriveSettings } from '@yare/books';
import type { MachineDetail, ProofFacts, SeenFacts, WatchId } from '@yare/contract';
import { say } from '@yare/words/seen';
import { decode } from '../command/decode';
import { presetTable } from '../command/presets';
import { sensorDecimals, sensorOf, sensorPercent, straightIn } from '../process/scale';
import { guardProofs } from '../stages/guards';
import { proofRelies, type StagePath } from '../stages';
import { emergencyObserver, type EmergencyFound } from './emergencySeen';
import { guardsObserver, type GuardsFound } from './guardsSeen';
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
  /** what was seen, by the test it proves */
  facts(found: Found, m: WatchedMachine): SeenFacts;
  /** whether it proves its test, or is a part of it so far; what names none always does */
  proves?(facts: ProofFacts): boolean;
  /** what is left once a test was counted by it */
  without(found: Found, item: string): Found;
}

const watch = <Pending, Found>(definition: Watch<Pending, Found>): Watch<Pending, Found> => definition;

/** One thing was seen, and proves one test. */
const whole = <Found>(item: string, facts: (found: Found, m: WatchedMachine) => ProofFacts) => ({
  facts: (found: Found | null, m: WatchedMachine): SeenFacts => (found ? { [item]: facts(found, m) } : {}),
  without: (): Found | null => null,
});

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
  ...whole<HoldsFound>('holds', (found, { driven }) => {
    const sensor = sensorOf(driven);
    const range = sensor && { low: sensor.low, high: sensor.high, unit: sensor.unit, decimals: sensorDecimals(sensor) + 1 };
    return { kind: 'holds', ...found, range };
  }),
});

const emergencyWatch = watch<{ began: number; fastest: number; ignored: number } | null, EmergencyFound | null>({
  stage: 'emergency',
  items: () => ['emergency'],
  observer: ({ held }, now) => held && emergencyObserver(held.roleValue('emergencyFrequency'), () => now().held?.role('emergencyIgnored') ?? 0),
  ...whole<EmergencyFound>('emergency', ({ seconds, frequency, ignored }, { held }) => {
    const counted = held?.role('emergencyIgnored') ?? null;
    return { kind: 'emergency', seconds, frequency, through: counted === null ? null : Math.max(0, counted - ignored) };
  }),
});

const selectorWatch = watch<{ position: string; did: string; since: number } | null, SelectorFound>({
  stage: 'hand-off-auto',
  items: () => ['selector'],
  observer: ({ held }) => held && selectorObserver(held),
  facts: (found) => ({ selector: { kind: 'selector', ...found } }),
  proves: (f) => f.kind === 'selector' && f.hand !== undefined && f.off !== undefined && f.auto !== undefined,
  without: () => ({}),
});

const presetsWatch = watch<{ preset: number; since: number } | null, PresetsFound>({
  stage: 'presets',
  items: ({ drafted }) => presetTable(drafted).rows.flatMap((r) => (r.number > 0 ? [say.preset({ number: r.number })] : [])),
  observer: ({ held }) => held && presetsObserver(held),
  facts: (found) => Object.fromEntries(Object.entries(found).map(([n, frequency]) => [say.preset2({ n }), { kind: 'preset', frequency }])),
  without: (found, item) => Object.fromEntries(Object.entries(found).filter(([n]) => Number(n) !== presetOf(item))),
});

const guardsWatch = watch({
  stage: 'guards',
  items: ({ drafted, driven }) => guardProofs({ settings: drafted, driven }).map((p) => p.id),
  observer: ({ drafted }) => guardsObserver(drafted.book),
  facts: (found: GuardsFound) => Object.fromEntries(Object.entries(found).map(([guard, act]) => [guard, { kind: 'guard', guard, act }])),
  without: (found, item): GuardsFound => Object.fromEntries(Object.entries(found).filter(([kind]) => kind !== item)),
});

const sleepWatch = watch({
  stage: 'sleep',
  items: () => ['sleeps'],
  observer: () => sleepObserver,
  ...whole<SleepFound>('sleeps', (found) => ({ kind: 'sleep', ...found })),
});

const stationWatch = watch({
  stage: 'station',
  items: () => ['staging', 'replaced'],
  observer: () => stationObserver,
  facts: ({ staging, replaced }: StationFound) => ({
    ...(staging && { staging: { kind: 'staging', together: [...staging.together], left: [...staging.left] } }),
    ...(replaced && { replaced: { kind: 'replaced', gone: [...replaced.gone], come: [...replaced.come] } }),
  }),
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

/** What was seen, by the test it proves. */
export const seenFacts = (id: WatchId, found: unknown, m: WatchedMachine): SeenFacts => (found === null ? {} : watchAt(id).facts(found, m));

/** What proves one test; null where it was not seen yet, or a part of it only. */
export function provedBy(id: WatchId, found: unknown, item: string, m: WatchedMachine): ProofFacts | null {
  const facts = seenFacts(id, found, m)[item];
  return facts && (watchAt(id).proves?.(facts) ?? true) ? facts : null;
}

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
