import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { emptySurvey, type MachineModel } from '@yare/commissioning';
import type { Survey, SurveyRevision } from '@yare/contract';
import { api } from './api';
import { keys } from './client';
import { useMachineEdits } from './edits';

const useSurveyRevision = (tag: string) =>
  useQuery({ queryKey: keys.survey(tag), queryFn: () => api<SurveyRevision | null>(`/machines/${tag}/survey`), refetchInterval: 15_000 });

export interface SurveyState {
  survey: Survey;
  /** null before anybody made one */
  made: { revision: number; author: string; at: string } | null;
  loading: boolean;
}

/** The survey as this device sees it: the server's with what was typed here on top. */
export function useSurvey({ machine }: Pick<MachineModel, 'machine'>): SurveyState {
  const { data, isPending } = useSurveyRevision(machine.tag);
  const { changes } = useMachineEdits(machine.tag).survey;
  return useMemo(
    () => ({ survey: { ...(data?.survey ?? emptySurvey(machine)), ...changes }, made: data ?? null, loading: isPending }),
    [data, changes, isPending, machine],
  );
}
