import { derivativeShare } from '../controls/pid';
import { largestOf } from '../extremes';
import { marginsOf, type Margins } from './margins';
import type { ProcessModel } from './model';
import { pidRules, reduced, type PidGains, type PidRule, type RuleId } from './pidRules';
import { predict, type Predicted } from './predicted';

/** What one rule proposes, and what would come of it. */
export interface Proposal {
  rule: RuleId;
  purpose: PidRule['purpose'];
  source: string;
  /** as the rule has it, and as the drive can store it */
  exact: PidGains;
  gains: PidGains;
  /** on the process as measured, and where it is hardest to hold */
  margins: Margins;
  worst: Margins;
  /** answers to 1 % of set point and to 1 % of output that comes in before the process */
  setpoint: Predicted;
  disturbance: Predicted;
  /** what rounding costs: the largest sensitivity more than with the exact values */
  rounding: number;
  /** % of output that a step of the sensor, or its noise, moves at once */
  kick: number;
  /** comes to rest behind the drive's ramp and where it was asked about besides; null where that was not looked at */
  holds: boolean | null;
}

export interface ProposalOptions {
  /** gain elsewhere in the working range, over the gain where it was measured */
  gains?: readonly number[];
  /** % of output a second of the drive's ramp */
  ramp?: number;
  /** whether it holds elsewhere as well, where the process is another one and not only steeper */
  holds?: (g: PidGains) => boolean;
  /** models the measurement hardly tells from the best */
  plausible?: readonly ProcessModel[];
  /** % of the range that the feedback jumps by itself: a step of the sensor, or two standard deviations of its noise */
  grain?: number;
  /** as the drive rounds and limits its settings */
  round?: (g: PidGains) => PidGains;
  /** s, lag of a filter on the feedback that stays in */
  filter?: number;
  /** the test went to both sides of where the process works */
  bothSides?: boolean;
  /** whether the drive has a derivative; without, rules that want one are left out */
  derivative?: boolean;
}

/** Largest sensitivity the recommended values have where the process is hardest to hold. */
export const mostSensitive = 1.8;
/** What is aimed at, so that a model that is a little off still keeps to it. */
const aimedAt = 1.76;
/** The same where a model stands that the measurement hardly tells from the best: it may be so, but probably is not. */
const mostUnlikely = { recommended: 1.92, aimedAt: 1.9 };
/** % of output that noise or a step of the sensor may move at once (common practice: some percent). */
export const mostKick = 5;
/** A level is tested to one side of its balance, where its pump is as much steeper or flatter (common practice: some percent). */
const oneSided = 1.08;

/** The process with a filter on its feedback: a lag more, of which half counts as dead time (half rule: Skogestad 2003). */
export function filtered(m: ProcessModel, filter: number): ProcessModel {
  if (filter <= 0) return m;
  if (m.kind === 'integrating') return { ...m, lags: [m.lags[0] + filter, 0] };
  const [a, b] = [...m.lags, filter].sort((x, y) => y - x) as [number, number, number];
  const rest = m.lags[0] + m.lags[1] + filter - a - b;
  return { ...m, lags: [a, b], deadTime: m.deadTime + rest };
}

const worstOf = (all: readonly ProcessModel[], g: PidGains, perDecade?: number): Margins => {
  const each = all.map((m) => marginsOf(m, g, perDecade));
  const worst = each.reduce((a, b) => (!b.stable || (a.stable && b.sensitivity > a.sensitivity) ? b : a));
  return { ...worst, stable: each.every((x) => x.stable) };
};

/** % of output that comes in at once and has to come to rest behind the drive's ramp as well; % within which it rests, of the time that it is given. */
const onRamp = { comes: 15, rests: 0.1, share: 0.75 };
/** What a gain is taken down and an integral time up by, and how often, until it holds on its ramp and elsewhere. */
const calmer = { gain: 1.4, integral: 1.2, steps: 12 };

/** Whether a loop comes to rest behind a ramp: asked for more than the ramp gives, it can go up and down on it for good. */
function restsOnRamp(all: readonly ProcessModel[], g: PidGains, ramp: number): boolean {
  return all.every((m) => {
    const longest = Math.min(900, lastsFor(m, g) + (8 * onRamp.comes) / ramp);
    const { feedback } = predict(m, g, { setpoint: 0, disturbance: onRamp.comes, longest, ramp });
    const most = largestOf(feedback.map(Math.abs));
    return largestOf(feedback.subarray(Math.floor(onRamp.share * feedback.length)).map(Math.abs)) <= onRamp.rests * most;
  });
}

/** Share by which a gain is taken back, and how often, until it is within what was aimed at as the drive rounds it. */
const softer = { by: 0.97, steps: 9 };

/** Frequencies of a decade, integral times, steps down and halvings of the search, and the span of integral times over the process's own. */
const search = { perDecade: 24, times: 12, down: 1.35, lowest: 0.01, halvings: 4, shortest: 0.25, longest: 1.8 };

/**
 * PI with the largest integral gain whose sensitivity stays within a limit everywhere in the working range: least ∫|e| of a disturbance for a loop that
 * does not swing (Åström, Panagopoulos, Hägglund 1998); for an integrating process the least ∫|e| itself. Null where nothing holds it.
 */
export function largestIntegral(all: readonly ProcessModel[], unlikely: readonly ProcessModel[] = [], mostGain = Infinity): PidGains | null {
  const m = all[0];
  if (!m || m.gain === 0) return null;
  const { lag, deadTime } = reduced(m);
  const late = Math.max(0.02, m.kind === 'integrating' ? m.deadTime + m.lags[0] : deadTime);
  const own = m.kind === 'integrating' ? 8 * late : lag + late / 3;
  const highest = Math.min(mostGain, m.kind === 'integrating' ? 2 / (Math.abs(m.gain) * late) : (3 * (lag + late)) / (Math.abs(m.gain) * late));
  // held to a gain that is low for it, a level wants a longer integral: four over gain and gain is without a swing (Skogestad 2003)
  const longest = m.kind === 'integrating' ? Math.max(search.longest, 6 / (Math.abs(m.gain) * highest * own)) : search.longest;
  let best: (PidGains & { cost: number }) | null = null;
  for (let i = 0; i < search.times; i++) {
    const integralTime = own * search.shortest * (longest / search.shortest) ** (i / (search.times - 1));
    const holds = (gain: number) => {
      const within = (models: readonly ProcessModel[], most: number) => {
        const w = worstOf(models, { gain, integralTime, derivativeTime: 0 }, search.perDecade);
        return w.stable && w.sensitivity <= most;
      };
      return within(all, aimedAt) && (unlikely.length === 0 || within(unlikely, mostUnlikely.aimedAt));
    };
    // from the highest gain down: behind an integrator a low gain swings as well as a high one
    let high = highest;
    let low = high / search.down;
    while (low > highest * search.lowest && !holds(low)) [high, low] = [low, low / search.down];
    if (low <= highest * search.lowest) continue;
    for (let k = 0; k < search.halvings; k++) {
      const middle = Math.sqrt(low * high);
      if (holds(middle)) low = middle;
      else high = middle;
    }
    const g = { gain: low, integralTime, derivativeTime: 0 };
    // behind an integrator the most integral swings back and forth: what comes of it is looked at
    const cost = m.kind === 'settling' ? integralTime / low : predict(m, g, { setpoint: 0, disturbance: 1, longest: lastsFor(m, g) }, late / 10).iae;
    if (!best || cost < best.cost) best = { cost, ...g };
  }
  return best && { gain: best.gain, integralTime: best.integralTime, derivativeTime: 0 };
}

/** s of the answers foreseen: long enough for the slower of process and loop. */
function lastsFor(m: ProcessModel, g: PidGains): number {
  const own = m.lags[0] + m.lags[1] + m.deadTime;
  const integral = Number.isFinite(g.integralTime) ? g.integralTime : 0;
  const closed =
    m.kind === 'integrating' ? 6 / (Math.abs(m.gain) * Math.max(1e-6, g.gain)) : (4 * integral) / Math.max(0.05, Math.abs(m.gain) * g.gain);
  return Math.min(3600, Math.max(1, 8 * own, 6 * integral, closed));
}

/**
 * Controller settings for a measured process by every rule that holds for it, each with what would come of it, and which of them is recommended: of
 * those whose sensitivity stays within {@link mostSensitive} where the process is hardest to hold, the one with the least ∫|e| of a disturbance there.
 */
export function proposePid(measured: ProcessModel, o: ProposalOptions = {}): { proposals: Proposal[]; recommended: RuleId | null } {
  const m = filtered(measured, o.filter ?? 0);
  const steepest = Math.max(1, ...(o.gains ?? []));
  // a level tested to one side of its balance is probably, not surely, steeper on the other
  const aside = m.kind === 'integrating' && !o.bothSides ? oneSided : 1;
  // behind an integrator a low gain swings as well
  const flattest = m.kind === 'integrating' ? Math.min(1, ...(o.gains ?? [])) : 1;
  const times = (model: ProcessModel, by: number): ProcessModel => ({ ...model, gain: model.gain * by });
  const all = [m, ...[steepest, flattest].filter((by) => by !== 1).map((by) => times(m, by))];
  const unlikely = [...(aside > 1 ? [m] : []), ...(o.plausible ?? []).map((e) => filtered(e, o.filter ?? 0))].map((e) => times(e, steepest * aside));
  const round = o.round ?? ((g: PidGains) => g);
  const grain = o.grain ?? 0;
  const mostGain = grain > 0 ? mostKick / grain : Infinity;
  const holds = (g: PidGains) => (o.ramp === undefined || restsOnRamp(all, g, o.ramp)) && (o.holds?.(g) ?? true);
  const own: PidRule = {
    id: 'largest integral',
    purpose: 'both',
    source: `Åström, Panagopoulos, Hägglund 1998, Ms = ${aimedAt} where it is hardest`,
    gains: () => {
      let g = largestIntegral(all, unlikely, mostGain);
      for (let k = 0; g && k < calmer.steps && !holds(g); k++)
        g = { ...g, gain: g.gain / calmer.gain, integralTime: g.integralTime * (m.kind === 'integrating' ? calmer.gain : calmer.integral) };
      return g;
    },
  };
  const mayBe = (g: PidGains) => {
    if (unlikely.length === 0) return true;
    const w = worstOf(unlikely, g);
    return w.stable && w.sensitivity <= mostUnlikely.recommended;
  };
  // what was worked out to lie just within is not to be rounded out of it
  const gentlyRounded = (exact: PidGains): PidGains => {
    for (let k = 0; k < softer.steps; k++) {
      const g = round({ ...exact, gain: exact.gain * softer.by ** k, integralTime: exact.integralTime / softer.by ** (k / 2) });
      const w = worstOf(all, g);
      if (w.stable && w.sensitivity <= mostSensitive && mayBe(g)) return g;
    }
    return round(exact);
  };
  const proposals = [own, ...pidRules].flatMap((rule): Proposal[] => {
    const exact = rule.gains(m, mostGain);
    if (!exact || !(exact.gain > 0) || !Number.isFinite(exact.gain)) return [];
    if (exact.derivativeTime > 0 && o.derivative === false) return [];
    const gains = rule === own ? gentlyRounded(exact) : round(exact);
    const longest = lastsFor(m, gains);
    const worst = worstOf(all, gains);
    return [
      {
        ...{ rule: rule.id, purpose: rule.purpose, source: rule.source, exact, gains, worst },
        margins: marginsOf(m, gains),
        setpoint: predict(m, gains, { setpoint: 1, disturbance: 0, longest }),
        disturbance: predict(m, gains, { setpoint: 0, disturbance: 1, longest }),
        rounding: worst.sensitivity - worstOf(all, exact).sensitivity,
        kick: gains.gain * grain * (gains.derivativeTime > 0 ? 1 + derivativeShare : 1),
        holds: null,
      },
    ];
  });
  const sound = proposals.filter(
    (p) => p.worst.stable && p.worst.sensitivity <= mostSensitive && p.purpose !== 'comparison' && p.kick <= 1.05 * mostKick && mayBe(p.gains),
  );
  for (const p of sound) p.holds = holds(p.gains);
  const best = sound.filter((p) => p.holds).reduce<Proposal | null>((a, b) => (a && a.disturbance.iae <= b.disturbance.iae ? a : b), null);
  return { proposals, recommended: best?.rule ?? null };
}

/** Change of the feedback over its noise that a step test should make, and % of output it takes at least and at most. */
const wanted = { overNoise: 40, least: 8, most: 15 };

/** % of output a step test should take: enough to stand out of the noise, no more than the room there is. Null when the room is too small for that. */
export function stepSizeFor(noise: number, gain: number, room: number): number | null {
  const size = Math.max(wanted.least, Math.min(wanted.most, (wanted.overNoise * noise) / Math.max(1e-6, Math.abs(gain))));
  return size <= room ? size : room >= wanted.least ? room : null;
}
