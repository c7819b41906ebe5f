import { useMutation, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { itemStanding, proofRelies, standsNow, type ItemStanding, type MachineModel, type StagePath } from '@yare/commissioning';
import type { Leaving, Plan, Proof, ProofEdit } from '@yare/contract';
import { api } from './api';
import { keys, queryClient, send } from './client';
import { useSurvey } from './survey';

export const usePlan = (tag: string) =>
  useQuery({ queryKey: keys.plan(tag), queryFn: () => api<Plan>(`/machines/${tag}/plan`), refetchInterval: 8000 });

export interface ProofGiven extends Pick<ProofEdit, 'item' | 'outcome' | 'facts'> {
  stage: StagePath;
}

const proving = (tag: string) => ({
  onSuccess: (proof: Proof) => {
    queryClient.setQueryData<Plan>(keys.plan(tag), (old) => ({
      left: old?.left ?? null,
      proofs: [...(old?.proofs ?? []).filter((p) => p.stage !== proof.stage || p.item !== proof.item), proof],
    }));
    void queryClient.invalidateQueries({ queryKey: keys.machines });
  },
});

/** Records a proof of a stage; what it relies on is the stage's to say, and looked up by the server as it stands in the drive. */
export const useProve = (model: MachineModel) =>
  useMutation({
    mutationFn: (proof: ProofGiven) =>
      send<Proof>('POST', `/machines/${model.machine.tag}/proofs`, { ...proofRelies(proof.stage, proof.item, model), ...proof }),
    ...proving(model.machine.tag),
  });

/** Notes that the work is left with stages unproved, or goes on; they are told by their routes. */
export const useLeaveWork = (tag: string) =>
  useMutation({
    mutationFn: (stages: readonly StagePath[] | 'goes on') =>
      stages === 'goes on' ? send<null>('POST', `/machines/${tag}/go-on`, {}) : send<Leaving>('POST', `/machines/${tag}/leave`, { stages }),
    onSuccess: (left) => {
      queryClient.setQueryData<Plan>(keys.plan(tag), (old) => ({ proofs: old?.proofs ?? [], left }));
      void queryClient.invalidateQueries({ queryKey: keys.machines });
    },
  });

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
