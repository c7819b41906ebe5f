import { machineScreen } from '../../machine/machineScreen';
import { type MachineModel } from '@yare/commissioning';
import { useRecordings } from '../../data/recordings';
import { Pressable } from 'react-native';
import { formatFigure } from '@yare/core';
import { say } from '@yare/words/pages/recordings';
import { MachineFrame } from '../../machine/MachineFrame';
import { shownSeconds, TrendChart } from '../../machine/TrendChart';
import { Finding, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { LinkText } from '../../ui/text';
import { when } from '../../ui/when';
import { go } from '../../ui/go';
import { RecorderRows, useArming } from './RecorderRows';
import { TakeInRows } from './TakeInRows';

function RecordingsSheet({ model }: { model: MachineModel }) {
  const { tag } = model.machine;
  const { data, error, hasNextPage, fetchNextPage } = useRecordings(tag);
  const form = useArming(tag);
  const rows = data?.pages.flatMap((p) => p.recordings) ?? [];
  return (
    <MachineFrame
      model={model}
      stage="recordings"
      title={say.recordings}
      evidenceTitle={say.live}
      evidenceNote={say.lastS({ shownSeconds })}
      evidence={<TrendChart tag={tag} model={model} />}
      entries={form.entries}
      acts={[{ text: say.testRun, main: true, hotkey: 't', onPress: () => go(`/m/${tag}/turn`) }]}
    >
      <RecorderRows model={model} form={form} />
      <TakeInRows model={model} />
      <SectionHead right={rows.length > 0 ? say.newestFirst : undefined}>{say.recordings}</SectionHead>
      {error && <Finding severity="warning" sentence={error.message} />}
      {data && rows.length === 0 && <Note>{say.noRecordingYetEveryHold}</Note>}
      {rows.map((r) => (
        <SheetRow
          key={r.id}
          label={r.title}
          second={`${when(r.startedAt)} · ${r.author} · ${say.markMarks({ marks: r.marks.length })}`}
          figure={formatFigure(r.duration, 1)}
          unit="s"
          mark={String(r.id)}
          onPress={() => go(`/m/${tag}/recordings/${r.id}`)}
          testID={`recording-${r.id}`}
        />
      ))}
      {hasNextPage && (
        <Note>
          <Pressable role="button" onPress={() => void fetchNextPage()} style={{ minHeight: 48, justifyContent: 'center', alignSelf: 'flex-start' }}>
            <LinkText>{say.olderOnes}</LinkText>
          </Pressable>
        </Note>
      )}
    </MachineFrame>
  );
}

/** All recordings of a machine, newest first. */
export const RecordingsScreen = machineScreen(RecordingsSheet);
