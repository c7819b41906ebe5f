import { GuardAction, NoFlowSource } from '../drive';
import { guardKinds, type GuardKind } from './guardKinds';
import { nth } from '../present';

/** When a guard acts, and what it does. */
export interface Guard {
  /** see {@link guardSees}; 0 never acts */
  level: number;
  /** s */
  delay: number;
  action: GuardAction;
}

/** Everything that watches a running machine for what its process does to it. */
export interface GuardSettings {
  guards: Readonly<Record<GuardKind, Guard>>;
  noFlowSource: NoFlowSource;
  /** torque at the motor's rated frequency with the discharge shut, over rated torque; 0 when nobody measured it */
  shutLoad: number;
  /** torque as the machine usually takes it at one, two and three thirds of maximum frequency, over rated torque; 0 when nobody measured it */
  curve: readonly [number, number, number];
  /** s a machine rests that a guard has stopped, and how often it tries again; the time after which tries are forgotten is an hour's good running */
  rest: number;
  tries: number;
  /** the pressure a clean filter leaves at full speed, share of the range; the share of that at which it is told as clogged, and s */
  filter: { cleanAir: number; level: number; delay: number };
}

/** What a drive measures of itself and its process. */
export interface GuardFacts {
  /** Hz, size of the ramp, and whether it stands where it is asked to */
  frequency: number;
  atSpeed: boolean;
  /** over rated torque */
  torque: number;
  /** % of the sensor's range */
  feedback: number;
  /** null when none is wired */
  flow: boolean | null;
  motorFrequency: number;
  maximumFrequency: number;
}

export interface GuardState {
  /** s each guard has seen what it waits for, in the order of {@link guardKinds}; the filter's last */
  waited: number[];
  /** s left of a rest, and what it rests for */
  resting: number;
  restsFor: GuardKind | null;
  tries: number;
  /** s of good running since the last rest */
  good: number;
  /** guards that say so, and the filter */
  warns: Array<GuardKind | 'filter'>;
}

export const restingGuards = (): GuardState => ({
  ...{ waited: [...guardKinds.map(() => 0), 0], resting: 0, restsFor: null, tries: 0, good: 0, warns: [] },
});

/** Share of maximum frequency under which loads tell nothing. */
const leastShare = 0.3;
/** A pump at less than this times its torque against a shut valve is taken to move nothing (common practice). */
export const nearShut = 1.1;
/** s of good running after which tries are forgotten. */
const forgets = 3600;

/** Torque against a shut valve at a frequency, over rated torque: it goes with the square of the speed (affinity laws: Gülich, *Centrifugal Pumps*, ch. 3.4). */
export const shutLoadAt = (s: Pick<GuardSettings, 'shutLoad'>, frequency: number, motorFrequency: number): number =>
  s.shutLoad * (frequency / motorFrequency) ** 2;

/** The usual torque at a share of maximum frequency, over rated torque: the parabola through the three points. Null when they are not all there. */
export function usualLoad({ curve: [a, b, c] }: Pick<GuardSettings, 'curve'>, share: number): number | null {
  if (a <= 0 || b <= 0 || c <= 0) return null;
  const x = 3 * share;
  return (a * ((x - 2) * (x - 3))) / 2 - b * (x - 1) * (x - 3) + (c * ((x - 1) * (x - 2))) / 2;
}

/** Whether a guard sees what it waits for: loads below or above a share of the usual one (of rated torque where that is not known), a feedback in % of the range. */
export function guardSees(kind: GuardKind, s: GuardSettings, f: GuardFacts): boolean {
  const { level } = s.guards[kind];
  if (level <= 0 && kind !== 'noFlow') return false;
  const share = f.frequency / f.maximumFrequency;
  const turns = f.atSpeed && share >= leastShare;
  const usual = usualLoad(s, share) ?? 1;
  switch (kind) {
    case 'noFlow': {
      const bySwitch = s.noFlowSource !== NoFlowSource.load && f.flow === false && f.frequency > 0.1 * f.motorFrequency;
      const byLoad =
        s.noFlowSource !== NoFlowSource.flowSwitch && s.shutLoad > 0 && turns && f.torque < nearShut * shutLoadAt(s, f.frequency, f.motorFrequency);
      return bySwitch || byLoad;
    }
    case 'dryRun':
      return turns && s.shutLoad > 0 && f.torque < level * shutLoadAt(s, f.frequency, f.motorFrequency);
    case 'lowLoad':
      return turns && f.torque < level * usual;
    case 'highLoad':
      return share >= leastShare / 2 && f.torque > level * usual;
    case 'highPressure':
      return f.feedback > 100 * level;
    case 'lowPressure':
      return f.feedback < 100 * level;
  }
}

/** Whether so little pressure is left of what a clean filter leaves at that speed (fan laws: p ∝ n²; ISO 5801) that it is clogged. */
export const filterClogged = ({ filter }: Pick<GuardSettings, 'filter'>, f: GuardFacts): boolean => {
  const share = f.frequency / f.maximumFrequency;
  return (
    filter.cleanAir > 0 && filter.level > 0 && f.atSpeed && share >= leastShare && f.feedback / 100 < filter.level * filter.cleanAir * share * share
  );
};

/** A fresh run: what was waited for is forgotten, what was tried is not. */
export function beginGuards(state: GuardState): void {
  state.waited.fill(0);
  state.warns.length = 0;
  state.resting = 0;
  state.restsFor = null;
}

/** What the guards want now: nothing, a trip, or a rest that has just begun. */
export type GuardVerdict = { act: 'trip' | 'rest'; kind: GuardKind } | null;

/** One scan of a machine that runs by its own start. */
export function stepGuards(state: GuardState, s: GuardSettings, f: GuardFacts, dt: number): GuardVerdict {
  state.good += dt;
  if (state.good > forgets) state.tries = 0;
  state.warns.length = 0;
  const last = guardKinds.length;
  state.waited[last] = filterClogged(s, f) ? (state.waited[last] ?? 0) + dt : 0;
  if ((state.waited[last] ?? 0) > s.filter.delay) state.warns.push('filter');
  for (let i = 0; i < guardKinds.length; i++) {
    const kind = nth(guardKinds, i);
    const guard = s.guards[kind];
    const off = kind === 'noFlow' && guard.delay <= 0;
    state.waited[i] = !off && guardSees(kind, s, f) ? (state.waited[i] ?? NaN) + dt : 0;
    if ((state.waited[i] ?? NaN) <= guard.delay || state.waited[i] === 0) continue;
    if (guard.action === GuardAction.warn) state.warns.push(kind);
    else return { act: act(state, s, guard), kind };
  }
  return null;
}

/** A rest while tries are left, else a trip. */
function act(state: GuardState, s: GuardSettings, guard: Guard): 'trip' | 'rest' {
  return guard.action === GuardAction.rest && state.tries < s.tries ? 'rest' : 'trip';
}

/** Begins to rest for a guard. */
export function restFor(state: GuardState, s: GuardSettings, kind: GuardKind): void {
  state.waited.fill(0);
  state.resting = s.rest;
  state.restsFor = kind;
  state.tries++;
  state.good = 0;
}

/** One scan of a rest; true while it lasts. */
export function rests(state: GuardState, dt: number): boolean {
  if (state.restsFor === null) return false;
  state.resting -= dt;
  if (state.resting > 0) return true;
  state.restsFor = null;
  return false;
}
