import { useLocalSearchParams } from 'expo-router';
import type { MachineModel } from '@yare/commissioning';
import { say } from '@yare/words/pages/trip';
import { retryAll } from '../../data/client';
import { useLiveValue } from '../../data/live';
import { useTrip, useTrips } from '../../data/trip';
import { MachineFrame } from '../../machine/MachineFrame';
import { machineScreen } from '../../machine/machineScreen';
import { shownSeconds, TrendChart } from '../../machine/TrendChart';
import { go } from '../../ui/go';
import { Finding, Note, SectionHead } from '../../ui/sheet';
import { Waiting } from '../../ui/Waiting';
import { CaseOf } from './CaseSheet';
import { TellTrip } from './TellTrip';
import { TripRows } from './TripRows';

/** How a machine stands that has no trip in force. */
function NotTripped({ tag }: { tag: string }) {
  const up = useLiveValue(tag, (s) => s?.link === 'up');
  const waits = useLiveValue(tag, (s) => s?.waits?.sentence ?? null);
  if (!up) return <Note>{say.theDriveDoesNotAnswer2}</Note>;
  if (waits) return <Finding severity="act" sentence={say.held({ waits: waits.replace(/^./, (c) => c.toLowerCase()) })} />;
  return <Finding severity="good" sentence={say.noTripIsInForce} />;
}

/** The trips of a machine that stands well, and the way to tell of one. */
function TripsSheet({ model }: { model: MachineModel }) {
  const { tag } = model.machine;
  const trip = useLiveValue(tag, (s) => s?.trip?.sentence ?? null);
  const { data, error } = useTrips(tag);
  const trips = data?.trips ?? [];
  const open = trips.filter((t) => !t.closed);
  return (
    <MachineFrame
      model={model}
      stage="trip"
      title={say.trips}
      acts={[
        { text: say.allMachines, hotkey: 'a', onPress: () => go('/trips') },
        { text: say.workPlan, main: true, hotkey: 'g', onPress: () => go(`/m/${tag}`) },
      ]}
      evidenceTitle={say.live}
      evidenceNote={say.lastS({ shownSeconds })}
      evidence={<TrendChart tag={tag} model={model} />}
    >
      {trip ? <Finding severity="error" sentence={trip} /> : <NotTripped tag={tag} />}
      {trip && <Note>{say.readingWhatTheDriveRemembers}</Note>}
      {error && <Finding severity="warning" sentence={error.message} />}
      {open.length > 0 && <SectionHead right={say.open({ open: open.length })}>{say.notCuredYet}</SectionHead>}
      <TripRows trips={open} />
      <TellTrip model={model} onTold={(d) => go(`/m/${tag}/trip/${d.entry.id}`)} />
      <SectionHead>{say.cured}</SectionHead>
      {trips.length === open.length && <Note>{data ? say.noneOnRecord : 'Loading…'}</Note>}
      <TripRows trips={trips.filter((t) => t.closed)} />
    </MachineFrame>
  );
}

function TripNowSheet({ model }: { model: MachineModel }) {
  const { tag } = model.machine;
  const code = useLiveValue(tag, (s) => (s?.link === 'up' ? (s.trip?.code ?? 0) : 0));
  const { data } = useTrip(tag, code);
  if (code !== 0 && data?.caseId) return <CaseOf model={model} id={data.caseId} waiting={() => <TripsSheet model={model} />} />;
  return <TripsSheet model={model} />;
}

/** A tripped machine: its case at once. Else the trips it had. */
export const TripScreen = machineScreen(TripNowSheet);

/** One case by its number. */
export const CaseScreen = machineScreen(function Case({ model }: { model: MachineModel }) {
  const { id } = useLocalSearchParams<{ id: string }>();
  return <CaseOf model={model} id={Number(id)} waiting={(error) => <Waiting error={error} onRetry={retryAll} />} />;
});
