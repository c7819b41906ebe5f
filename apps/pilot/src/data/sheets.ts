import { keepPreviousData, useQuery } from '@tanstack/react-query';
import type { Sheet, SheetRevisionPage, Sheets } from '@yare/contract';
import { api } from './api';
import { keys, queryClient } from './client';

export const useSheets = (tag: string) =>
  useQuery({
    queryKey: keys.sheets(tag),
    queryFn: () => api<Sheets>(`/machines/${tag}/sheets`),
    refetchInterval: 4000,
    placeholderData: keepPreviousData,
  });

/** Shows at once what a drive holds. */
export const putInDrive = (tag: string, inDrive: Sheet) => queryClient.setQueryData<Sheets>(keys.sheets(tag), (old) => old && { ...old, inDrive });

export const useRevisions = (tag: string) =>
  useQuery({ queryKey: ['revisions', tag], queryFn: () => api<SheetRevisionPage>(`/machines/${tag}/revisions`), staleTime: 1000 });
export const useRevision = (tag: string, which: { kind: string; revision: number } | null) =>
  useQuery({
    queryKey: ['revision', tag, which],
    queryFn: () => api<Sheet>(`/machines/${tag}/revisions/${which?.kind}/${which?.revision}`),
    enabled: which !== null,
    staleTime: Infinity,
  });
