import { useEffect, useRef, useState } from 'react';
import { wireVerdict, type WireLook, type WireStep, type WireVerdict } from '@yare/commissioning';
import { useLive } from '../../data/live';

/** How the guided check stands. */
export interface WireCheck {
  /** the step being tried; null when every one was */
  step: WireStep | null;
  verdicts: ReadonlyMap<number, WireVerdict>;
  /** an input has answered and is watched on */
  answering: boolean;
  /** the person worked it, and nothing answered */
  nothing: () => void;
  /** tries one again */
  again: (step: WireStep) => void;
}

const bit = (word: number, i: number): boolean => ((word >> i) & 1) === 1;

/** Watches the inputs of a drive while its contacts are worked one after the other. @param watching command is taken and nothing can start */
export function useWireCheck(tag: string, steps: readonly WireStep[], inputs: number, watching: boolean): WireCheck {
  const sample = useLive([tag])(tag);
  const [verdicts, setVerdicts] = useState<ReadonlyMap<number, WireVerdict>>(new Map());
  const looks = useRef<WireLook[]>([]);
  const [answering, setAnswering] = useState(false);
  const step = steps.find((s) => !verdicts.has(s.input)) ?? null;
  const judge = (s: WireStep, givenUp: boolean): void => {
    const verdict = wireVerdict(s, steps, looks.current, givenUp);
    if (!verdict) return;
    looks.current = looks.current.slice(-1);
    setAnswering(false);
    setVerdicts((before) => new Map(before).set(s.input, verdict));
  };
  const { at, words, link } = sample ?? { at: 0, words: null, link: 'down' };
  useEffect(() => {
    if (!watching || !step || !words || link === 'down') return;
    const last = looks.current[looks.current.length - 1];
    if (last?.at === at) return;
    const closed = Array.from({ length: inputs }, (_, i) => bit(words.inputs, i));
    // while nothing has answered only the state at rest counts
    const rest = looks.current[0]?.closed;
    const answers = looks.current.length > 1 || (rest !== undefined && closed.some((c, i) => c !== rest[i]));
    looks.current = answers ? [...looks.current, { at, closed }] : [{ at, closed }];
    setAnswering(answers);
    judge(step, false);
    // a look is taken for each sample that came
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [at, watching, step?.input]);
  useEffect(() => {
    if (!watching) looks.current = [];
  }, [watching]);
  return {
    step,
    verdicts,
    answering,
    nothing: () => step && judge(step, true),
    again: (s) => {
      looks.current = looks.current.slice(-1);
      setVerdicts((before) => new Map([...before].filter(([input]) => input !== s.input)));
    },
  };
}
