import { View } from '@tamagui/core';
import { useState } from 'react';
import type { MachineModel } from '@yare/commissioning';
import { ruleNames, verdictOf, whyRecommended } from '@yare/commissioning/processWords';
import { formatFigure, ProcessAction, type ProcessSensor } from '@yare/core';
import type { PidGains, ProcessModel, Proposal, RuleId } from '@yare/core/loop';
import { say } from '@yare/words/pages/process';
import { takeChanges } from '../../machine/takeChanges';
import { Chart } from '../../ui/chart/Chart';
import { ActRow, Finding, SectionHead, SheetRow } from '../../ui/sheet';
import { Second } from '../../ui/text';
import { valuesText } from './liveTune';
import { feedbackGain, spanOf, type StepTestState } from './tuning';

/** % of output that comes in at once in the answers drawn. */
const disturbed = 10;

/** Changes of the draft that put values in; gains on the feedback as it comes. */
const valuesOf = ({ drafted }: MachineModel, { gain, integralTime, derivativeTime }: PidGains) => [
  ...drafted.change('proportionalGain', gain / feedbackGain(drafted), 'worked out'),
  ...drafted.change('integralTime', integralTime, 'worked out'),
  ...drafted.change('derivativeTime', derivativeTime, 'worked out'),
];

/** Values by the names and in the units of the drive; what stays out is left out. */
const gainsText = (model: MachineModel, { gains }: Proposal): string => {
  const values = Object.fromEntries(valuesOf(model, gains).map((c) => [c.code, c.value]));
  const said = model.drafted.having(['proportionalGain', 'integralTime', ...(gains.derivativeTime > 0 ? (['derivativeTime'] as const) : [])]);
  return valuesText(said, values);
};

/** The action the step itself has shown to be right. */
const rightAction = ({ gain }: ProcessModel): number => (gain < 0 ? ProcessAction.reverse : ProcessAction.direct);

/** At the right: how long it takes to settle, or that it does not. */
const settledOf = (p: Proposal): { figure: string; unit: string } | { text: string } => {
  const { settled } = p.disturbance;
  if (verdictOf(p).severity === 'error') return { text: p.worst.stable ? say.tooNear : 'swings' };
  if (settled === null) return { text: say.slow };
  return { figure: formatFigure(settled, settled < 10 ? 1 : 0), unit: 's' };
};

/** Changes of the draft that put a proposal in, with the action the step has shown. */
export const changesOf = (model: MachineModel, { gains }: Proposal, process: ProcessModel) => [
  ...valuesOf(model, gains),
  ...model.drafted.change('processAction', rightAction(process), 'measured'),
];

/** The drive would go the wrong way: told before the loop is closed with it. */
function ActionFinding({ model, process }: { model: MachineModel; process: ProcessModel }) {
  const wants = rightAction(process);
  const { drafted, held } = model;
  const wrong = [drafted.role('processAction'), held?.role('processAction')].map((a) => a != null && a !== wants);
  if (!wrong[0] && !wrong[1]) return null;
  const way = wants === ProcessAction.direct ? 'rises' : 'falls';
  return (
    <Finding
      severity="error"
      sentence={say.theStepHasShownThat({ way, wrong: !!wrong[0] })}
      {...(wrong[0] && { act: say.turnTheActionRound, onAct: () => takeChanges(model, drafted.change('processAction', wants, 'measured')) })}
    />
  );
}

/** The answer to a change of demand: proposed against what is in the draft. */
function AnswerChart({ sensor, p, against, t }: { sensor: ProcessSensor; p: Proposal; against: Proposal | null; t: StepTestState }) {
  const now = against?.disturbance ?? t.read?.tuned?.now;
  const other = against ? 'kept' : 'draft';
  const scaled = (values: Float64Array) => values.map((v) => spanOf(sensor, disturbed * v));
  const end = Math.min(p.disturbance.time.at(-1) ?? 1, Math.max(4 * (p.disturbance.settled ?? 1e9), 1));
  return (
    <>
      <Chart
        panes={[
          {
            key: 'deviation',
            name: say.offTheSetPoint,
            unit: sensor.unit,
            decimals: 2,
            series: [
              { time: p.disturbance.time, values: scaled(p.disturbance.feedback), label: say.proposed },
              ...(now ? [{ time: now.time, values: scaled(now.feedback), dashed: true, label: other }] : []),
            ],
          },
          {
            key: 'output',
            name: say.outputMoves,
            unit: '%',
            decimals: 1,
            series: [
              { time: p.disturbance.time, values: p.disturbance.output.map((v) => disturbed * v), label: say.proposed },
              ...(now ? [{ time: now.time, values: now.output.map((v) => disturbed * v), dashed: true, label: other }] : []),
            ],
          },
        ]}
        domain={[0, end]}
        xUnit="s"
        paneHeight={70}
        testID="answer-chart"
      />
      <View paddingHorizontal={14} paddingVertical={6} backgroundColor="$sheet" borderBottomWidth={1} borderColor="$rule">
        <Second>
          {say.estimatedADemandThatTakes({
            disturbed,
            against: against ? ruleNames[against.rule] : say.whatIsInTheDraft({ sensitivity: t.read?.tuned?.margins?.sensitivity ?? NaN }),
          })}
        </Second>
      </View>
    </>
  );
}

/** How far from swinging, and how far the output has to go, in figures. */
function MarginRows({ p }: { p: Proposal }) {
  const { worst, disturbance } = p;
  const angle = Number.isFinite(worst.phaseMargin) ? say.phaseMargin({ phaseMargin: worst.phaseMargin }) : say.noPhaseCrossing;
  return (
    <SheetRow
      label={say.gainMargin}
      second={say.msWhereItIsHardest({ angle, sensitivity: worst.sensitivity, disturbed: disturbed * disturbance.travel })}
      figure={Number.isFinite(worst.gainMargin) ? formatFigure(worst.gainMargin, 1) : '> 99'}
      unit="×"
      estimate
      testID="margins"
    />
  );
}

/** Controller settings for the process as tested, by rule, with what would come of each; one is recommended. */
export function ControllerRows({ model, sensor, t }: { model: MachineModel; sensor: ProcessSensor; t: StepTestState }) {
  const [chosen, setChosen] = useState<RuleId | null>(null);
  const [kept, setKept] = useState<RuleId | null>(null);
  const tuned = t.read?.tuned;
  if (!tuned?.test.ok) return null;
  const { proposals, recommended, test } = tuned;
  const best = proposals.find((p) => p.rule === recommended) ?? null;
  const shown = proposals.find((p) => p.rule === chosen) ?? best ?? proposals[0];
  if (!shown)
    return (
      <>
        <SectionHead>{say.controllerValues}</SectionHead>
        <Finding severity="warning" sentence={say.noRuleHoldsForThis} />
      </>
    );
  const changes = changesOf(model, shown, test.best.model).filter((c) => model.draftOf(c.code).value !== c.value);
  const verdict = verdictOf(shown);
  const may = verdict.severity !== 'error';
  const against = proposals.find((p) => p.rule === kept && p !== shown) ?? null;
  const what = `${ruleNames[shown.rule]}: ${gainsText(model, shown)}`;
  return (
    <>
      <SectionHead right="estimated">{say.controllerValues}</SectionHead>
      <ActionFinding model={model} process={test.best.model} />
      {best === shown ? (
        <Finding
          severity={changes.length > 0 ? 'act' : 'good'}
          sentence={`${what}. ${whyRecommended(best)}`}
          {...(changes.length > 0 && { act: say.putThemIntoTheDraft, onAct: () => takeChanges(model, changes) })}
        />
      ) : (
        <Finding
          severity={may && verdict.severity === 'good' ? (changes.length > 0 ? 'act' : 'good') : verdict.severity}
          sentence={say.text({ what, text: verdict.text, best: !!best })}
          {...(may && changes.length > 0 && { act: say.putThemIntoTheDraft, onAct: () => takeChanges(model, changes) })}
        />
      )}
      <AnswerChart sensor={sensor} p={shown} against={against} t={t} />
      <MarginRows p={shown} />
      <ActRow
        text={kept === null ? say.keepThisCurveToCompare : say.compareWithTheDraftAgain}
        onPress={() => setKept(kept === null ? shown.rule : null)}
        testID="keep-curve"
      />
      <SectionHead right={say.settlesIn}>{say.byEveryRule}</SectionHead>
      {proposals.map((p) => (
        <SheetRow
          key={p.rule}
          label={ruleNames[p.rule]}
          second={say.recommendedMsANewSet({
            rule: p.rule === recommended,
            gainsText: gainsText(model, p),
            sensitivity: p.worst.sensitivity,
            overshoot: p.setpoint.overshoot,
            source: p.source,
          })}
          {...settledOf(p)}
          inHand={p === shown}
          onPress={() => setChosen(p.rule)}
          testID={`rule-${p.rule.replaceAll(' ', '-')}`}
        />
      ))}
    </>
  );
}
