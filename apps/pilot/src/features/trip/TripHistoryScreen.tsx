import { View } from '@tamagui/core';
import { useMemo, useState } from 'react';
import { ScrollView } from 'react-native';
import { bookById, DriveSettings } from '@yare/books';
import { fedBy } from '@yare/commissioning';
import type { LiveSample, MachineSummary, TripEntry } from '@yare/contract';
import { formatFigure } from '@yare/core';
import { marginsOf, type Margin } from '@yare/core/trips';
import { say } from '@yare/words/pages/trip';
import { useBooks } from '../../data/books';
import { retryAll } from '../../data/client';
import { useLive } from '../../data/live';
import { useMachines } from '../../data/machines';
import { useTrips } from '../../data/trip';
import { ActionBar } from '../../ui/bar';
import { go } from '../../ui/go';
import { Segments } from '../../ui/Segments';
import { Note, SectionHead, SheetFoot, SheetRow } from '../../ui/sheet';
import { StageHead } from '../../ui/StageHead';
import { TextLine } from '../../ui/TextLine';
import { Waiting } from '../../ui/Waiting';
import { causeName } from './CloseRows';
import { marginSecond } from './marginText';
import { TripRows } from './TripRows';

/** Share of the way to a trip from which a machine is shown as near. */
const near = 0.6;

/** The nearest trip of every machine that answers, the nearest machine first. */
function useNearest(machines: readonly MachineSummary[]): Array<{ tag: string; margin: Margin; live: LiveSample }> {
  const books = useBooks().data;
  const live = useLive(machines.map((m) => m.tag));
  if (!books) return [];
  return machines
    .flatMap((m) => {
      const s = live(m.tag);
      const drive = new DriveSettings(bookById(m.bookId), m.size, {}, 50);
      const [margin] = s?.link === 'up' && !s.trip ? marginsOf(s, drive.hardware(), fedBy(drive, m)) : [];
      return s && margin ? [{ tag: m.tag, margin, live: s }] : [];
    })
    .sort((a, b) => b.margin.used - a.margin.used);
}

function NearestRows({ machines }: { machines: readonly MachineSummary[] }) {
  const nearest = useNearest(machines);
  return (
    <>
      <SectionHead right="now">{say.howCloseToATrip}</SectionHead>
      {nearest.length === 0 && <Note>{say.noMachineAnswers}</Note>}
      {nearest.slice(0, 5).map(({ tag, margin }) => (
        <SheetRow
          key={tag}
          label={tag}
          second={say.near({ used: margin.used > near, marginSecond: marginSecond(margin) })}
          figure={formatFigure(100 * margin.used, 0)}
          unit="%"
          onPress={() => go(`/m/${tag}`)}
          testID={`near-${tag}`}
        />
      ))}
    </>
  );
}

type By = 'list' | 'class' | 'machine' | 'hour';
const countBy = (trips: readonly TripEntry[], key: (t: TripEntry) => string): Array<[string, number]> => {
  const counts = new Map<string, number>();
  for (const t of trips) counts.set(key(t), (counts.get(key(t)) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1] || a[0].localeCompare(b[0]));
};
const hourOf = (t: TripEntry): string => `${String(new Date(t.at).getHours()).padStart(2, '0')}:00`;

/** How often, by class, machine or hour of the day. */
function Counts({ trips, by }: { trips: readonly TripEntry[]; by: Exclude<By, 'list'> }) {
  const rows = countBy(trips, by === 'class' ? (t) => t.name : by === 'machine' ? (t) => t.tag : hourOf);
  const ordered = by === 'hour' ? [...rows].sort((a, b) => a[0].localeCompare(b[0])) : rows;
  return (
    <>
      {ordered.map(([name, n]) => (
        <SheetRow
          key={name}
          label={name}
          second={by === 'machine' && n > 1 ? say.againAndAgain : undefined}
          figure={String(n)}
          unit={n === 1 ? 'trip' : 'trips'}
          {...(by === 'machine' && { onPress: () => go(`/m/${name}/trip`) })}
        />
      ))}
    </>
  );
}

const matches = (t: TripEntry, words: string): boolean =>
  [t.tag, t.name, String(t.code ?? ''), ...(t.closed ? [causeName(t.closed.cause), t.closed.cure, t.closed.proof, t.closed.author] : [])]
    .join(' ')
    .toLowerCase()
    .includes(words.trim().toLowerCase());

/** The trips of the whole plant: how close machines are to one now, what is open, how often and when. */
export function TripHistoryScreen() {
  const { data, error } = useTrips(null);
  const { data: machines } = useMachines();
  const [by, setBy] = useState<By>('list');
  const [words, setWords] = useState('');
  const trips = useMemo(() => (data?.trips ?? []).filter((t) => matches(t, words)), [data, words]);
  if (!data || !machines) return <Waiting error={error?.message} onRetry={retryAll} />;
  const open = trips.filter((t) => !t.closed);
  return (
    <View flex={1} backgroundColor="$paper" alignItems="center">
      <View flex={1} width="100%" maxWidth={720} backgroundColor="$sheet">
        <ScrollView {...{ dataSet: { sheet: true } }} style={{ flex: 1 }} contentContainerStyle={{ flexGrow: 1 }}>
          <StageHead title={say.trips} second={say.ofEveryMachine} />
          <NearestRows machines={machines} />
          <SectionHead right={data.trips.length > 0 ? `${data.trips.length}` : undefined}>{say.onRecord}</SectionHead>
          <TextLine label={say.searchTrips} value={words} onChange={setWords} placeholder={say.searchMachineTripCauseCure} testID="trip-search" />
          <Segments
            label={say.tripsBy}
            value={by}
            options={[
              { value: 'list', text: say.list },
              { value: 'class', text: say.trip2 },
              { value: 'machine', text: say.machine },
              { value: 'hour', text: say.hour },
            ]}
            onChoose={setBy}
          />
          {trips.length === 0 && <Note>{words ? say.noneWithTheseWords : say.noneYetATripIs}</Note>}
          {by === 'list' ? (
            <>
              {open.length > 0 && <SectionHead right={`${open.length}`}>{say.notCuredYet}</SectionHead>}
              <TripRows trips={open} withTag />
              {trips.length > open.length && <SectionHead right={`${trips.length - open.length}`}>{say.cured}</SectionHead>}
              <TripRows trips={trips.filter((t) => t.closed)} withTag />
            </>
          ) : (
            <Counts trips={trips} by={by} />
          )}
          <SheetFoot />
        </ScrollView>
        <ActionBar acts={[{ text: say.plant, hotkey: '0', onPress: () => go('/') }]} />
      </View>
    </View>
  );
}
