import { largestOf } from '../extremes';
import { rawOf } from '../controls';
import { Switch, type TripCause } from '../drive';
import { coolingAt, expectedAt } from './expected';
import { banded, seen, type Look } from './look';
import type { TripCase } from './tripCase';
import { between, meanOf, median } from './samples';
import { nth } from '../present';

/** The current of the last minute over what is stamped. */
export const current: Look = (c) => {
  // what stalls has held its current for moments, what overheats for a minute
  const over = c.cause === 'stall' || c.cause === 'overcurrent' ? -3 : -60;
  const mean = meanOf(c.trend, 'motorCurrent', over, -0.5) ?? meanOf(c.trace, 'motorCurrent', -2, -0.1) ?? c.snapshot.motorCurrent;
  if (mean === null) return null;
  const share = mean / c.machine.plate.current;
  return seen(banded(share, ['below', 0.95], ['about', 1.12], ['above', 1.8], ['far above', Infinity]), {
    current: mean,
    stamped: c.machine.plate.current,
  });
};

export const overload: Look = ({ machine: { drive, plate } }) => {
  const share = drive.overloadCurrent / plate.current;
  return seen(banded(share, ['low', 0.9], ['right', 1.12], ['high', Infinity]), { set: drive.overloadCurrent, stamped: plate.current });
};

/** s before a trip over which the load is taken: a guard acts on what was there within its delay, everything else on what lasted longer. */
const guarded: readonly (TripCause | null)[] = ['lowLoad', 'highLoad', 'noFlow', 'dryRun', 'lowPressure', 'highPressure'];
const loadOver = ({ cause }: TripCase): number => (guarded.includes(cause) ? -3.5 : -20);

/** Torque against what the model expects of the machine at that speed; current where a family tells no torque. */
export const load: Look = (c) => {
  const from = loadOver(c);
  const f = meanOf(c.trend, 'outputFrequency', from, -0.5) ?? meanOf(c.trace, 'outputFrequency', -1, -0.1) ?? c.snapshot.outputFrequency;
  const usual = f === null ? null : expectedAt(c.machine, f);
  if (!usual) return null;
  const t = meanOf(c.trend, 'torque', from, -0.5) ?? meanOf(c.trace, 'torque', -1, -0.1) ?? c.snapshot.torque;
  const rises = Math.abs(usual.torque) < 3;
  if (t !== null && !rises) {
    const share = t / usual.torque;
    return seen(banded(share, ['less', 0.65], ['as usual', 1.4], ['more', Infinity]), { torque: t, usual: usual.torque });
  }
  const i = meanOf(c.trend, 'motorCurrent', from, -0.5) ?? meanOf(c.trace, 'motorCurrent', -1, -0.1) ?? c.snapshot.motorCurrent;
  if (i === null) return null;
  return seen(banded(i / usual.current, ['less', 0.8], ['as usual', 1.25], ['more', Infinity]), { current: i, usualCurrent: usual.current });
};

/** Samples of a channel while the machine ran near the speed it tripped at, so that its run-up is no rise of its load. */
function atSpeed(c: TripCase, channel: 'torque' | 'motorCurrent'): number[] {
  const { time, channels } = c.trend ?? { time: [], channels: {} };
  const [f, x] = [channels.outputFrequency, channels[channel]];
  if (!x) return [];
  const now = f ? Math.abs(median(Array.from(f).slice(-5)) ?? 0) : 0;
  const near = (i: number) => !f || (Math.abs(nth(f, i)) >= 0.85 * now && Math.abs(nth(f, i)) <= 1.2 * now);
  return Array.from(x).filter((_, i) => nth(time, i) > -loadSought && near(i));
}
/** s before a trip in which a change of the load is looked for: what overheats a motor began minutes ago. */
const loadSought = 900;

/** Whether the load came at once or grew, or had always been so. */
export const loadRise: Look = (c) => {
  // one that has stalled gives what it can, whatever its load
  if (c.cause === 'stall') return null;
  const t = atSpeed(c, 'torque');
  const x = t.length >= 8 ? t : atSpeed(c, 'motorCurrent');
  if (x.length < 8) return null;
  // the first second of it may still be its run-up
  const [first, last] = [median(x.slice(1, Math.min(8, 2 + (x.length >> 2)))) ?? 0, median(x.slice(-Math.max(3, Math.min(8, x.length >> 2)))) ?? 0];
  const most = largestOf(x.map(Math.abs), 1e-6);
  if (Math.abs(last - first) < 0.25 * most) return seen('always', { first, last });
  let jump = 0;
  for (let i = 2; i < x.length; i++) jump = Math.max(jump, Math.abs(nth(x, i) - nth(x, i - 2)));
  return seen(jump > 0.5 * Math.abs(last - first) ? 'at once' : 'grew', { first, last });
};

/** Whether a motor that cools itself ran slower than its fan needs, as it was loaded. */
export const cooling: Look = (c) => {
  const f = meanOf(c.trend, 'outputFrequency', -300, -0.5) ?? c.snapshot.outputFrequency;
  if (f === null) return null;
  const share = coolingAt(c.machine, f);
  return seen(share < 0.85 ? 'poor' : 'good', { frequency: f, allowed: share * c.machine.drive.overloadCurrent });
};

/** The drive's own temperature against what its current explains: at rated current it is warmer than its room by what its size is made for. */
export const driveHeat: Look = (c) => {
  const t = c.snapshot.driveTemperature;
  const i = meanOf(c.trend, 'motorCurrent', -300, 0) ?? c.snapshot.motorCurrent;
  if (t === null || i === null) return null;
  const { rating } = c.machine;
  const explained = 40 + rating.heatsinkRise * (0.25 + 0.75 * Math.min(1.5, i / rating.current));
  return seen(t > explained + 6 ? 'hotter' : 'explained', { temperature: t, explained });
};

export const since: Look = ({ snapshot: { since: s } }) =>
  s === null ? null : seen(banded(s, ['at once', 1], ['soon', 25], ['minutes', 1800], ['hours', Infinity]), { since: s });

export const repeat: Look = ({ repeats }) => (repeats === null ? null : seen(repeats > 0 ? 'again' : 'first', { repeats }));

export const others: Look = ({ others: n }) => (n === null ? null : seen(n > 0 ? 'others too' : 'alone', { others: n }));

/** What a pump moves, by its torque: as usual, as against a shut valve, or as without water (pump laws: T ∝ n², and least at no flow). */
export const flow: Look = (c) => {
  if (c.machine.kind !== 'pump') return null;
  const f = meanOf(c.trend, 'outputFrequency', -2.5, 0) ?? c.snapshot.outputFrequency;
  const usual = f === null ? null : expectedAt(c.machine, f);
  const t = meanOf(c.trace, 'torque', -0.8, -0.05) ?? meanOf(c.trend, 'torque', -2.5, 0) ?? c.snapshot.torque;
  if (!usual || t === null || usual.torque < 5) return null;
  const { shutLoad } = c.machine.controls.guards;
  const shut = 100 * shutLoad * ((f ?? 0) / c.machine.drive.motorFrequency) ** 2;
  const share = t / usual.torque;
  // without a run against the shut valve nobody knows what this wheel takes at no flow: half of the usual or nearly all of it
  const outcome =
    shut > 0
      ? banded(t / shut, ['dry', 0.62], ['shut', 1.12], ['moves', Infinity])
      : banded(share, ['dry', 0.33], ['shut', 0.72], ['not told', 0.93], ['moves', Infinity]);
  // a wheel that only stirs air takes a tenth of its load; a motor that turns nothing takes what its own bearings and fan do
  if (share < 0.05) return seen('nothing', { torque: t, usual: usual.torque });
  return seen(outcome, { torque: t, usual: usual.torque, ...(shut > 0 && { shut }) });
};

/** Whether a pump took less once it had been turned backwards to clean it: what is wound round the wheel comes off by that, at least in part. */
export const relieved: Look = (c) => {
  const [f, x] = [c.trend?.channels.outputFrequency, c.trend?.channels.torque ?? c.trend?.channels.motorCurrent];
  if (c.cause !== 'blocked' || !c.trend || !f || !x) return null;
  const n = f.length;
  let [first, last] = [-1, -1];
  for (let i = 0; i < n; i++)
    if (nth(f, i) < -1) {
      if (first < 0) first = i;
      last = i;
    }
  if (first < 0) return null;
  const near = Math.abs(median(Array.from(f).slice(-3)) ?? 0);
  const of = (from: number, to: number) =>
    Array.from({ length: Math.max(0, to - from) }, (_, k) => from + k)
      .filter((i) => nth(f, i) > 0.75 * near)
      .map((i) => Math.abs(nth(x, i)));
  const [before, after] = [median(of(0, first).slice(-4)), median(of(last + 1, n))];
  if (before === null || after === null || before <= 0) return null;
  return seen(after < 0.8 * before ? 'less' : 'as before', { before, after });
};

/** The set point in % of the sensor's range: a link tells the feedback as it comes, and guards act on that, whatever the loop makes of it. */
const rawSetpoint = ({ machine }: TripCase): number => {
  const { straight, setpoint } = machine.controls.process;
  return straight ? rawOf(straight, setpoint.stored) : setpoint.stored;
};

/** The feedback against the set point, % of the range. */
export const feedback: Look = (c) => {
  const x = meanOf(c.trend, 'feedback', -3, 0) ?? c.snapshot.analogueInput;
  const set = rawSetpoint(c);
  if (x === null || set <= 0) return null;
  return seen(banded(x / set, ['low', 0.75], ['middle', 1.1], ['high', Infinity]), { feedback: x, setpoint: set });
};

/** Whether it had run at all since anybody listened. */
export const ran: Look = (c) => {
  const f = between(c.trend, 'outputFrequency', -600, 0);
  // a drive that has tripped from the first moment it answered has not run
  if (c.trend && f.length === 0) return seen('had not run');
  if (f.length < 4) return null;
  return seen(largestOf(f.map(Math.abs)) > 0.5 ? 'had run' : 'had not run');
};

export const size: Look = ({ machine: { rating, plate } }) =>
  seen(rating.current < 0.97 * plate.current ? 'too small' : 'large enough', { rated: rating.current, stamped: plate.current });

export const overspeedLevel: Look = ({ machine: { drive } }) =>
  seen(drive.overspeedLevel < 1.02 ? 'low' : 'usual', { level: 100 * drive.overspeedLevel });

/** A guard's level against what the machine usually does at the speed it ran at. */
export const guardLevel: Look = (c) => {
  const { guards } = c.machine.controls;
  const f = meanOf(c.trend, 'outputFrequency', -8, -0.3) ?? c.snapshot.outputFrequency;
  if (c.cause !== 'lowLoad' && c.cause !== 'highLoad') {
    if (c.cause !== 'highPressure' && c.cause !== 'lowPressure') return null;
    const { level } = guards.guards[c.cause];
    const set = rawSetpoint(c) / 100;
    const apart = c.cause === 'highPressure' ? level - set : set - level;
    return seen(apart < 0.06 ? 'inside ordinary' : 'outside', { level: 100 * level, setpoint: 100 * set });
  }
  const usual = f === null ? null : expectedAt(c.machine, f);
  if (!usual) return null;
  const curve = guards.curve.every((x) => x > 0);
  const level = guards.guards[c.cause].level * (curve ? usual.torque : 100);
  const inside = c.cause === 'lowLoad' ? level > 0.85 * usual.torque : level < 1.12 * usual.torque;
  return seen(inside ? 'inside ordinary' : 'outside', { level, usual: usual.torque });
};

export const guardDelay: Look = (c) => {
  const { guards, fill } = c.machine.controls;
  const delays: Partial<Record<string, number>> = {
    ...Object.fromEntries(Object.entries(guards.guards).map(([kind, g]) => [kind, g.delay])),
    notFilled: fill.time,
  };
  const delay = c.cause === null ? undefined : delays[c.cause];
  return delay === undefined ? null : seen(delay < (c.cause === 'notFilled' ? 20 : 3) ? 'short' : 'usual', { delay });
};

/** Who opens a holding brake. */
export const brake: Look = ({ machine: { drive, spec } }) => {
  if (!spec?.brake) return null;
  return seen(drive.holdingBrake === Switch.on ? 'opened by the drive' : 'nobody opens it');
};
