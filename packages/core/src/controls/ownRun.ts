import { StationKind } from '../drive';
import { ratedTorqueOf, tripMachine, type Machine } from '../machine';
import { cleaningSpeed, stepCleaning } from './cleaning';
import type { Resolution } from './command';
import type { ControlSettings, ControlState, OutsideInputs } from './controls';
import type { Doing } from './doing';
import { stepFill } from './filling';
import { restFor, rests, stepGuards, type GuardFacts, type GuardVerdict } from './guards';
import { leaveProcess, stepProcess, withinLimits } from './process';
import { sideBySide, stationMaster, stepStation, type StationMember } from './station';

/** Hz from its goal at which a ramp counts as there: a loop moves its goal all the time. */
const there = 2;
/** s over which the drive smooths the torque its guards go by. */
const smooth = 0.3;

/** What a run gives: Hz, signed, or null while the drive stands; and what it does by itself. */
interface Own {
  reference: number | null;
  doing: Doing;
}
const stands = (doing: Doing): Own => ({ reference: null, doing });

function factsOf(state: ControlState, m: Machine, r: Resolution, dt: number): GuardFacts {
  const { drive } = m.spec;
  state.load += (Math.abs(m.motor.torque) / ratedTorqueOf(m) - state.load) * Math.min(1, dt / smooth);
  return {
    frequency: Math.abs(m.ramp),
    atSpeed: m.goal !== 0 && Math.abs(m.ramp - m.goal) < there,
    torque: state.load,
    feedback: state.feedback,
    flow: r.flow,
    motorFrequency: drive.motorFrequency,
    maximumFrequency: drive.maximumFrequency,
  };
}

/** Hz the loop, or another source, gives; sleep is seen to, and filling. Null asleep. */
function fromProcess(state: ControlState, s: ControlSettings, m: Machine, r: Resolution, outside: OutsideInputs, dt: number): number | null {
  const { maximumFrequency } = m.spec.drive;
  if (r.liveZeroLost) return m.goal;
  const inputs = { second: r.secondSetpoint, analogue: outside.second, link: Math.abs(outside.link.reference) / maximumFrequency };
  const { station } = outside;
  const shared = station !== null && sideBySide(s.station);
  const present = shared ? station.output : Math.abs(m.ramp);
  const helped = (shared ? station.order.length : state.station.order.length) > 1;
  const held = withinLimits(s.process, m.spec.drive);
  const goal = stepProcess(state.process, held, inputs, state.feedback, present, maximumFrequency, dt, helped ? Infinity : present);
  return state.process.sleep.asleep ? null : goal;
}

/** One drive among several: the lowest that is able keeps the process for all, each runs when it is its turn. */
function besideOthers(state: ControlState, s: ControlSettings, m: Machine, r: Resolution, outside: OutsideInputs, dt: number): Own {
  const { station: wire } = outside;
  const { number } = s.station;
  if (!wire) return stands('standby');
  if (stationMaster(wire.members) === number) {
    // it may have taken over from another: what runs goes on
    if (!state.process.active) state.station.order = [...wire.order];
    const goal = fromProcess(state, s, m, r, outside, dt);
    stepStation(state.station, s.station, wire.members, goal !== null, wire.output, 0, dt);
    wire.output = goal ?? 0;
    wire.order = state.station.order;
    if (goal === null) return stands('nothing');
  } else {
    leaveProcess(state.process);
    state.station.order = [...wire.order];
  }
  return wire.order.includes(number) ? { reference: wire.output, doing: 'nothing' } : stands('standby');
}

/** The drive's own pump with others across the line beside it. @param runs the loop has the speed: by hand, at a cleaning or asleep none helps */
function withContactors(state: ControlState, s: ControlSettings, m: Machine, runs: boolean, dt: number): void {
  if (s.station.kind !== StationKind.contactors) return;
  const { pumpHours } = state;
  for (const n of state.station.order) pumpHours[n - 1] = (pumpHours[n - 1] ?? 0) + dt / 3600;
  const members = Array.from({ length: s.station.pumps }, (_, i): StationMember => ({ able: true, hours: pumpHours[i] ?? 0 }));
  stepStation(state.station, s.station, members, runs, Math.abs(m.ramp), 1, dt);
}

/** Tells the other drives of the station how this one is. */
export function tellStation(state: ControlState, s: ControlSettings, m: Machine, r: Resolution, outside: OutsideInputs): void {
  if (!outside.station || !sideBySide(s.station)) return;
  const able = r.run && r.speed === 'process' && m.trip === null && state.guards.restsFor === null && !outside.borrowed;
  outside.station.members[s.station.number - 1] = { able, hours: outside.hours };
}

/** What a guard wants is done: a trip, or a rest. A high load may be cleaned away instead. */
function obey(state: ControlState, s: ControlSettings, m: Machine, verdict: NonNullable<GuardVerdict>): void {
  if (verdict.act === 'trip') tripMachine(m, verdict.kind);
  else restFor(state.guards, s.guards, verdict.kind);
  leaveProcess(state.process);
}

/**
 * What a drive that is told to run gives its ramp: what it is asked, or what its process, its guards, its filling, its cleaning and the other pumps of
 * its station make of it.
 * @param fresh the start has just been given
 */
export function ownRun(state: ControlState, s: ControlSettings, m: Machine, r: Resolution, outside: OutsideInputs, fresh: boolean, dt: number): Own {
  const own = guarded(state, s, m, r, outside, fresh, dt);
  const loops = r.asked === null && own.reference !== null && (own.doing === 'nothing' || own.doing === 'boosting');
  withContactors(state, s, m, loops, dt);
  return own;
}

/** The run as its guards and its cleaning let it be. */
function guarded(state: ControlState, s: ControlSettings, m: Machine, r: Resolution, outside: OutsideInputs, fresh: boolean, dt: number): Own {
  const facts = factsOf(state, m, r, dt);
  const automatic = r.mode !== 'hand';
  const frost = s.frost > 0 && r.frost && automatic;
  if (rests(state.guards, dt)) return frost ? { reference: s.frost, doing: 'frost' } : stands('resting');
  const turns = Math.abs(m.ramp) > 0 && state.doing !== 'frost';
  // what was waited for while it turned is forgotten while it stands
  if (!turns) state.guards.waited.fill(0);
  const verdict = turns && state.cleaning.left === 0 && !state.fill.filling ? stepGuards(state.guards, s.guards, facts, dt) : null;
  const jams = verdict?.kind === 'highLoad' && s.cleaning.atLoad && s.cleaning.strokes > 0;
  const cleans =
    turns || fresh ? stepCleaning(state.cleaning, s.cleaning, { start: fresh, contact: r.cleanNow, load: jams }, facts.atSpeed, dt) : 'no';
  if (cleans === 'blocked') tripMachine(m, 'blocked');
  else if (verdict && !jams) obey(state, s, m, verdict);
  if (cleans === 'cleans') {
    state.guards.waited.fill(0);
    leaveProcess(state.process);
    return { reference: cleaningSpeed(state.cleaning, s.cleaning), doing: 'cleaning' };
  }
  const own = asAsked(state, s, m, r, outside, dt);
  return own.reference === null && frost ? { reference: s.frost, doing: 'frost' } : own;
}

/** The run itself: a speed that is asked, a pipe to fill, or the process. */
function asAsked(state: ControlState, s: ControlSettings, m: Machine, r: Resolution, outside: OutsideInputs, dt: number): Own {
  if (r.asked !== null) {
    leaveProcess(state.process);
    // direction, limits and bands are the ramp's own, by the same rule
    return { reference: r.asked, doing: 'nothing' };
  }
  const fills = stepFill(state.fill, s.fill, state.feedback, dt);
  if (fills === 'late') tripMachine(m, 'notFilled');
  if (fills === 'fills') return { reference: s.fill.frequency, doing: 'filling' };
  if (sideBySide(s.station)) return besideOthers(state, s, m, r, outside, dt);
  const goal = fromProcess(state, s, m, r, outside, dt);
  return goal === null ? stands('nothing') : { reference: goal, doing: state.process.sleep.boosting ? 'boosting' : 'nothing' };
}
