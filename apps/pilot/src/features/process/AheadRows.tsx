import { View } from '@tamagui/core';
import { useMemo, useState } from 'react';
import type { MachineModel } from '@yare/commissioning';
import { loopAnswer, questionNames } from '@yare/commissioning/processWords';
import type { MachineSpec, ProcessSensor } from '@yare/core';
import { lateOf, type LoopAhead, type LoopQuestion } from '@yare/core/loop';
import { say } from '@yare/words/pages/process';
import { useLoopAhead } from '../../data/loop';
import { Chart } from '../../ui/chart/Chart';
import { Note, SectionHead, SheetRow } from '../../ui/sheet';
import { Second } from '../../ui/text';
import { VerdictMark } from '../../ui/VerdictMark';
import { planOf, type StepTestState } from './tuning';
import { feedbackPane, inUnit, outputPane } from '../../machine/panes';

/** Feedback and output of one answer: the draft's solid, what is in the drive dashed. */
function AheadChart({ sensor, draft, inDrive }: { sensor: ProcessSensor; draft: LoopAhead; inDrive: LoopAhead | null }) {
  const { time } = draft.series;
  return (
    <>
      <Chart
        panes={[
          feedbackPane(sensor, [
            { time, values: draft.series.feedback.map(inUnit(sensor)), label: 'draft' },
            ...(inDrive
              ? [{ time: inDrive.series.time, values: inDrive.series.feedback.map(inUnit(sensor)), dashed: true, label: say.inDrive }]
              : []),
          ]),
          outputPane([
            { time, values: draft.series.output },
            ...(inDrive ? [{ time: inDrive.series.time, values: inDrive.series.output, dashed: true }] : []),
          ]),
        ]}
        domain={[0, time[time.length - 1] ?? 120]}
        xUnit="s"
        paneHeight={70}
        testID="ahead-chart"
      />
      <View paddingHorizontal={14} paddingVertical={6} backgroundColor="$sheet" borderBottomWidth={1} borderColor="$rule">
        <Second>{say.estimatedFromPlateMachineAnd({ inDrive: !!inDrive })}</Second>
      </View>
    </>
  );
}

/** What the loop would do on the model of its own machine, with the draft and with what is in the drive. */
export function AheadRows({ model, sensor, t }: { model: MachineModel; sensor: ProcessSensor; t: StepTestState }) {
  const [shown, setShown] = useState<LoopQuestion | null>(null);
  const { drafted, held, inDriveSpec } = model;
  const spec: MachineSpec | null = model.draftSpec.ok ? model.draftSpec.spec : null;
  const { test } = t.read?.tuned ?? {};
  const { plan, heldPlan } = useMemo(() => {
    // what a step test told of how late the feedback comes
    const measured = test?.ok && test.likely.kind === 'settling' ? { measured: lateOf(test.likely) } : {};
    const of = (settings: MachineModel['drafted'] | null) => {
      const plan = settings && planOf(settings, sensor);
      return plan && { ...plan, ...measured };
    };
    return { plan: of(drafted), heldPlan: of(held) };
  }, [drafted, held, sensor, test]);
  const { answers, busy } = useLoopAhead(spec, plan);
  const differs = model.differing.length > 0;
  const there = useLoopAhead(differs ? inDriveSpec : null, differs ? heldPlan : null);
  if (!spec || !plan || (answers && answers.length === 0)) return null;
  const drawn = answers?.find((a) => a.question === shown);
  return (
    <>
      <SectionHead right={busy ? say.computing : say.touchToDraw}>{say.whatTheLoopWouldDo}</SectionHead>
      {!answers && <Note>{say.workingItOut}</Note>}
      {answers?.map(({ question, ahead }) => {
        const answer = loopAnswer(spec, question, ahead, sensor);
        return (
          <SheetRow
            key={question}
            label={questionNames[question]}
            second={answer.sentence}
            mark={<VerdictMark severity={answer.severity} past={busy} />}
            inHand={shown === question}
            onPress={() => setShown(shown === question ? null : question)}
            testID={`loop-${question.replaceAll(' ', '-')}`}
          />
        );
      })}
      {drawn && <AheadChart sensor={sensor} draft={drawn.ahead} inDrive={there.answers?.find((a) => a.question === shown)?.ahead ?? null} />}
    </>
  );
}
