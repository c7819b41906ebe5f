import { surveyGround, itemStanding, type ItemStanding } from '@yare/commissioning';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { Plan, Proof, ProofEdit, Survey, SurveyRevision } from '@yare/contract';
import { api } from './api';
import { authorNow } from './device';
import { emptySurvey, useMachineEdits } from './edits';
import type { MachineModel } from './machineModel';
import { keys, queryClient } from './queries';

export const usePlan = (tag: string) =>
  useQuery({ queryKey: keys.plan(tag), queryFn: () => api<Plan>(`/machines/${tag}/plan`), refetchInterval: 8000 });

const useSurveyRevision = (tag: string) =>
  useQuery({ queryKey: keys.survey(tag), queryFn: () => api<SurveyRevision | null>(`/machines/${tag}/survey`), refetchInterval: 15_000 });

export interface SurveyState {
  survey: Survey;
  /** null before anybody made one */
  made: { revision: number; author: string; at: string } | null;
  loading: boolean;
}

/** The survey as this device sees it: the server's with what was typed here on top. */
export function useSurvey(model: MachineModel): SurveyState {
  const { data, isPending } = useSurveyRevision(model.machine.tag);
  const { changes } = useMachineEdits(model.machine.tag).survey;
  return useMemo(
    () => ({ survey: { ...(data?.survey ?? emptySurvey(model.machine)), ...(changes as Partial<Survey>) }, made: data ?? null, loading: isPending }),
    [data, changes, isPending, model.machine],
  );
}

export type ProofGiven = Omit<ProofEdit, 'author' | 'settings' | 'plate' | 'survey'> & Partial<Pick<ProofEdit, 'settings' | 'plate' | 'survey'>>;

/** Records a proof; what it relied on is looked up by the server as it stands in the drive. */
export const useProve = (tag: string) =>
  useMutation({
    mutationFn: (proof: ProofGiven) =>
      api<Proof>(`/machines/${tag}/proofs`, {
        method: 'POST',
        body: { settings: [], plate: false, survey: false, ...proof, author: authorNow() },
      }),
    onSuccess: (proof) => {
      queryClient.setQueryData<Plan>(keys.plan(tag), (old) => ({
        proofs: [...(old?.proofs ?? []).filter((p) => p.stage !== proof.stage || p.item !== proof.item), proof],
      }));
      void queryClient.invalidateQueries({ queryKey: keys.machines });
    },
  });

/** How things a proof may rely on stand now. */
export const standsNow = (model: MachineModel, survey: Survey) => (name: string) => {
  if (name === 'drive') return model.machine.driveRevision;
  if (name === 'plate') return model.machine.plate.revision;
  if (name === 'survey') return surveyGround(survey);
  return name.startsWith('setting ') ? (model.inDriveOf(name.slice(8))?.value ?? null) : undefined;
};

/** What changed, in words a person knows. */
export function changedWords(model: MachineModel, changed: readonly string[]): string {
  const words = changed.map((name) => {
    if (!name.startsWith('setting ')) return name === 'drive' ? 'another drive' : name;
    const s = model.settings.find((x) => x.code === name.slice(8));
    return s ? `${s.name.toLowerCase()} ${s.code}` : name.slice(8);
  });
  return words.length > 2 ? `${words.slice(0, 2).join(', ')} and ${words.length - 2} more` : words.join(' and ');
}

export interface ProofStanding {
  newest: Proof | undefined;
  standing: ItemStanding;
}

/** A way to ask how any test of a machine stands. */
export function useProofs(model: MachineModel): (stage: string, item: string) => ProofStanding {
  const { data } = usePlan(model.machine.tag);
  const { survey } = useSurvey(model);
  return useMemo(() => {
    const now = standsNow(model, survey);
    return (stage, item) => {
      const newest = data?.proofs.find((p) => p.stage === stage && p.item === item);
      return { newest, standing: itemStanding(newest, now) };
    };
  }, [data, survey, model]);
}
