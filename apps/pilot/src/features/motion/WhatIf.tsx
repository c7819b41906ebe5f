import { answerOf, dayText, resistorText, usualCycle, type Answer, type MachineModel } from '@yare/commissioning';
import { useMemo } from 'react';
import { stampedPower, toSi, type DayPlan, type LookAhead, type MachineSpec, type WhatIf } from '@yare/core';
import { useDay, useWhatIf, type LookAheadState } from '../../data/lookAhead';
import { SectionHead, SheetRow } from '../../ui/sheet';
import { VerdictMark } from '../../ui/VerdictMark';

/** An ordinary day of a house that washes in the morning and the evening and is quiet at night: openings of the taps by the hour. */
const usualDay = [0, 0, 0, 0, 0.05, 0.3, 0.7, 0.8, 0.6, 0.4, 0.3, 0.3, 0.5, 0.4, 0.3, 0.3, 0.4, 0.6, 0.7, 0.4, 0.2, 0.1, 0, 0];

/** The pressure loop and its sleep as the draft has them; null where the machine keeps no pressure or may not sleep. */
function dayPlanOf(model: MachineModel): DayPlan | null {
  const { driven } = model.machine;
  if (driven.kind !== 'pump' || driven.sensor?.measures !== 'pressure') return null;
  const { process } = model.drafted.controls();
  if (process.sleep.frequency <= 0) return null;
  const range = toSi(driven.sensor.high, driven.sensor.unit) - toSi(driven.sensor.low, driven.sensor.unit);
  return { range, process, demand: usualDay };
}

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
  const plan = useMemo(() => dayPlanOf(model), [model]);
  const day = useDay(spec, plan);
  return (
    <>
      <SectionHead right={busy ? 'computing…' : 'touch a line to draw it'}>What if</SectionHead>
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
      {day && <AnswerRow answer={dayText(day)} />}
      {state.stopping && (
        <SheetRow label="Brake resistor" second={resistorText(state.stopping.resistor, spec.drive.decelerationTime, usualCycle)} testID="resistor" />
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
