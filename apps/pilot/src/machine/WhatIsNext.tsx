import { counted, type MachineModel, type StagePath } from '@yare/commissioning';
import { say } from '@yare/words/pages/frame';
import { useStandings } from '../data/standings';
import { go } from '../ui/go';
import { ProofShape } from '../ui/shapes';
import { SectionHead, SheetRow } from '../ui/sheet';

/** At the foot of every stage of a phone: what comes next, and how far the machine is. */
export function WhatIsNext({ model, stage }: { model: MachineModel; stage: StagePath }) {
  const { tag } = model.machine;
  const job = useStandings(model).filter((s) => s.stage.number !== null);
  const { needed, open } = counted(job);
  const here = job.findIndex((s) => s.stage.path === stage);
  const next = (here < 0 ? undefined : needed.find((s) => job.indexOf(s) > here)) ?? open[0];
  return (
    <>
      <SectionHead>{say.whatIsNext}</SectionHead>
      {next && (
        <SheetRow
          label={next.stage.name}
          second={next.text}
          mark={<ProofShape proof={next.proof} />}
          onPress={() => go(`/m/${tag}/${next.stage.path}`)}
          testID="next-stage"
        />
      )}
      <SheetRow
        label={say.workPlan}
        second={say.ofStagesProved({ needed: needed.length - open.length, needed2: needed.length })}
        onPress={() => go(`/m/${tag}`)}
        testID="next-plan"
      />
    </>
  );
}
