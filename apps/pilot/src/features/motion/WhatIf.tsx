import { answerOf, resistorText, usualCycle, whileItRuns, type Answer, type MachineModel } from '@yare/commissioning';
import { useMemo } from 'react';
import { stampedPower, type LookAhead, type MachineSpec, type WhatIf } from '@yare/core';
import { say } from '@yare/words/pages/motion';
import { useWhatIf, type LookAheadState } from '../../data/lookAhead';
import { SectionHead, SheetRow } from '../../ui/sheet';
import { VerdictMark } from '../../ui/VerdictMark';

/** What else the model was asked: each line with its margin; a touch draws it. */
export function WhatIfRows({
  model,
  spec,
  state,
  shown,
  onShow,
}: {
  model: MachineModel;
  spec: MachineSpec;
  state: LookAheadState;
  shown: WhatIf | null;
  onShow: (question: WhatIf | null, ahead: LookAhead | null) => void;
}) {
  const { answers, busy } = useWhatIf(spec, stampedPower(model.plate));
  const runs = useMemo(() => whileItRuns(spec), [spec]);
  return (
    <>
      <SectionHead right={busy ? say.computing : say.touchALineToDraw}>{say.whatIf}</SectionHead>
      {answers?.map(({ question, ahead }) => (
        <AnswerRow
          key={question}
          answer={answerOf(spec, question, ahead)}
          past={busy}
          inHand={shown === question}
          onPress={() => (shown === question ? onShow(null, null) : onShow(question, ahead))}
          testID={`what-if-${question}`}
        />
      ))}
      {state.stopping && (
        <SheetRow
          label={say.brakeResistor}
          second={resistorText(state.stopping.resistor, state.stopping.resistorAtMost, spec.drive.decelerationTime, usualCycle, runs)}
          testID="resistor"
        />
      )}
    </>
  );
}

function AnswerRow({
  answer,
  past = false,
  ...row
}: {
  answer: Answer;
  /** of figures that are no longer so: no verdict */
  past?: boolean;
  inHand?: boolean;
  onPress?: () => void;
  testID?: string;
}) {
  return (
    <SheetRow
      {...row}
      label={answer.label}
      second={answer.sentence}
      mark={<VerdictMark severity={answer.severity} past={past} />}
      {...(answer.unit === '' ? { text: answer.figure } : { figure: answer.figure, unit: answer.unit, estimate: true })}
    />
  );
}
