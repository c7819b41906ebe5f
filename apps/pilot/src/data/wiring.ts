import { useMutation, useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useState } from 'react';
import { emptyWiring } from '@yare/commissioning';
import type { LiveSample, Wiring, WiringRevision } from '@yare/contract';
import { stillRepeat } from '@yare/contract/hold';
import { api } from './api';
import { keys } from './client';
import { authorNow } from './device';
import { useMachineEdits } from './edits';

/** What is wired as this device sees it: the server's with what was changed here on top. */
export function useWiring(tag: string): Wiring {
  const { data } = useQuery({
    queryKey: keys.wiring(tag),
    queryFn: () => api<WiringRevision | null>(`/machines/${tag}/wiring`),
    refetchInterval: 15_000,
  });
  const { changes } = useMachineEdits(tag).wiring;
  return useMemo(() => ({ ...(data?.wiring ?? emptyWiring), ...changes }), [data, changes]);
}

const still = (tag: string, end = false) =>
  api<LiveSample>(`/machines/${tag}/still${end ? '/end' : ''}`, { method: 'POST', body: { author: authorNow() } });

/** Gives command back to the panel at once, before the minute is over that it is kept for. */
export const useGiveBack = (tag: string) => useMutation({ mutationFn: () => still(tag, true) });

/**
 * Takes command at rest while a page asks for it, so that what is pressed at the panel is seen and starts nothing. A page that is left, or a phone that is
 * locked, gives nothing back: somebody may just have a finger on the start button. It stays so for a told time.
 */
export function useStill(tag: string) {
  // each asking begins as if nothing were known: what the last answer said stands until the next one
  const [answer, setAnswer] = useState<Error | 'kept' | null>(null);
  const { mutate } = useMutation({ mutationFn: () => still(tag), onSuccess: () => setAnswer('kept'), onError: setAnswer });
  const giveBack = useGiveBack(tag);
  const over = giveBack.isPending || giveBack.isSuccess;
  useEffect(() => {
    if (over) return;
    mutate();
    const timer = setInterval(() => mutate(), stillRepeat);
    return () => clearInterval(timer);
  }, [tag, over, mutate]);
  return { error: answer instanceof Error ? answer : null, kept: answer === 'kept', giveBack };
}
