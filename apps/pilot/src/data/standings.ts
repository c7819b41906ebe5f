import { useMemo } from 'react';
import { stages, type MachineModel, type Stage, type Standing } from '@yare/commissioning';
import { useProofs } from './proofs';
import { useRecordings } from './recordings';
import { useSurvey } from './survey';

/** Every stage with how far it is. */
export function useStandings(m: MachineModel): Array<Standing & { stage: Stage }> {
  const kept = useRecordings(m.machine.tag).data?.pages[0]?.recordings ?? [];
  const [recordings, runs] = [kept.length, kept.filter((r) => r.kind === 'run').length];
  const { survey, made } = useSurvey(m);
  const proofs = useProofs(m);
  return useMemo(() => {
    const context = { recordings, runs, survey, surveyed: made !== null, proofOf: (stage: string, item: string) => proofs(stage, item).standing };
    return stages.map((stage) => ({ stage, ...stage.standing(m, context) }));
  }, [m, recordings, runs, survey, made, proofs]);
}
