import { stageAfter, type MachineModel, type StagePath } from '@yare/commissioning';
import { useStandings } from '../data/standings';
import { go } from '../ui/go';
import { ProofShape } from '../ui/shapes';
import { SectionHead, SheetRow } from '../ui/sheet';

/** At the foot of every stage of a phone: what comes next, and how far the machine is. */
export function WhatIsNext({ model, stage }: { model: MachineModel; stage: StagePath }) {
  const { tag } = model.machine;
  const job = useStandings(model).filter((s) => s.stage.number !== null);
  const after = job.find((s) => s.stage.path === stageAfter(stage)?.path);
  const open = job.filter((s) => s.proof !== 'proved');
  const next = after ?? open[0];
  return (
    <>
      <SectionHead>What is next</SectionHead>
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
        label="Work plan"
        second={`${job.length - open.length} of ${job.length} stages proved`}
        onPress={() => go(`/m/${tag}`)}
        testID="next-plan"
      />
    </>
  );
}
