import { retryAll } from '../../data/client';
import { machineScreen } from '../../machine/machineScreen';
import { useAheadTo } from '../../data/lookAhead';
import { useAddMark, useRecording } from '../../data/recordings';
import { laidOver, momentsOf, type MachineModel } from '@yare/commissioning';
import { pyramidOf } from '@yare/commissioning/recording';
import { View } from '@tamagui/core';
import { useLocalSearchParams } from 'expo-router';
import { useMemo, useState } from 'react';
import { Pressable, TextInput } from 'react-native';
import type { RecordingData } from '@yare/contract';
import { extentIn, formatFigure, present } from '@yare/core';
import { say } from '@yare/words/pages/recordings';
import { Chart } from '../../ui/chart/Chart';
import type { Pane } from '../../ui/chart/pane';
import { fontFamily } from '../../ui/palette';
import { BelongsElsewhere } from '../../machine/BelongsElsewhere';
import { MachineFrame } from '../../machine/MachineFrame';
import { ActRow, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { Strong } from '../../ui/text';
import { usePalette, useWide } from '../../ui/theme';
import { when } from '../../ui/when';
import { BetweenRows } from './BetweenRows';
import { LearnFromRun } from './LearnFromRun';
import { lineOf } from './lineOf';
import { OverRows, useOver } from './OverRows';
import { RemoveRows } from './RemoveRows';
import { SeenTripRows } from './SeenTripRows';
import { Waiting } from '../../ui/Waiting';
import { go } from '../../ui/go';
import { Refusal } from '../../ui/Answer';

/** Channels of a recording that a look-ahead has too. */
const aheadOf: Readonly<Record<string, 'frequency' | 'current' | 'busVoltage'>> = {
  outputFrequency: 'frequency',
  motorCurrent: 'current',
  busVoltage: 'busVoltage',
};
const leastSpan: Record<string, number> = { outputFrequency: 5, motorCurrent: 1, busVoltage: 40, torque: 20, power: 0.5, motorHeat: 5, feedback: 10 };

function save(id: number, as: string): void {
  const link = document.createElement('a');
  link.href = `/api/v1/recordings/${id}/${as}`;
  link.download = '';
  link.click();
}

function RecordingSheet({ model, recording }: { model: MachineModel; recording: RecordingData }) {
  const { meta, time, data } = recording;
  const wide = useWide();
  const [cursor, setCursor] = useState<number | null>(null);
  const [pinned, setPinned] = useState<number | null>(null);
  const [foreseen, setForeseen] = useState(false);
  const over = useOver(recording);
  const ran = data.outputFrequency !== undefined && meta.channels.some((c) => c.key === 'motorCurrent');
  const moments = useMemo(() => (foreseen ? momentsOf({ time, outputFrequency: data.outputFrequency ?? [] }) : null), [foreseen, time, data]);
  const ahead = useAheadTo(foreseen ? model.inDriveSpec : null, moments?.top ?? null);
  const predicted = useMemo(
    () => (foreseen && ahead && moments ? { time: laidOver(ahead, moments), series: ahead.series } : null),
    [foreseen, ahead, moments],
  );
  const lines = useMemo(() => new Map(meta.channels.map((c) => [c.key, lineOf(pyramidOf(time, data[c.key] ?? []))])), [meta.channels, time, data]);
  const level = model.drafted.levels.overvoltageTrip;
  const panes = meta.channels.map((c): Pane => {
    const laid = over.line(c.key);
    const own = present(lines.get(c.key));
    const ahead = predicted && aheadOf[c.key];
    return {
      ...{ key: c.key, name: c.name, unit: c.unit, decimals: c.decimals, leastSpan: leastSpan[c.key] },
      series: [
        { ...own, ...((ahead || laid) && { label: laid ? say.no({ id: meta.id }) : 'measured' }) },
        ...(ahead ? [{ time: predicted.time, values: predicted.series[ahead], dashed: true, label: say.ahead }] : []),
        ...(laid ? [laid] : []),
      ],
      ...(c.key === 'busVoltage' && { limits: [{ value: level, label: say.tripsAt({ level }), side: 'above' as const }] }),
    };
  });
  const begin = Math.min(0, over.other ? over.shift : 0);
  const end = Math.max(meta.duration, 1, over.other ? over.shift + over.other.meta.duration : 0);
  const chart = (
    <Chart
      panes={panes}
      domain={[begin, end]}
      xUnit="s"
      xDecimals={2}
      marks={meta.marks}
      paneHeight={wide ? 43 : 66}
      explore
      onCursor={setCursor}
      onPinned={setPinned}
      testID="recording"
    />
  );
  return (
    <MachineFrame
      model={model}
      stage="recordings"
      title={say.recording({ id: meta.id })}
      evidenceTitle={say.marksAndFigures}
      evidence={<Marks recording={recording} />}
      acts={[
        { text: say.allRecordings, hotkey: 'a', onPress: () => go(`/m/${meta.tag}/recordings`) },
        { text: say.saveAsCsv, main: true, hotkey: 'd', onPress: () => save(meta.id, 'csv'), testID: 'save-csv' },
      ]}
      entries={over.other ? [over.entry] : []}
    >
      <SheetRow
        label={meta.title}
        second={say.samples2({ when: when(meta.startedAt), author: meta.author, samples: meta.samples })}
        figure={formatFigure(meta.duration, 1)}
        unit="s"
      />
      {time.length === 0 ? <Note>{say.nothingWasMeasuredTheLink}</Note> : chart}
      {pinned !== null && cursor !== null && <BetweenRows recording={recording} from={pinned} to={cursor} />}
      {time.length > 0 && (
        <>
          {ran && model.inDriveSpec && (
            <ActRow
              text={foreseen ? say.takeTheLookAheadOff : say.layTheLookAheadOver}
              second={foreseen ? (predicted ? say.dashedAsTheModelForesees : say.lookingAhead) : say.whatTheModelForesawDashed}
              onPress={() => setForeseen(!foreseen)}
              testID="lay-over"
            />
          )}
          <OverRows tag={meta.tag} id={meta.id} over={over} />
          <MarkAtCursor id={meta.id} cursor={cursor} />
          <SectionHead>{say.whatItTells}</SectionHead>
          <SeenTripRows model={model} recording={recording} cursor={cursor} />
          {ran && <LearnFromRun model={model} recording={recording} />}
          <SectionHead>{say.takeItElsewhere}</SectionHead>
          <ActRow
            text={say.saveAsComtrade}
            second={say.ieeeCOneFileTwo}
            onPress={() => save(meta.id, 'comtrade?form=BINARY')}
            testID="save-comtrade"
          />
          <ActRow
            text={say.saveAsComtradeAsText}
            second={say.everyFigureToItsLast}
            onPress={() => save(meta.id, 'comtrade?form=ASCII')}
            testID="save-comtrade-text"
          />
        </>
      )}
      {!wide && <Marks recording={recording} />}
      <RemoveRows meta={meta} />
    </MachineFrame>
  );
}

/** Words set at the place of the cursor. */
function MarkAtCursor({ id, cursor }: { id: number; cursor: number | null }) {
  const palette = usePalette();
  const addMark = useAddMark(id);
  const [label, setLabel] = useState('');
  const markable = cursor !== null && label.trim().length > 0;
  const mark = () => {
    if (markable) addMark.mutate({ time: Math.max(0, cursor), label: label.trim() }, { onSuccess: () => setLabel('') });
  };
  return (
    <>
      <SectionHead>{say.markAtTheCursor}</SectionHead>
      <Refusal of={addMark.error} />
      <View flexDirection="row" backgroundColor="$sheet" borderBottomWidth={1} borderColor="$rule" minHeight={56} alignItems="stretch">
        <View width={42} borderRightWidth={1} borderColor="$plum" />
        <TextInput
          testID="mark-label"
          aria-label={say.textOfTheMark}
          value={label}
          onChangeText={setLabel}
          onSubmitEditing={mark}
          maxLength={80}
          placeholder={cursor === null ? say.touchTheChartFirst : say.whatHappenedAtS({ cursor })}
          placeholderTextColor={palette.soft}
          style={{ flex: 1, minWidth: 0, fontSize: 16, fontFamily: fontFamily.text, color: palette.ink, paddingHorizontal: 10 }}
        />
        <Pressable
          role="button"
          testID="mark-set"
          disabled={!markable}
          aria-disabled={!markable}
          onPress={mark}
          style={{ width: 84, alignItems: 'center', justifyContent: 'center' }}
        >
          <Strong color={markable ? '$plum' : '$soft'}>{say.mark}</Strong>
        </Pressable>
      </View>
    </>
  );
}

function Marks({ recording: { meta, time, data } }: { recording: RecordingData }) {
  const extent = useMemo(
    () => new Map(meta.channels.map((c) => [c.key, extentIn(time, data[c.key] ?? [], -Infinity, Infinity)])),
    [meta, time, data],
  );
  return (
    <>
      <SectionHead>{say.marks}</SectionHead>
      {meta.marks.map((m, i) => (
        <SheetRow key={i} label={m.label} figure={formatFigure(m.time, 2)} unit="s" />
      ))}
      <SectionHead>{say.largestAndSmallest}</SectionHead>
      {time.length > 0 &&
        meta.channels.map((c) => (
          <SheetRow
            key={c.key}
            label={c.name}
            second={say.smallest({ get: extent.get(c.key)?.[0], decimals: c.decimals, unit: c.unit })}
            figure={formatFigure(extent.get(c.key)?.[1], c.decimals)}
            unit={c.unit}
          />
        ))}
    </>
  );
}

/** One recording: scrolled, zoomed, read with a cursor, marked, saved. */
export const RecordingScreen = machineScreen(function ReadRecording({ model }: { model: MachineModel }) {
  const { id } = useLocalSearchParams<{ id: string }>();
  const { data, error } = useRecording(Number(id));
  if (!data) return <Waiting error={error?.message} onRetry={retryAll} />;
  const { tag } = data.meta;
  if (tag !== model.machine.tag)
    return <BelongsElsewhere model={model} stage="recordings" what={say.recording2({ id })} tag={tag} path={`/m/${tag}/recordings/${id}`} />;
  return <RecordingSheet model={model} recording={data} />;
});
