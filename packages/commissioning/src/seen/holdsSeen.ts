import type { LiveSample } from '@yare/contract';
import type { Observer } from './observer';

/** s within the band before a disturbance can be told from a run-up, and after it until that counts as held. */
export const holdsFor = { before: 5, after: 20 } as const;
/** % of the range within which a loop holds. */
export const holdsWithin = 2;
/** % of full speed the output has to move for a disturbance to have been one: a pump on a flat curve moves by no more between a tap and none. */
const disturbs = 2;
/** % of full speed the output may move at most while it stands or holds. */
const moves = 4;

/** A disturbance that was seen and held: % of the range the feedback went off at most, % of full speed the output moved, s until it was back. */
export interface HoldsFound {
  off: number;
  output: number;
  back: number;
  /** % of the range, least and most while it held afterwards, and s it held */
  low: number;
  high: number;
  held: number;
}

/** How far it is: running up, standing, disturbed, and back again since. Times in ms as the samples have them. */
export interface HoldsPending {
  stage: 'settling' | 'stands' | 'disturbed' | 'back';
  since: number;
  /** % of full speed, mean while it stood; what was seen of the disturbance */
  rest: number;
  count: number;
  off: number;
  output: number;
  began: number;
  low: number;
  high: number;
  /** output's least and most while it settled, and since it is back */
  slow: number;
  fast: number;
}

const settling = (at: number): HoldsPending => ({
  ...{
    stage: 'settling',
    since: at,
    rest: 0,
    count: 0,
    off: 0,
    output: 0,
    began: 0,
    low: Infinity,
    high: -Infinity,
    slow: Infinity,
    fast: -Infinity,
  },
});

/**
 * A loop that is disturbed and holds: it stands at its set point, something moves it or its output, and it comes back and stays.
 * @param of what is held and what is there, % of the range, and the output in % of full speed; null while the loop is not in command
 */
export const holdsObserver = (
  of: (s: LiveSample) => { setpoint: number; feedback: number; output: number } | null,
): Observer<HoldsPending, HoldsFound | null> => ({
  begin: settling(0),
  none: null,
  look(p, found, s) {
    const now = of(s);
    if (!now) return { pending: settling(s.at), found };
    const error = Math.abs(now.feedback - now.setpoint);
    const inside = error <= holdsWithin;
    const stood = (s.at - p.since) / 1000;
    switch (p.stage) {
      case 'settling': {
        if (!inside || p.count === 0) return { pending: { ...settling(s.at), count: inside ? 1 : 0, rest: now.output }, found };
        if (Math.abs(now.output - p.rest) > moves) return { pending: { ...settling(s.at), count: 1, rest: now.output }, found };
        // where it stands, and by how much it moves by itself: the end of the run-up before is none of that
        const before = stood < holdsFor.before / 2 ? { slow: Infinity, fast: -Infinity } : p;
        const count = before.slow === Infinity ? 1 : p.count + 1;
        const pending = {
          ...{ ...p, count, rest: count === 1 ? (p.rest + now.output) / 2 : p.rest + (now.output - p.rest) / count },
          ...(stood < holdsFor.before / 2 ? before : { slow: Math.min(before.slow, now.output), fast: Math.max(before.fast, now.output) }),
        };
        return { pending: stood >= holdsFor.before ? { ...pending, stage: 'stands' } : pending, found };
      }
      case 'stands': {
        const moved = Math.abs(now.output - p.rest);
        if (inside && moved <= Math.max(disturbs, p.fast - p.slow)) return { pending: p, found };
        return { pending: { ...p, stage: 'disturbed', began: s.at, since: s.at, off: error, output: moved }, found };
      }
      case 'disturbed': {
        const seen = { ...p, off: Math.max(p.off, error), output: Math.max(p.output, Math.abs(now.output - p.rest)) };
        if (!inside) return { pending: seen, found };
        return {
          pending: { ...seen, stage: 'back', since: s.at, low: now.feedback, high: now.feedback, slow: now.output, fast: now.output },
          found,
        };
      }
      case 'back': {
        const seen = { ...p, off: Math.max(p.off, error), output: Math.max(p.output, Math.abs(now.output - p.rest)) };
        const [slow, fast] = [Math.min(p.slow, now.output), Math.max(p.fast, now.output)];
        if (!inside) return { pending: { ...seen, stage: 'disturbed' }, found };
        // it still moves: what it does now is not what it holds with
        if (fast - slow > moves)
          return { pending: { ...seen, since: s.at, low: now.feedback, high: now.feedback, slow: now.output, fast: now.output }, found };
        const pending = { ...seen, slow, fast, low: Math.min(p.low, now.feedback), high: Math.max(p.high, now.feedback) };
        if (stood < holdsFor.after) return { pending, found };
        const { off, output, low, high } = pending;
        return { pending, found: { off, output, back: (p.since - p.began) / 1000, low, high, held: stood } };
      }
    }
  },
});
