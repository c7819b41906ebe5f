import { useMemo, useState } from 'react';
import { stripOf, type MachineModel, type StripTerminal } from '@yare/commissioning';
import { rowOf, type SettingRole } from '@yare/core';
import { say } from '@yare/words/pages/terminals';
import { useCommandNow } from '../../data/commandNow';
import { useLiveValue } from '../../data/live';
import { useProofs } from '../../data/proofs';
import { useWiring } from '../../data/wiring';
import { MachineFrame, useUndo } from '../../machine/MachineFrame';
import { machineScreen } from '../../machine/machineScreen';
import { otherFindings, sectionEntries, SettingSections } from '../../machine/SettingSections';
import { StageFindings } from '../../machine/StageFindings';
import { writeOrGoOn } from '../../machine/writeOrGoOn';
import { ActRow, Finding, Fold, SectionHead } from '../../ui/sheet';
import { useWide } from '../../ui/theme';
import { when } from '../../ui/when';
import { InputRows } from './InputRows';
import { ShownLines } from './ShownLine';
import { SignalLine } from './SignalLine';
import { StripDrawing } from './StripDrawing';
import { WireByWire } from './WireByWire';

/** Settings of signals and outputs this family has. */
const sectionsOf = ({ drafted }: MachineModel) => [
  {
    id: 'outputs',
    title: say.relaysAndOutputs,
    roles: [
      ...drafted.outputs.flatMap((s) => s.role ?? []),
      'thresholdFrequency' as const,
      'thresholdHysteresis' as const,
      'holdingBrake' as const,
      'brakeOpenDelay' as const,
      'brakeCloseDelay' as const,
      ...drafted.book.terminals.filter((t) => t.kind === 'analogue out').map((t): SettingRole => `analogue out ${t.id}`),
    ],
  },
  { id: 'sense', title: say.howInputsAreWired, roles: ['inputSense' as const, 'externalTripSense' as const] },
];

/** What changes while one looks is drawn by parts of its own: a signal that moves does not draw the inputs anew. */
function LiveStrip({ model, strip }: { model: MachineModel; strip: readonly StripTerminal[] }) {
  const now = useCommandNow(model);
  const on = now ? rowOf(now.words.outputs, model.drafted.outputs.length) : null;
  return <StripDrawing strip={strip} closed={now?.inputs.closed ?? null} on={on} />;
}

function TerminalsSheet({ model }: { model: MachineModel }) {
  const { machine, drafted } = model;
  const { tag } = machine;
  const wide = useWide();
  const wiring = useWiring(tag);
  const answers = useLiveValue(tag, (s) => s !== undefined && s.link !== 'down');
  const live = answers && model.held !== null;
  const undo = useUndo(tag, 'draft');
  const [trying, setTrying] = useState(false);
  const { newest, standing } = useProofs(model)('terminals', 'wires');
  const strip = useMemo(() => stripOf(drafted, wiring), [drafted, wiring]);
  const sections = sectionsOf(model);
  const shown = new Set([...drafted.inputs, ...drafted.having(sections.flatMap((s) => s.roles))].map((s) => s.code));
  const drawing = <LiveStrip model={model} strip={strip} />;
  return (
    <MachineFrame
      model={model}
      stage="terminals"
      title={say.terminals}
      entries={sectionEntries(model, 'terminals', sections)}
      acts={[undo, writeOrGoOn(model, 'terminals')]}
      evidenceTitle={say.theStrip}
      evidenceNote={live ? 'live' : say.asDrafted}
      evidence={drawing}
    >
      {trying ? (
        <WireByWire model={model} wiring={wiring} onDone={() => setTrying(false)} />
      ) : (
        <>
          {standing.state === 'passed' && newest && (
            <Finding severity="good" sentence={say.everyWireAnswered({ author: newest.author, when: when(newest.at) })} />
          )}
          {standing.state === 'stale' && newest && <Finding severity="warning" sentence={say.wiresWereTriedButJobs({ when: when(newest.at) })} />}
          <ActRow
            text={say.tryWireByWire}
            second={model.held ? say.withTheMotorStillYou : say.needsADriveThatWas}
            onPress={() => setTrying(true)}
            disabled={!live}
            testID="try-wires"
          />
          <ActRow
            text={say.wiringListAndStripAs}
            second={say.aOpensBesideThisPage}
            onPress={() => window.open(`/api/v1/machines/${tag}/wiring-list.pdf`, '_blank')}
            testID="wiring-pdf"
          />
        </>
      )}
      <StageFindings model={model} findings={otherFindings(model, 'terminals', shown)} />
      {!wide && (
        <Fold title={say.theStrip} right={live ? 'live' : say.asDrafted} open testID="fold-strip">
          {drawing}
        </Fold>
      )}
      <SectionHead right={say.inputs({ inputs: drafted.inputs.length })}>{say.inputs2}</SectionHead>
      <InputRows model={model} strip={strip} wiring={wiring} />
      <SignalLine model={model} />
      <SettingSections model={model} stage="terminals" sections={sections} />
      <ShownLines model={model} />
    </MachineFrame>
  );
}

/** The strip of this drive: what is wired where, what each terminal does, and the wires tried one by one. */
export const TerminalsScreen = machineScreen(TerminalsSheet);
