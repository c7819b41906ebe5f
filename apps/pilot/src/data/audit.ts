import { useQuery } from '@tanstack/react-query';
import type { AuditPage } from '@yare/contract';
import { api } from './api';
import { keys } from './client';

export const useAudit = (tag?: string) =>
  useQuery({ queryKey: [...keys.audit, tag ?? ''], queryFn: () => api<AuditPage>(`/audit${tag ? `?tag=${tag}` : ''}`), refetchInterval: 10_000 });
