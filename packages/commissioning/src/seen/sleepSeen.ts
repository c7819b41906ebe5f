import type { LiveSample } from '@yare/contract';
import type { Observer } from './observer';

/** One sleep that was seen whole: s it slept, and % of the range the feedback fell meanwhile. */
export interface SleepFound {
  seconds: number;
  fell: number;
}

/** A rest shorter than this, s, is no sleep. */
const least = 2;

type Pending = { was: LiveSample['state'] | null; fell: { at: number; feedback: number } | null };

/** A machine that falls asleep out of its run and wakes by itself. */
export const sleepObserver: Observer<Pending, SleepFound | null> = {
  begin: { was: null, fell: null },
  none: null,
  look({ was, fell }, found, s) {
    // a rest after a guard, or standing by for another pump, is no sleep
    const state = s.link === 'up' && s.doing !== 'resting' && s.doing !== 'standby' && s.holder === 'terminals' ? s.state : null;
    if (state === was) return { pending: { was, fell }, found };
    if ((was === 'running' || was === 'stopping') && state === 'asleep')
      return { pending: { was: state, fell: { at: s.at, feedback: s.feedback } }, found };
    if (was === 'asleep' && state === 'running' && fell && s.at - fell.at >= least * 1000)
      return { pending: { was: state, fell: null }, found: { seconds: (s.at - fell.at) / 1000, fell: fell.feedback - s.feedback } };
    return { pending: { was: state, fell: state === 'asleep' ? fell : null }, found };
  },
};
