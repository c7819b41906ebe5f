import { keepPreviousData, QueryClient } from '@tanstack/react-query';
import { api } from './api';
import { authorNow } from './device';

export const queryClient: QueryClient = new QueryClient({
  defaultOptions: { queries: { retry: 1, staleTime: 2000, refetchOnWindowFocus: true } },
});

/** Asks again for whatever did not come. */
export const retryAll = (): void => void queryClient.invalidateQueries();

export const keys = {
  machines: ['machines'] as const,
  machine: (tag: string) => ['machine', tag] as const,
  sheets: (tag: string) => ['sheets', tag] as const,
  survey: (tag: string) => ['survey', tag] as const,
  wiring: (tag: string) => ['wiring', tag] as const,
  plan: (tag: string) => ['plan', tag] as const,
  seen: (tag: string) => ['seen', tag] as const,
  write: (tag: string) => ['write', tag] as const,
  recordings: (tag: string) => ['recordings', tag] as const,
  recording: (id: number) => ['recording', id] as const,
  trip: (tag: string, code: number) => ['trip', tag, code] as const,
  trips: (tag: string | null) => ['trips', tag] as const,
  tripCase: (id: number) => ['trips', 'case', id] as const,
  audit: ['audit'] as const,
};

/** Sends a change in the name of whoever works on this device. */
export const send = <T>(method: string, path: string, body: object = {}) => api<T>(path, { method, body: { ...body, author: authorNow() } });

/** What a mutation makes stale, whatever came of it. */
export const refresh = (...queryKeys: ReadonlyArray<readonly unknown[]>) => ({
  onSettled: () => {
    for (const queryKey of queryKeys) void queryClient.invalidateQueries({ queryKey });
  },
});

/** The same figures always give the same answer; the one before stands until it is there. */
export const computed = {
  placeholderData: keepPreviousData,
  staleTime: Infinity,
  gcTime: 600_000,
  retry: false,
  networkMode: 'always',
  structuralSharing: false,
} as const;
