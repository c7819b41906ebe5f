import { retryAll } from '../../data/client';
import { machineScreen } from '../../machine/machineScreen';
import { useAheadTo } from '../../data/lookAhead';
import { useAddMark, useRecording } from '../../data/recordings';
import { laidOver, momentsOf, type MachineModel } from '@yare/commissioning';
import { View } from '@tamagui/core';
import { useLocalSearchParams } from 'expo-router';
import { useMemo, useState } from 'react';
import { Pressable, TextInput } from 'react-native';
import type { RecordingData } from '@yare/contract';
import { formatFigure, present } from '@yare/core';
import { Chart } from '../../ui/chart/Chart';
import type { Pane } from '../../ui/chart/pane';
import { fontFamily } from '../../ui/palette';
import { MachineFrame } from '../../machine/MachineFrame';
import { ActRow, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { Strong } from '../../ui/text';
import { usePalette, useWide } from '../../ui/theme';
import { when } from '../../ui/when';
import { LearnFromRun } from './LearnFromRun';
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

function saveCsv(id: number): void {
  const link = document.createElement('a');
  link.href = `/api/v1/recordings/${id}/csv`;
  link.download = '';
  link.click();
}

function RecordingSheet({ model, recording }: { model: MachineModel; recording: RecordingData }) {
  const { meta, time, data } = recording;
  const wide = useWide();
  const [cursor, setCursor] = useState<number | null>(null);
  const [over, setOver] = useState(false);
  const moments = useMemo(() => momentsOf({ time, outputFrequency: data.outputFrequency ?? [] }), [time, data]);
  const ahead = useAheadTo(over ? model.inDriveSpec : null, moments?.top ?? null);
  const predicted = useMemo(
    () => (over && ahead && moments ? { time: laidOver(ahead, moments), series: ahead.series } : null),
    [over, ahead, moments],
  );
  const level = model.drafted.levels.overvoltageTrip;
  const panes = useMemo(
    (): Pane[] =>
      meta.channels.map((c) => ({
        key: c.key,
        name: c.name,
        unit: c.unit,
        decimals: c.decimals,
        series: [
          { time, values: data[c.key] ?? [], ...(predicted && { label: 'measured' }) },
          ...(predicted && aheadOf[c.key]
            ? [{ time: predicted.time, values: predicted.series[present(aheadOf[c.key])], dashed: true, label: 'ahead' }]
            : []),
        ],
        leastSpan: leastSpan[c.key],
        ...(c.key === 'busVoltage' && { limits: [{ value: level, label: `trips at ${level}`, side: 'above' as const }] }),
      })),
    [meta.channels, time, data, level, predicted],
  );
  const chart = (
    <Chart
      panes={panes}
      domain={[0, Math.max(meta.duration, 1)]}
      xUnit="s"
      xDecimals={2}
      marks={meta.marks}
      paneHeight={wide ? 43 : 66}
      explore
      onCursor={setCursor}
      testID="recording"
    />
  );
  return (
    <MachineFrame
      model={model}
      stage="recordings"
      title={`Recording ${meta.id}`}
      evidenceTitle="Marks and figures"
      evidence={<Marks recording={recording} />}
      acts={[
        { text: 'All recordings', hotkey: 'a', onPress: () => go(`/m/${meta.tag}/recordings`) },
        { text: 'Save as CSV', main: true, hotkey: 'd', onPress: () => saveCsv(meta.id), testID: 'save-csv' },
      ]}
    >
      <SheetRow
        label={meta.title}
        second={`${when(meta.startedAt)} · ${meta.author} · ${meta.samples} samples`}
        figure={formatFigure(meta.duration, 1)}
        unit="s"
      />
      {time.length === 0 ? <Note>Nothing was measured: the link was gone before the first sample.</Note> : chart}
      {time.length > 0 && model.inDriveSpec && (
        <ActRow
          text={over ? 'Take the look-ahead off' : 'Lay the look-ahead over it'}
          second={over ? (predicted ? 'dashed: as the model foresees what is in the drive now' : 'looking ahead…') : 'what the model foresaw, dashed'}
          onPress={() => setOver(!over)}
          testID="lay-over"
        />
      )}
      <MarkAtCursor id={meta.id} cursor={cursor} />
      <LearnFromRun model={model} recording={recording} />
      {!wide && <Marks recording={recording} />}
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
      <SectionHead>Mark at the cursor</SectionHead>
      <Refusal of={addMark.error} />
      <View flexDirection="row" backgroundColor="$sheet" borderBottomWidth={1} borderColor="$rule" minHeight={56} alignItems="stretch">
        <View width={42} borderRightWidth={1} borderColor="$plum" />
        <TextInput
          testID="mark-label"
          aria-label="Text of the mark"
          value={label}
          onChangeText={setLabel}
          onSubmitEditing={mark}
          maxLength={80}
          placeholder={cursor === null ? 'Touch the chart first' : `What happened at ${formatFigure(cursor, 2)} s`}
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
          <Strong color={markable ? '$plum' : '$soft'}>Mark</Strong>
        </Pressable>
      </View>
    </>
  );
}

function Marks({ recording: { meta, time, data } }: { recording: RecordingData }) {
  const extreme = (key: string, of: (...n: number[]) => number) => (data[key]?.length ? data[key].reduce((a, b) => of(a, b)) : null);
  return (
    <>
      <SectionHead>Marks</SectionHead>
      {meta.marks.map((m, i) => (
        <SheetRow key={i} label={m.label} figure={formatFigure(m.time, 2)} unit="s" />
      ))}
      <SectionHead>Largest and smallest</SectionHead>
      {time.length > 0 &&
        meta.channels.map((c) => (
          <SheetRow
            key={c.key}
            label={c.name}
            second={`smallest ${formatFigure(extreme(c.key, Math.min), c.decimals)} ${c.unit}`}
            figure={formatFigure(extreme(c.key, Math.max), c.decimals)}
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
  return data ? <RecordingSheet model={model} recording={data} /> : <Waiting error={error?.message} onRetry={retryAll} />;
});
