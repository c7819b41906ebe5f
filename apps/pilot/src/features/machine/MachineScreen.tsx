import { machineScreen } from '../../machine/machineScreen';
import { useAudit } from '../../data/audit';
import { counted, drivenFields, drivenFigure, kindNames, type MachineModel } from '@yare/commissioning';
import type { LearnedRevision } from '@yare/contract';
import { View } from '@tamagui/core';
import { Fragment, useState } from 'react';
import { formatFigure, toldSpread, totalInertia, typedFigure } from '@yare/core';
import { say } from '@yare/words/pages/machine';
import { useKeepLearned } from '../../data/learn';
import { useStandings } from '../../data/standings';
import { isTold, sentenceOf } from '../../machine/logText';
import { MachineFrame } from '../../machine/MachineFrame';
import { ProofShape } from '../../ui/shapes';
import { Finding, SectionHead, SheetRow } from '../../ui/sheet';
import { Body, Mono, Second, Strong } from '../../ui/text';
import { when } from '../../ui/when';
import { LeavingWork } from './LeavingWork';
import { go } from '../../ui/go';
import { Refusal } from '../../ui/Answer';

function PlanSheet({ model }: { model: MachineModel }) {
  const { machine } = model;
  const { tag } = machine;
  const standings = useStandings(model);
  const [leaving, setLeaving] = useState(false);
  const job = standings.filter((s) => s.stage.number !== null);
  const tools = standings.filter((s) => s.stage.number === null);
  const { needed, open } = counted(job);
  const next = open[0];
  return (
    <MachineFrame
      model={model}
      title={say.workPlan}
      acts={[
        { text: say.plant, hotkey: 'p', onPress: () => go('/') },
        { text: say.leaveTheWork, hotkey: 'x', onPress: () => setLeaving(!leaving), testID: 'stop-here' },
        next
          ? { text: say.goTo({ name: next.stage.name }), main: true, hotkey: 'g', onPress: () => go(`/m/${tag}/${next.stage.path}`) }
          : { text: say.allProved, main: true, onPress: () => go(`/m/${tag}/settings`) },
      ]}
      evidenceTitle={say.whatWasDoneHere}
      evidence={<History tag={tag} />}
    >
      <LeavingWork model={model} open={open} asked={leaving} onDone={() => setLeaving(false)} />
      <SectionHead right={say.ofProved({ needed: needed.length - open.length, needed2: needed.length })}>{say.stages}</SectionHead>
      {[...job, ...tools].map(({ stage, proof, text }, i) => (
        <Fragment key={stage.path}>
          {i === job.length && <SectionHead>{say.inEveryStage}</SectionHead>}
          <SheetRow
            label={stage.name}
            second={text}
            mark={stage.number === null ? undefined : <ProofShape proof={proof} />}
            onPress={() => go(`/m/${tag}/${stage.path}`)}
            testID={`stage-${stage.path}`}
          >
            <View paddingRight={16}>
              <Mono color="$soft">{stage.number ?? '›'}</Mono>
            </View>
          </SheetRow>
        </Fragment>
      ))}
      <SheetRow label={say.startFrom} second={say.aTemplateForItsKind} onPress={() => go(`/m/${tag}/start`)} testID="stage-start">
        <View paddingRight={16}>
          <Mono color="$soft">›</Mono>
        </View>
      </SheetRow>
      <SectionHead>{say.machine}</SectionHead>
      <SheetRow label={say.area} second={machine.site} text={machine.area} />
      <SheetRow label={say.drive} second={model.drafted.book.summary} text={`${model.drafted.book.family} ${machine.size}`} />
      <SheetRow label={say.supply} figure={String(machine.supply.voltage)} unit="V" second={say.hz({ frequency: machine.supply.frequency })} />
      <SheetRow
        label={say.drives}
        second={machine.drivenEstimated ? say.estimatedFromTheMotorUntil : say.asRecorded}
        text={kindNames[machine.driven.kind]}
      />
      {drivenFields[machine.driven.kind].map((f) => {
        const value = drivenFigure(machine.driven, f.key);
        return (
          <SheetRow key={f.key} label={f.label} second={f.second} figure={typedFigure(value)} unit={f.unit} estimate={machine.drivenEstimated} />
        );
      })}
      <LearnedRows model={model} />
    </MachineFrame>
  );
}

/** The recordings a model was fitted to, as they are said. */
const fittedTo = ({ recordingId, alsoRecordingId }: LearnedRevision): string =>
  alsoRecordingId === null
    ? say.recording({ recordingId: recordingId ?? '–' })
    : say.recordingsAnd({ alsoRecordingId, recordingId: recordingId ?? '–' });

/** What was learned from a recording, and how to put it aside. */
function LearnedRows({ model }: { model: MachineModel }) {
  const { tag, learned } = model.machine;
  const keep = useKeepLearned(tag);
  if (!learned?.values) return <SheetRow label={say.modelFittedToARun} text={say.notYet} second={say.openARecordingOfA} />;
  const inertia = learned.values.inertia;
  return (
    <>
      <SheetRow label={say.modelFittedToARun} second={`${fittedTo(learned)} · ${learned.author} · ${when(learned.at)}`} text={say.inUse} mark="M" />
      {inertia && model.draftSpec.ok && (
        <SheetRow
          label={say.totalInertia}
          second={say.fitted({ toldSpread: toldSpread(100 * inertia.spread) })}
          figure={formatFigure(totalInertia(model.draftSpec.spec), 4)}
          unit="kg·m²"
          mark="M"
        />
      )}
      <Refusal of={keep.error} />
      <Finding
        severity="good"
        sentence={say.lookAheadsUseTheFit}
        act={say.discardTheFit}
        onAct={() => keep.mutate({ recordingId: null, values: null })}
      />
    </>
  );
}

function History({ tag }: { tag: string }) {
  const { data } = useAudit(tag);
  if (!data) return null;
  if (data.events.length === 0)
    return (
      <View padding={16}>
        <Second>{say.nothingYetEveryEditWrite}</Second>
      </View>
    );
  return (
    <>
      {data.events.filter(isTold).map((e) => (
        <View key={e.id} paddingHorizontal={16} paddingVertical={8} borderBottomWidth={1} borderColor="$rule">
          <Second>{when(e.at)}</Second>
          <Body>
            <Strong>{e.author}</Strong>: {sentenceOf(e)}
          </Body>
        </View>
      ))}
    </>
  );
}

/** The work plan of a machine: its stages with what is done, what is unproved and what went stale. */
export const MachineScreen = machineScreen(PlanSheet);
