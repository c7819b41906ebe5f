import { useMutation, useQuery } from '@tanstack/react-query';
import type { LockView } from '@yare/contract';
import { api } from './api';
import { refresh, send } from './client';

const key = (tag: string) => ['lock', tag] as const;
export const useLock = (tag: string) =>
  useQuery({ queryKey: key(tag), queryFn: () => api<LockView>(`/machines/${tag}/lock`), refetchInterval: 15_000 });
export const useSetLock = (tag: string) =>
  useMutation({
    mutationFn: ({ locked, code }: { locked: boolean; code: string }) => send('POST', `/machines/${tag}/${locked ? 'lock' : 'unlock'}`, { code }),
    ...refresh(key(tag)),
  });
