import { machineScreen } from '../../machine/machineScreen';
import type { MachineModel } from '@yare/commissioning';
import { View } from '@tamagui/core';
import { useCallback, useState } from 'react';
import type { BenchAct } from '@yare/contract';
import { formatFigure } from '@yare/core';
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
      title="Bench"
      acts={[]}
      foot={there ? <PanelFoot tag={tag} onAct={onAct} /> : <View />}
      evidenceTitle="Live, as the drive tells it"
      evidenceNote="last 30 s"
      evidence={live}
    >
      {bench.data === 'no bench' && <Note>There is no bench here: the drives of this plant are real.</Note>}
      {bench.data === 'not on it' && <PutOnBench model={model} />}
      {bench.isLoading && <Note>Asking the bench…</Note>}
      <Refusal of={bench.error} />
      <Refusal of={error} />
      {trip && <Finding severity="error" sentence={trip} />}
      {there && (
        <>
          <Drawing tag={tag} />
          <Pace tag={tag} onAct={onAct} />
          <SectionHead right="turned by hand in the plant">Handles</SectionHead>
          <Handles tag={tag} onAct={onAct} />
          {!wide && (
            <>
              <SectionHead right="as the drive tells it">Live, last 30 s</SectionHead>
              {live}
            </>
          )}
          <FaultRows tag={tag} onAct={onAct} />
          <Drill tag={tag} onAct={onAct} />
          <Wires tag={tag} onAct={onAct} />
          <BuiltAnew model={model} />
          <Note>
            The bench is a simulated machine with values of its own that the rest of this application does not know. Nothing here touches a real
            plant.
          </Note>
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
      label="Main switch"
      second={on ? 'the drive has power' : 'no power: the drive is dead and its motor coasts'}
      text={on ? 'On' : 'Off'}
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
      <SheetRow label="Time" second={now === 1 ? 'as it is' : 'sped up, for slow processes'} />
      <Segments
        label="Time"
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
      <SectionHead right="not known to the drive">Instruments</SectionHead>
      <SheetRow label="Shaft" second="by tachometer" figure={formatFigure(seen.shaftSpeed, 0)} unit="rpm" />
      <SheetRow label="Motor winding" figure={formatFigure(seen.windingTemperature, 0)} unit="°C" />
      <SheetRow label="Supply" second={powered ? 'line to line' : 'power is off'} figure={formatFigure(powered ? seen.supply : 0, 0)} unit="V" />
      {seen.sensor !== null && (
        <SheetRow label="Signal" second="of the process sensor, at the drive" figure={formatFigure(seen.signal, 2)} unit="mA" />
      )}
      {kind === 'conveyor' && <SheetRow label="On the belt" figure={formatFigure(seen.mass, 0)} unit="kg" />}
      {seen.asleep && <SheetRow label="Process" text="asleep" second="wakes when the pressure falls or the level rises" />}
    </>
  );
}

/** A machine that people put on record has a simulated one only when they ask for it. */
function PutOnBench({ model }: { model: MachineModel }) {
  const { tag } = model.machine;
  const put = usePutOnBench(tag);
  return (
    <>
      <Note>{`The bench has no ${tag}. It can build one from the record: ${builtText(model)}, with this motor and this load as nearly as the bench makes anything.`}</Note>
      <ActRow
        text={put.isPending ? 'Building it…' : `Put ${tag} on the bench`}
        second="simulated, to try out; nothing of a real plant is touched"
        disabled={put.isPending}
        onPress={() => put.mutate()}
        testID="put-on-bench"
      />
      <Refusal of={put.error} />
    </>
  );
}

const builtText = ({ machine, drafted }: MachineModel): string =>
  `${drafted.book.family} ${machine.size} fresh from its box at address ${machine.unitId}`;

/** What was built from the record can be built again after the record has changed. */
function BuiltAnew({ model }: { model: MachineModel }) {
  const { tag } = model.machine;
  const built = useBenchPart(tag, (v) => v.built);
  const put = usePutOnBench(tag);
  const [asked, setAsked] = useState(false);
  if (!built) return null;
  return (
    <>
      <ActRow
        text="Build it anew from the record"
        second="after another drive, motor, load or address"
        onPress={() => setAsked(!asked)}
        testID="build-anew"
      />
      {asked && (
        <Answer>
          <Finding
            severity="act"
            sentence={`The simulated ${tag} is taken away, turning or not, and built again: ${builtText(model)}. What its drive holds and remembers is gone; record and draft stay.`}
            act={put.isPending ? 'Building it…' : `Build ${tag} anew`}
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
