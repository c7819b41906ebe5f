import { useMemo, useState } from 'react';
import { alignedBy, eventsOf, pyramidOf, type RecordedEvent } from '@yare/commissioning/recording';
import type { RecordingData } from '@yare/contract';
import { formatFigure } from '@yare/core';
import { say } from '@yare/words/pages/recordings';
import { useRecording, useRecordings } from '../../data/recordings';
import { Choices } from '../../ui/entry';
import { EntryRow } from '../../ui/EntryRow';
import type { Entry } from '../../ui/entryStore';
import type { Series } from '../../ui/chart/pane';
import { ActRow, Finding, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { when } from '../../ui/when';
import { lineOf } from './lineOf';

const recordedOf = ({ meta, time, data }: RecordingData) => ({
  ...{ channels: meta.channels, marks: meta.marks, time, values: meta.channels.map((c) => data[c.key] ?? []) },
});

/** Another recording laid on this one: which, by which event of each, and the shift in s that makes of it. */
export interface Over {
  id: number | null;
  other: RecordingData | null;
  error: string | null;
  mine: RecordedEvent[];
  theirs: RecordedEvent[];
  at: { mine: RecordedEvent | null; theirs: RecordedEvent | null };
  shift: number;
  entry: Entry;
  choose: (id: number | null) => void;
  align: (change: { mine?: RecordedEvent; theirs?: RecordedEvent }) => void;
  /** the other one's line of a channel; null where it has none */
  line: (key: string) => Series | null;
}

/** @param recording the one it is laid on */
export function useOver(recording: RecordingData): Over {
  const [id, choose] = useState<number | null>(null);
  const [by, setBy] = useState<{ mine?: RecordedEvent; theirs?: RecordedEvent }>({});
  const [moved, setMoved] = useState<number | null>(null);
  const { data: other = null, error } = useRecording(id);
  const mine = useMemo(() => (id === null ? [] : eventsOf(recordedOf(recording))), [id, recording]);
  const theirs = useMemo(() => (other ? eventsOf(recordedOf(other)) : []), [other]);
  const usual = useMemo(() => alignedBy(mine, theirs), [mine, theirs]);
  const at = { mine: by.mine ?? usual?.[0] ?? null, theirs: by.theirs ?? usual?.[1] ?? null };
  const shift = moved ?? (at.mine && at.theirs ? at.mine.time - at.theirs.time : 0);
  const lines = useMemo(() => {
    if (!other) return null;
    const time = other.time.map((t) => t + shift);
    return new Map(
      other.meta.channels.map((c) => [
        c.key,
        { ...lineOf(pyramidOf(time, other.data[c.key] ?? [])), dashed: true, label: say.no({ id: other.meta.id }) },
      ]),
    );
  }, [other, shift]);
  return {
    ...{ id, other, error: error?.message ?? null, mine, theirs, at, shift },
    entry: {
      ...{ id: `over ${recording.meta.id}`, label: say.movedBy, value: Number(shift.toFixed(3)), unit: 's', decimals: 3, min: -1e6, max: 1e6 },
      onSet: (v) => setMoved(v),
    },
    choose: (next) => {
      choose(next);
      setBy({});
      setMoved(null);
    },
    align: (change) => {
      setBy((old) => ({ ...old, ...change }));
      setMoved(null);
    },
    line: (key) => lines?.get(key) ?? null,
  };
}

const eventText = (e: RecordedEvent): string => `${e.label}, ${formatFigure(e.time, 2)} s`;

function EventRow({
  label,
  events,
  chosen,
  onChoose,
}: {
  label: string;
  events: readonly RecordedEvent[];
  chosen: RecordedEvent | null;
  onChoose: (e: RecordedEvent) => void;
}) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <SheetRow label={label} text={chosen ? eventText(chosen) : '–'} inHand={open} onPress={() => setOpen(!open)} />
      {open && (
        <Choices
          options={events.map((e, i) => ({ value: i, label: eventText(e) }))}
          value={chosen ? events.findIndex((e) => e.code === chosen.code && e.time === chosen.time) : null}
          onChoose={(i) => {
            const event = events[Number(i)];
            setOpen(false);
            if (event) onChoose(event);
          }}
        />
      )}
    </>
  );
}

/** Laying another recording of the machine on this one. */
export function OverRows({ tag, id, over }: { tag: string; id: number; over: Over }) {
  const [choosing, setChoosing] = useState(false);
  const { data, hasNextPage, fetchNextPage } = useRecordings(tag);
  const all = data?.pages.flatMap((p) => p.recordings).filter((r) => r.id !== id && r.samples > 1) ?? [];
  if (over.id !== null)
    return (
      <>
        <SectionHead right={say.dashedInTheChart}>{say.recordingLaidOverIt({ id: over.id })}</SectionHead>
        {over.error && <Finding severity="error" sentence={over.error} />}
        {!over.other && !over.error && <Note>{say.fetchingIt}</Note>}
        {over.other && (
          <>
            <SheetRow label={over.other.meta.title} second={`${when(over.other.meta.startedAt)} · ${over.other.meta.author}`} />
            <EventRow label={say.onThisMomentHere} events={over.mine} chosen={over.at.mine} onChoose={(mine) => over.align({ mine })} />
            <EventRow label={say.itsMoment} events={over.theirs} chosen={over.at.theirs} onChoose={(theirs) => over.align({ theirs })} />
            <EntryRow entry={over.entry} second={say.laterThanItWasRecorded} testID="over-shift" />
          </>
        )}
        <ActRow text={say.takeItOff} onPress={() => over.choose(null)} testID="over-off" />
      </>
    );
  if (!choosing)
    return all.length === 0 ? null : (
      <ActRow text={say.layAnotherRecordingOverIt} second={say.alignedByWhatHappensIn} onPress={() => setChoosing(true)} testID="over-choose" />
    );
  return (
    <>
      <SectionHead>{say.whichOne}</SectionHead>
      {all.map((r) => (
        <SheetRow
          key={r.id}
          mark={String(r.id)}
          label={r.title}
          second={`${when(r.startedAt)} · ${r.author}`}
          figure={formatFigure(r.duration, 1)}
          unit="s"
          onPress={() => {
            setChoosing(false);
            over.choose(r.id);
          }}
          testID={`over-${r.id}`}
        />
      ))}
      {hasNextPage && <ActRow text={say.olderOnes} onPress={() => void fetchNextPage()} />}
      <ActRow text={say.none} onPress={() => setChoosing(false)} />
    </>
  );
}
