import { machineScreen } from '../../machine/machineScreen';
import { useAudit } from '../../data/audit';
import { counted, drivenFields, drivenFigure, kindNames, type MachineModel } from '@yare/commissioning';
import type { LearnedRevision } from '@yare/contract';
import { View } from '@tamagui/core';
import { Fragment, useState } from 'react';
import { formatFigure, toldSpread, totalInertia, typedFigure } from '@yare/core';
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
      title="Work plan"
      acts={[
        { text: 'Plant', hotkey: 'p', onPress: () => go('/') },
        { text: 'Leave the work', hotkey: 'x', onPress: () => setLeaving(!leaving), testID: 'stop-here' },
        next
          ? { text: `Go to ${next.stage.name}`, main: true, hotkey: 'g', onPress: () => go(`/m/${tag}/${next.stage.path}`) }
          : { text: 'All proved', main: true, onPress: () => go(`/m/${tag}/settings`) },
      ]}
      evidenceTitle="What was done here"
      evidence={<History tag={tag} />}
    >
      <LeavingWork model={model} open={open} asked={leaving} onDone={() => setLeaving(false)} />
      <SectionHead right={`${needed.length - open.length} of ${needed.length} proved`}>Stages</SectionHead>
      {[...job, ...tools].map(({ stage, proof, text }, i) => (
        <Fragment key={stage.path}>
          {i === job.length && <SectionHead>In every stage</SectionHead>}
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
      <SheetRow label="Start from" second="a template for its kind, or another machine" onPress={() => go(`/m/${tag}/start`)} testID="stage-start">
        <View paddingRight={16}>
          <Mono color="$soft">›</Mono>
        </View>
      </SheetRow>
      <SectionHead>Machine</SectionHead>
      <SheetRow label="Area" second={machine.site} text={machine.area} />
      <SheetRow label="Drive" second={model.drafted.book.summary} text={`${model.drafted.book.family} ${machine.size}`} />
      <SheetRow label="Supply" figure={String(machine.supply.voltage)} unit="V" second={`${machine.supply.frequency} Hz`} />
      <SheetRow
        label="Drives"
        second={machine.drivenEstimated ? 'estimated from the motor until the survey records it' : 'as recorded'}
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
  alsoRecordingId === null ? `recording ${recordingId ?? '–'}` : `recordings ${alsoRecordingId} and ${recordingId ?? '–'}`;

/** What was learned from a recording, and how to put it aside. */
function LearnedRows({ model }: { model: MachineModel }) {
  const { tag, learned } = model.machine;
  const keep = useKeepLearned(tag);
  if (!learned?.values) return <SheetRow label="Model fitted to a run" text="not yet" second="open a recording of a run to fit the model to it" />;
  const inertia = learned.values.inertia;
  return (
    <>
      <SheetRow label="Model fitted to a run" second={`${fittedTo(learned)} · ${learned.author} · ${when(learned.at)}`} text="in use" mark="M" />
      {inertia && model.draftSpec.ok && (
        <SheetRow
          label="Total inertia"
          second={`fitted, ± ${formatFigure(toldSpread(100 * inertia.spread), 1)} %`}
          figure={formatFigure(totalInertia(model.draftSpec.spec), 4)}
          unit="kg·m²"
          mark="M"
        />
      )}
      <Refusal of={keep.error} />
      <Finding
        severity="good"
        sentence="Look-aheads use the fit. After a change of motor or load, discard it and fit again."
        act="Discard the fit"
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
        <Second>Nothing yet. Every edit, write and run of this machine is listed here with its author.</Second>
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
