import { StationKind } from '../drive';

/** Several pumps that work as one. Pumps are numbered from 1. */
export interface StationSettings {
  kind: StationKind;
  /** own number; the drive's pump is 1 where the others hang on contactors */
  number: number;
  /** pumps in all, and how many may run at once */
  pumps: number;
  most: number;
  /** Hz at or above which another is wanted, and at or below which one too many runs, each for s */
  upFrequency: number;
  upDelay: number;
  downFrequency: number;
  downDelay: number;
  /** h by which a pump may have run longer than one that stands; 0 never changes */
  alternate: number;
  /** number of a small pump that runs alone while little is wanted; 0 there is none */
  jockey: number;
}

/** What each pump says of itself. */
export interface StationMember {
  /** in automatic, not tripped, not resting */
  able: boolean;
  hours: number;
}

export interface StationState {
  /** pumps that are to run, the first one on first */
  order: number[];
  /** the one that led last */
  lead: number;
  /** s another has been wanted, or one too many has run */
  up: number;
  down: number;
}

export const restingStation = (): StationState => ({ order: [], lead: 0, up: 0, down: 0 });

/** What the drives of a station tell one another. */
export interface StationWire {
  members: StationMember[];
  order: readonly number[];
  /** Hz, what all that are to run are given */
  output: number;
}

export const quietWire = (): StationWire => ({ members: [], order: [], output: 0 });

/** The drive that keeps the process for all: the lowest number that is able. 0 when none is. */
export const stationMaster = (members: readonly StationMember[]): number => members.findIndex((m) => m?.able) + 1;

const hoursOf = (members: readonly StationMember[], n: number): number => members[n - 1]?.hours ?? 0;

/** Pumps that stand and could run, the one with fewest hours first, by number where hours do not count; the small one only ever runs alone. */
function standing(s: StationSettings, members: readonly StationMember[], order: readonly number[]): number[] {
  const out: number[] = [];
  for (let n = 1; n <= s.pumps; n++) if (n !== s.jockey && members[n - 1]?.able && !order.includes(n)) out.push(n);
  return s.alternate > 0 ? out.sort((a, b) => hoursOf(members, a) - hoursOf(members, b) || a - b) : out;
}

/** Who begins: the one that led last, until it has run so much longer than another that it is that one's turn. */
function leadOf(state: StationState, s: StationSettings, members: readonly StationMember[]): number {
  const able = standing(s, members, []);
  const least = able[0] ?? 0;
  if (s.alternate <= 0) return able.length > 0 ? Math.min(...able) : 0;
  const last = able.includes(state.lead) ? state.lead : least;
  return hoursOf(members, last) - hoursOf(members, least) >= s.alternate ? least : last;
}

function start(state: StationState, n: number | undefined): void {
  if (n !== undefined && n !== 0) state.order.push(n);
}

/** Takes off the one with most hours, the last one on where hours do not count; never the one that must stay. */
function takeOff(state: StationState, s: StationSettings, members: readonly StationMember[], fixed: number): void {
  const may = state.order.filter((n) => n !== fixed);
  if (s.alternate <= 0) {
    state.order = state.order.filter((n) => n !== may[may.length - 1]);
    return;
  }
  const most = may.reduce((a, b) => (hoursOf(members, b) > hoursOf(members, a) ? b : a), may[0] ?? 0);
  state.order = state.order.filter((n) => n !== most);
}

/** One pump more, or the small one gives way to a large one. */
function stageUp(state: StationState, s: StationSettings, members: readonly StationMember[]): void {
  if (s.jockey > 0 && state.order.length === 1 && state.order[0] === s.jockey) {
    const lead = leadOf(state, s, members);
    if (lead === 0) return;
    state.order = [];
    start(state, lead);
  } else if (state.order.length < Math.min(s.most, s.pumps)) start(state, standing(s, members, state.order)[0]);
}

/** One pump less, or a large one gives way to the small one. */
function stageDown(state: StationState, s: StationSettings, members: readonly StationMember[], fixed: number): void {
  if (state.order.length > 1) takeOff(state, s, members, fixed);
  else if (s.jockey > 0 && members[s.jockey - 1]?.able && state.order[0] !== s.jockey && fixed === 0) {
    state.order = [];
    start(state, s.jockey);
  }
}

/** A pump that has run so much longer than one that stands changes place with it. Called at every step: it makes no garbage. */
function alternate(state: StationState, s: StationSettings, members: readonly StationMember[], fixed: number): void {
  if (s.alternate <= 0) return;
  let most = 0;
  let least = 0;
  for (let n = 1; n <= s.pumps; n++) {
    if (n === s.jockey || n === fixed || !members[n - 1]?.able) continue;
    if (state.order.includes(n)) {
      if (most === 0 || hoursOf(members, n) > hoursOf(members, most)) most = n;
    } else if (least === 0 || hoursOf(members, n) < hoursOf(members, least)) least = n;
  }
  if (most === 0 || least === 0 || hoursOf(members, most) - hoursOf(members, least) < s.alternate) return;
  state.order = state.order.map((n) => (n === most ? least : n));
}

/** Leaves out those that are no longer able; how many those are. */
function leaveOut(state: StationState, members: readonly StationMember[]): number {
  const before = state.order.length;
  for (const n of state.order)
    if (!members[n - 1]?.able) {
      state.order = state.order.filter((x) => members[x - 1]?.able);
      break;
    }
  return before - state.order.length;
}

/**
 * One step: which pumps are to run. One that trips or is taken to hand is replaced at once.
 * @param call something is to be pumped @param output Hz given to those that run @param fixed number of one that never stands while it is called, 0 none
 * @param dt s
 */
export function stepStation(
  state: StationState,
  s: StationSettings,
  members: readonly StationMember[],
  call: boolean,
  output: number,
  fixed: number,
  dt: number,
): void {
  const lost = leaveOut(state, members);
  if (!call) {
    if (state.order.length > 0) state.order = [];
    state.up = state.down = 0;
    return;
  }
  if (state.order.length === 0) {
    const small = s.jockey > 0 && fixed === 0 && members[s.jockey - 1]?.able ? s.jockey : 0;
    start(state, fixed || small || leadOf(state, s, members));
    for (let i = 1; i < lost; i++) start(state, standing(s, members, state.order)[0]);
  } else for (let i = 0; i < lost; i++) start(state, standing(s, members, state.order)[0]);
  state.up = output >= s.upFrequency ? state.up + dt : 0;
  state.down = output <= s.downFrequency ? state.down + dt : 0;
  if (state.up > s.upDelay) {
    stageUp(state, s, members);
    state.up = 0;
  } else if (state.down > s.downDelay) {
    stageDown(state, s, members, fixed);
    state.down = 0;
  } else alternate(state, s, members, fixed);
  const [first = 0] = state.order;
  if (first !== 0 && first !== s.jockey) state.lead = first;
}

/** Whether a drive stands beside others at one station. */
export const sideBySide = (s: StationSettings): boolean => s.kind === StationKind.sideBySide && s.pumps > 1;
