import { useEffect, useRef, useState } from 'react';
import type { MachineModel } from '@yare/commissioning';
import { guardKinds, type GuardKind } from '@yare/core';
import { useLive } from '../../data/live';

/** What can be seen to act: a guard, or something the drive does by itself. */
export type SeenKind = GuardKind | 'feedback' | 'fill' | 'cleaning' | 'frost' | 'runOn';

/** What was seen of each while this page was open, in words. */
export type GuardsSeen = Partial<Record<SeenKind, string>>;

const isGuard = (cause: string): cause is GuardKind => (guardKinds as readonly string[]).includes(cause);

/** Watches the machine for guards that act, as trip, rest or warning, and for what it does by itself from beginning to end. */
export function useGuardsSeen(model: MachineModel): GuardsSeen {
  const { tag } = model.machine;
  const live = useLive([tag])(tag);
  const [seen, setSeen] = useState<GuardsSeen>({});
  const doing = useRef<string>('nothing');
  const code = live?.link === 'up' ? (live.trip?.code ?? null) : null;
  const warns = live?.link === 'up' ? live.warns.join(' ') : '';
  const now = live?.link === 'up' ? live.doing : 'nothing';
  const state = live?.state;
  const at = live?.at ?? 0;
  const began = useRef(0);
  useEffect(() => {
    const add = (kind: SeenKind, text: string) => setSeen((s) => ({ ...s, [kind]: text }));
    const trip = model.drafted.book.trips.find((t) => t.code === code);
    if (trip && isGuard(trip.cause)) add(trip.cause, `tripped: ${trip.name}`);
    if (trip?.cause === 'liveZeroLoss') add('feedback', `tripped: ${trip.name}`);
    for (const kind of warns.split(' ')) if (isGuard(kind)) add(kind, now === 'resting' ? 'stopped, and rests before it tries again' : 'warned');
    const was = doing.current;
    if (was !== now) {
      const seconds = Math.round((at - began.current) / 1000);
      if (was === 'cleaning' && state === 'running') add('cleaning', `cleaned itself for ${seconds} s and went on`);
      if (was === 'filling' && state === 'running') add('fill', `filled the pipe for ${seconds} s, then held it`);
      if (was === 'running on' && now === 'nothing') add('runOn', `ran on for ${seconds} s`);
      if (now === 'frost') add('frost', 'turned because of the frost thermostat');
      doing.current = now;
      began.current = at;
    }
    // by what changed, not by every sample
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [code, warns, now, state]);
  return seen;
}
