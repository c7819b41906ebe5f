import { machineScreen } from '../../machine/machineScreen';
import type { MachineModel } from '@yare/commissioning';
import { View } from '@tamagui/core';
import { useCallback, useState } from 'react';
import type { BenchAct } from '@yare/contract';
import { formatFigure } from '@yare/core';
import { say } from '@yare/words/pages/bench';
import { useBench, useBenchAct, useBenchPart, usePutOnBench } from '../../data/bench';
import { useLiveValue } from '../../data/live';
import { MachineFrame } from '../../machine/MachineFrame';
import { Segments } from '../../ui/Segments';
import { ActRow, Finding, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { SliderRow } from '../../ui/Slider';
import { useWide } from '../../ui/theme';
import { TrendChart } from '../../machine/TrendChart';
import { Drill } from './Drill';
import { Faults } from './Faults';
import { Wires } from './Wires';
import { MachineDrawing } from './MachineDrawing';
import { Panel } from './Panel';
import { Answer, Refusal } from '../../ui/Answer';

type OnAct = (act: Omit<BenchAct, 'author'>) => void;

function BenchSheet({ model }: { model: MachineModel }) {
  const { tag } = model.machine;
  const wide = useWide();
  const bench = useBench(tag);
  const { mutate, error } = useBenchAct(tag);
  const trip = useLiveValue(tag, (s) => (s?.trip ? `${s.trip.name}. ${s.trip.sentence}` : null));
  const there = bench.data === 'there';
  const onAct = useCallback<OnAct>((a) => mutate(a), [mutate]);
  const live = (
    <>
      <TrendChart tag={tag} model={model} />
      {there && <Instruments tag={tag} />}
    </>
  );
  return (
    <MachineFrame
      model={model}
      stage="bench"
      title={say.bench}
      acts={[]}
      foot={there ? <PanelFoot tag={tag} onAct={onAct} /> : <View />}
      evidenceTitle={say.liveAsTheDriveTells}
      evidenceNote={say.lastS}
      evidence={live}
    >
      {bench.data === 'no bench' && <Note>{say.thereIsNoBenchHere}</Note>}
      {bench.data === 'not on it' && <PutOnBench model={model} />}
      {bench.isLoading && <Note>{say.askingTheBench}</Note>}
      <Refusal of={bench.error} />
      <Refusal of={error} />
      {trip && <Finding severity="error" sentence={trip} />}
      {there && (
        <>
          <Drawing tag={tag} />
          <Pace tag={tag} onAct={onAct} />
          <SectionHead right={say.turnedByHandInThe}>{say.handles}</SectionHead>
          <Handles tag={tag} onAct={onAct} />
          {!wide && (
            <>
              <SectionHead right={say.asTheDriveTellsIt}>{say.liveLastS}</SectionHead>
              {live}
            </>
          )}
          <FaultRows tag={tag} onAct={onAct} />
          <Drill tag={tag} onAct={onAct} />
          <Wires tag={tag} onAct={onAct} />
          <BuiltAnew model={model} />
          <Note>{say.theBenchIsASimulated}</Note>
        </>
      )}
    </MachineFrame>
  );
}

interface PartProps {
  tag: string;
  onAct: OnAct;
}

function PanelFoot({ tag, onAct }: PartProps) {
  const panel = useBenchPart(tag, (v) => v.panel);
  return panel ? <Panel panel={panel} onAct={onAct} /> : <View />;
}

function FaultRows({ tag, onAct }: PartProps) {
  const faults = useBenchPart(tag, (v) => v.faults);
  return faults ? <Faults faults={faults} onAct={onAct} /> : null;
}

function Drawing({ tag }: { tag: string }) {
  const wide = useWide();
  const view = useBenchPart(tag, (v) => v);
  return (
    <View
      backgroundColor="$sheet"
      borderBottomWidth={1}
      borderColor="$rule2"
      alignItems="center"
      paddingVertical={6}
      paddingHorizontal={wide ? 40 : 0}
    >
      {view && <MachineDrawing view={view} />}
    </View>
  );
}

function Handles({ tag, onAct }: PartProps) {
  const handles = useBenchPart(tag, (v) => v.handles);
  return (
    <>
      {handles?.map(({ id, ...h }) =>
        id === 'power' ? (
          <MainSwitch key={id} on={h.value === 1} onAct={onAct} />
        ) : (
          <SliderRow key={id} {...h} testID={`handle-${id}`} onChange={(value) => onAct({ handles: { [id]: value } })} />
        ),
      )}
    </>
  );
}

/** Power to the drive: off, it forgets what it did not keep. */
function MainSwitch({ on, onAct }: { on: boolean; onAct: OnAct }) {
  return (
    <SheetRow
      label={say.mainSwitch}
      second={on ? say.theDriveHasPower : say.noPowerTheDriveIs}
      text={on ? say.on : say.off}
      onPress={() => onAct({ handles: { power: on ? 0 : 1 } })}
      testID="handle-power"
    />
  );
}

/** How fast the machine's time runs, for slow processes. */
function Pace({ tag, onAct }: PartProps) {
  const now = useBenchPart(tag, (v) => v.pace) ?? 1;
  return (
    <>
      <SheetRow label={say.time} second={now === 1 ? say.asItIs : say.spedUpForSlowProcesses} />
      <Segments
        label={say.time}
        options={([1, 5, 20] as const).map((pace) => ({ value: pace, text: `×${pace}`, testID: `pace-${pace}` }))}
        value={now as 1 | 5 | 20}
        onChoose={(pace) => onAct({ pace })}
      />
    </>
  );
}

/** What instruments at the machine show, which the drive does not know. */
function Instruments({ tag }: { tag: string }) {
  const view = useBenchPart(tag, ({ seen, powered, kind }) => ({ seen, powered, kind }));
  if (!view) return null;
  const { seen, powered, kind } = view;
  return (
    <>
      <SectionHead right={say.notKnownToTheDrive}>{say.instruments}</SectionHead>
      <SheetRow label={say.shaft} second={say.byTachometer} figure={formatFigure(seen.shaftSpeed, 0)} unit="rpm" />
      <SheetRow label={say.motorWinding} figure={formatFigure(seen.windingTemperature, 0)} unit="°C" />
      <SheetRow label={say.supply} second={powered ? say.lineToLine : say.powerIsOff} figure={formatFigure(powered ? seen.supply : 0, 0)} unit="V" />
      {seen.sensor !== null && <SheetRow label={say.signal} second={say.ofTheProcessSensorAt} figure={formatFigure(seen.signal, 2)} unit="mA" />}
      {kind === 'conveyor' && <SheetRow label={say.onTheBelt} figure={formatFigure(seen.mass, 0)} unit="kg" />}
      {seen.asleep && <SheetRow label={say.process} text="asleep" second={say.wakesWhenThePressureFalls} />}
    </>
  );
}

/** A machine that people put on record has a simulated one only when they ask for it. */
function PutOnBench({ model }: { model: MachineModel }) {
  const { tag } = model.machine;
  const put = usePutOnBench(tag);
  return (
    <>
      <Note>{say.theBenchHasNoIt({ tag, builtText: builtText(model) })}</Note>
      <ActRow
        text={put.isPending ? say.buildingIt : say.putOnTheBench({ tag })}
        second={say.simulatedToTryOutNothing}
        disabled={put.isPending}
        onPress={() => put.mutate()}
        testID="put-on-bench"
      />
      <Refusal of={put.error} />
    </>
  );
}

const builtText = ({ machine, drafted }: MachineModel): string =>
  say.freshFromItsBoxAt({ family: drafted.book.family, size: machine.size, unitId: machine.unitId });

/** What was built from the record can be built again after the record has changed. */
function BuiltAnew({ model }: { model: MachineModel }) {
  const { tag } = model.machine;
  const built = useBenchPart(tag, (v) => v.built);
  const put = usePutOnBench(tag);
  const [asked, setAsked] = useState(false);
  if (!built) return null;
  return (
    <>
      <ActRow text={say.buildItAnewFromThe} second={say.afterAnotherDriveMotorLoad} onPress={() => setAsked(!asked)} testID="build-anew" />
      {asked && (
        <Answer>
          <Finding
            severity="act"
            sentence={say.theSimulatedIsTakenAway({ tag, builtText: builtText(model) })}
            act={put.isPending ? say.buildingIt : say.buildAnew({ tag })}
            onAct={() => put.mutate(undefined, { onSuccess: () => setAsked(false) })}
          />
        </Answer>
      )}
      <Refusal of={put.error} />
    </>
  );
}

/** The simulated machine from the plant side: drawn, with its panel, its handles and what can go wrong. */
export const BenchScreen = machineScreen(BenchSheet);
