import { View } from '@tamagui/core';
import { useState } from 'react';
import type { MachineModel } from '@yare/commissioning';
import { ruleNames, verdictOf, whyRecommended } from '@yare/commissioning/processWords';
import { formatFigure, type ProcessSensor } from '@yare/core';
import type { Proposal, RuleId } from '@yare/core/loop';
import { takeChanges } from '../../machine/takeChanges';
import { Chart } from '../../ui/chart/Chart';
import { Finding, SectionHead, SheetRow } from '../../ui/sheet';
import { Second } from '../../ui/text';
import { spanOf, type StepTestState } from './tuning';

/** % of output that comes in at once in the answers drawn. */
const disturbed = 10;

const gainsText = ({ gains }: Proposal): string =>
  `gain ${formatFigure(gains.gain, 2)}, integral ${formatFigure(gains.integralTime, gains.integralTime < 10 ? 1 : 0)} s`;

/** At the right: how long it takes to settle, or that it does not. */
const settledOf = (p: Proposal): { figure: string; unit: string } | { text: string } => {
  const { settled } = p.disturbance;
  if (verdictOf(p).severity === 'error') return { text: p.worst.stable ? 'too near' : 'swings' };
  if (settled === null) return { text: 'slow' };
  return { figure: formatFigure(settled, settled < 10 ? 1 : 0), unit: 's' };
};

/** Changes of the draft that put a proposal in. */
export const changesOf = (model: MachineModel, { gains }: Proposal) => [
  ...model.drafted.change('proportionalGain', gains.gain, 'worked out'),
  ...model.drafted.change('integralTime', gains.integralTime, 'worked out'),
];

/** The answer to a change of demand: proposed against what is in the draft. */
function AnswerChart({ sensor, p, t }: { sensor: ProcessSensor; p: Proposal; t: StepTestState }) {
  const now = t.read?.tuned?.now;
  const scaled = (values: Float64Array) => values.map((v) => spanOf(sensor, disturbed * v));
  const end = Math.min(p.disturbance.time.at(-1) ?? 1, Math.max(4 * (p.disturbance.settled ?? 1e9), 1));
  return (
    <>
      <Chart
        panes={[
          {
            key: 'deviation',
            name: 'Off the set point',
            unit: sensor.unit,
            decimals: 2,
            series: [
              { time: p.disturbance.time, values: scaled(p.disturbance.feedback), label: 'proposed' },
              ...(now ? [{ time: now.time, values: scaled(now.feedback), dashed: true, label: 'draft' }] : []),
            ],
          },
          {
            key: 'output',
            name: 'Output moves',
            unit: '%',
            decimals: 1,
            series: [
              { time: p.disturbance.time, values: p.disturbance.output.map((v) => disturbed * v), label: 'proposed' },
              ...(now ? [{ time: now.time, values: now.output.map((v) => disturbed * v), dashed: true, label: 'draft' }] : []),
            ],
          },
        ]}
        domain={[0, end]}
        xUnit="s"
        paneHeight={70}
        testID="answer-chart"
      />
      <View paddingHorizontal={14} paddingVertical={6} backgroundColor="$sheet" borderBottomWidth={1} borderColor="$rule">
        <Second>{`Estimated: a demand that takes ${disturbed} % of output comes at once. Dashed: with what is in the draft.`}</Second>
      </View>
    </>
  );
}

/** Controller settings for the process as tested, by rule, with what would come of each; one is recommended. */
export function ControllerRows({ model, sensor, t }: { model: MachineModel; sensor: ProcessSensor; t: StepTestState }) {
  const [chosen, setChosen] = useState<RuleId | null>(null);
  const tuned = t.read?.tuned;
  if (!tuned?.test.ok) return null;
  const { proposals, recommended } = tuned;
  const best = proposals.find((p) => p.rule === recommended) ?? null;
  const shown = proposals.find((p) => p.rule === chosen) ?? best ?? proposals[0];
  if (!shown)
    return (
      <>
        <SectionHead>Controller values</SectionHead>
        <Finding severity="warning" sentence="No rule holds for this process: it answers at once, or not at all. Look at the step test again." />
      </>
    );
  const changes = changesOf(model, shown).filter((c) => model.draftOf(c.code).value !== c.value);
  const verdict = verdictOf(shown);
  const may = verdict.severity !== 'error';
  return (
    <>
      <SectionHead right="estimated">Controller values</SectionHead>
      {best === shown ? (
        <Finding
          severity={changes.length > 0 ? 'act' : 'good'}
          sentence={`${ruleNames[best.rule]}: ${gainsText(best)}. ${whyRecommended(best)}`}
          {...(changes.length > 0 && { act: 'Put them into the draft', onAct: () => takeChanges(model, changes) })}
        />
      ) : (
        <Finding
          severity={may && verdict.severity === 'good' ? (changes.length > 0 ? 'act' : 'good') : verdict.severity}
          sentence={`${ruleNames[shown.rule]}: ${gainsText(shown)}; ${verdict.text}.${best ? '' : ' Nothing is recommended for this process.'}`}
          {...(may && changes.length > 0 && { act: 'Put them into the draft', onAct: () => takeChanges(model, changes) })}
        />
      )}
      <AnswerChart sensor={sensor} p={shown} t={t} />
      <SectionHead right="settles in">By every rule</SectionHead>
      {proposals.map((p) => (
        <SheetRow
          key={p.rule}
          label={ruleNames[p.rule]}
          second={`${p.rule === recommended ? 'recommended · ' : ''}${gainsText(p)} · Ms ${formatFigure(p.worst.sensitivity, 2)} · a new set point overshoots ${formatFigure(p.setpoint.overshoot, 0)} % · ${p.source}`}
          {...settledOf(p)}
          inHand={p === shown}
          onPress={() => setChosen(p.rule)}
          testID={`rule-${p.rule.replaceAll(' ', '-')}`}
        />
      ))}
    </>
  );
}
