import { useEffect, useState } from 'react';
import {
  askNext,
  lookAtWires,
  nothingAnswered,
  takenAsRest,
  wireBegins,
  wireVerdict,
  type WireState,
  type WireStep,
  type WireVerdict,
  type WireVerdicts,
} from '@yare/commissioning';
import { live } from '../../data/live';
import type { Noted } from '../../data/seen';

/** How the guided check stands. */
export interface WireCheck {
  state: WireState;
  /** the step being tried; null when every one was */
  step: WireStep | null;
  /** a person says that nobody works anything */
  atRest: () => void;
  /** the person worked it, and nothing answered */
  nothing: () => void;
  /** it cannot be worked now */
  skip: () => void;
  /** tries one again */
  again: (step: WireStep) => void;
}

const bit = (word: number, i: number): boolean => ((word >> i) & 1) === 1;

/**
 * Watches the inputs of a drive while its contacts are worked one after the other.
 * @param watching command is taken and nothing can start
 * @param noted what was found, which outlives the page
 */
export function useWireCheck(tag: string, steps: readonly WireStep[], watching: boolean, { found, note }: Noted<WireVerdicts>): WireCheck {
  const [state, setState] = useState<WireState>(wireBegins);
  const step = steps.find((s) => found[s.input] === undefined) ?? null;
  useEffect(() => {
    if (!watching) return setState(wireBegins);
    let seen = -Infinity;
    return live.subscribe(() => {
      const s = live.samples.get(tag);
      if (!s || s.link === 'down' || s.at === seen) return;
      seen = s.at;
      const closed = Array.from({ length: 16 }, (_, i) => bit(s.words.inputs, i));
      setState((before) => lookAtWires(before, { at: s.at, closed }, steps));
    });
  }, [tag, steps, watching]);
  const judged = (verdict: WireVerdict): void => {
    if (!step) return;
    setState(askNext);
    note({ ...found, [step.input]: verdict });
  };
  const verdict = step && wireVerdict(step, steps, state);
  useEffect(() => {
    if (state.stage !== 'over' && !verdict) return;
    // several that moved at once tell nothing: it is asked for again
    if (verdict) judged(verdict);
    else setState(askNext);
    // once for each movement that is over
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [state.stage, verdict?.kind, step?.input]);
  return {
    state,
    step,
    atRest: () => setState((s) => takenAsRest(s, live.samples.get(tag)?.at ?? 0)),
    nothing: () => setState(nothingAnswered),
    skip: () => judged({ kind: 'skipped' }),
    again: (s) => {
      // where a wire was put right, things may stand otherwise at rest now
      setState((now) =>
        steps.every((x) => now.rest?.[x.input] === now.last[x.input]) ? askNext(now) : { ...wireBegins, last: now.last, since: now.since },
      );
      note(Object.fromEntries(Object.entries(found).filter(([input]) => Number(input) !== s.input)));
    },
  };
}
