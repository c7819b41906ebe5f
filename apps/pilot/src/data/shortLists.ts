import { useMutation, useQuery } from '@tanstack/react-query';
import type { ShortList, ShortListEdit } from '@yare/contract';
import { api } from './api';
import { refresh, send } from './client';

const key = (bookId: string) => ['short lists', bookId] as const;
export const useShortLists = (bookId: string) =>
  useQuery({ queryKey: key(bookId), queryFn: () => api<ShortList[]>(`/books/${bookId}/short-lists`), staleTime: 30_000 });
export const useSaveShortList = (bookId: string) =>
  useMutation({
    mutationFn: (list: Omit<ShortListEdit, 'author'>) => send<ShortList>('PUT', `/books/${bookId}/short-lists`, list),
    ...refresh(key(bookId)),
  });
export const useDropShortList = (bookId: string) =>
  useMutation({ mutationFn: (id: number) => send('DELETE', `/short-lists/${id}`), ...refresh(key(bookId)) });
