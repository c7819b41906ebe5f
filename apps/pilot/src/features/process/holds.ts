import { useEffect, useRef, useState } from 'react';
import { decode, readingOf, sensorPercent, straightIn, type MachineModel } from '@yare/commissioning';
import { formatFigure, type DrivenKind, type ProcessSensor } from '@yare/core';
import { useLive } from '../../data/live';
import { useProve } from '../../data/proofs';
import type { Act } from '../../ui/bar';

/** How the demand is changed at each kind of machine, so that holding means something. */
const disturb: Partial<Record<DrivenKind, string>> = { pump: 'open and shut a tap or valve', fan: 'turn a damper' };

/** % of the range within which a loop holds, and s for which it has to. */
const within = 2;
const lasts = 20;

/** How long the feedback has stood at the set point without a break, by the link's own clock. */
interface Held {
  since: number;
  now: number;
  low: number;
  high: number;
}

/** Watches the running loop: once it has held its set point for a while, that can be counted as its proof. */
export function useHolds(
  model: MachineModel,
  sensor: ProcessSensor | null,
  signal: number,
): { act: Act | null; sentence: string | null; error: Error | null } {
  const { tag } = model.machine;
  const live = useLive([tag])(tag);
  const prove = useProve(model);
  const [held, setHeld] = useState<Held | null>(null);
  const { held: inDrive } = model;
  const straight = inDrive && straightIn(inDrive);
  const runs = live?.link === 'up' && live.state === 'running' && inDrive !== null && decode(inDrive, live).told.speed === 'process';
  // what is held now, where the family tells: a contact or a signal may have chosen it
  const told = runs && inDrive.book.words.live.setpoint !== undefined ? live.setpoint : 100 * (inDrive?.role('setpoint') ?? NaN);
  const setpoint = sensorPercent(straight, told);
  const feedback = runs ? live.feedback : null;
  const at = live?.link === 'up' ? live.at : null;
  const seen = useRef<number | null>(null);
  useEffect(() => {
    if (at === null || seen.current === at) return;
    seen.current = at;
    const inside = feedback !== null && Math.abs(feedback - setpoint) <= within;
    setHeld((h) =>
      inside ? { since: h?.since ?? at, now: at, low: Math.min(h?.low ?? feedback, feedback), high: Math.max(h?.high ?? feedback, feedback) } : null,
    );
  }, [at, feedback, setpoint]);
  if (!sensor || !Number.isFinite(setpoint)) return { act: null, sentence: null, error: null };
  const said = (share: number) => {
    const r = readingOf(sensor, signal, share);
    return `${formatFigure(r.figure, r.decimals > 0 ? r.decimals + 1 : 0)} ${r.unit}`;
  };
  const stood = held ? (held.now - held.since) / 1000 : 0;
  if (!held || stood < lasts)
    return {
      act: null,
      error: prove.error,
      sentence: `Prove it: let it run in auto, ${sensor.measures === 'level' ? 'let more or less flow in' : (disturb[model.machine.driven.kind] ?? 'change the demand')}, and leave this page open until it has held ${said(setpoint)} for ${lasts} s${held ? `; ${formatFigure(stood, 0)} s so far` : ''}.`,
    };
  const measured = `${said(held.low)} to ${said(held.high)} for ${formatFigure(stood, 0)} s`;
  return {
    error: prove.error,
    sentence: `It holds: ${measured}.`,
    act: {
      text: 'Count it: it holds',
      main: true,
      hotkey: 'k',
      testID: 'keep-holds',
      onPress: () =>
        prove.mutate({
          stage: 'process',
          item: 'holds',
          outcome: 'passed',
          expected: `${said(setpoint)}, within ${within} % of the range`,
          measured,
        }),
    },
  };
}
