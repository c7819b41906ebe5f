import type { MachineModel } from '@yare/commissioning';
import type { LiveSample } from '@yare/contract';
import { formatFigure } from '@yare/core';
import { useLive } from '../../data/live';
import { useResetTrip, useTrip } from '../../data/trip';
import { MachineFrame } from '../../machine/MachineFrame';
import { machineScreen } from '../../machine/machineScreen';
import { shownSeconds, TrendChart } from '../../machine/TrendChart';
import type { Act } from '../../ui/bar';
import { go } from '../../ui/go';
import { Finding, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { when } from '../../ui/when';
import { Refusal } from '../../ui/Answer';

/** What the link still says of a drive. */
function StillSaid({ live }: { live: LiveSample }) {
  const rows: Array<[label: string, value: number, decimals: number, unit: string, second?: string]> = [
    ['Output', live.outputFrequency, 1, 'Hz', `reference ${formatFigure(live.reference, 1)} Hz`],
    ['Motor current', live.motorCurrent, 1, 'A'],
    ['DC bus', live.busVoltage, 0, 'V'],
    ['Motor heat', live.motorHeat, 0, '%', 'of the overload’s trip point'],
    ['Drive temperature', live.driveTemperature, 0, '°C'],
    ['Feedback', live.feedback, 1, '%', 'of the sensor’s range'],
  ];
  return (
    <>
      <SectionHead right={live.link === 'up' ? 'now, over the link' : 'the drive does not answer'}>What the drive says</SectionHead>
      {live.link === 'up' &&
        rows.map(([label, value, decimals, unit, second]) => (
          <SheetRow key={label} label={label} figure={formatFigure(value, decimals)} unit={unit} second={second} />
        ))}
    </>
  );
}

/** Why nothing needs a reset, or what it waits for after one. */
function NotTripped({ live, wasReset }: { live: LiveSample | undefined; wasReset: boolean }) {
  if (live?.link !== 'up') return <Note>The drive does not answer, so it tells of no trip.</Note>;
  if (live.waits) return <Finding severity="act" sentence={`Held: ${live.waits.sentence.replace(/^./, (c) => c.toLowerCase())}.`} />;
  return <Finding severity="good" sentence={wasReset ? 'The trip is reset. The drive is ready.' : 'This drive has not tripped.'} />;
}

function TripSheet({ model }: { model: MachineModel }) {
  const { tag, name } = model.machine;
  const live = useLive([tag])(tag);
  const reset = useResetTrip(tag);
  const code = live?.link === 'up' ? (live.trip?.code ?? 0) : 0;
  const { data } = useTrip(tag, code);
  const trip = code === 0 ? null : live?.trip;
  const acts: Act[] = [
    { text: 'Recordings', hotkey: 'l', onPress: () => go(`/m/${tag}/recordings`) },
    trip
      ? {
          text: reset.isPending ? 'Resetting…' : 'Hold to reset the trip',
          main: true,
          held: true,
          disabled: reset.isPending,
          onPress: () => reset.mutate(),
          testID: 'reset-trip',
        }
      : { text: 'Work plan', main: true, hotkey: 'g', onPress: () => go(`/m/${tag}`) },
  ];
  return (
    <MachineFrame
      model={model}
      stage="trip"
      title={trip ? trip.name : 'Trip'}
      acts={acts}
      evidenceTitle="Live"
      evidenceNote={`last ${shownSeconds} s`}
      evidence={<TrendChart tag={tag} model={model} />}
    >
      <Refusal of={reset.error} />
      {trip ? (
        <>
          <Finding severity="error" sentence={trip.sentence} />
          <SheetRow label="Trip class" second={`code ${trip.code} on the display`} text={trip.name} />
          <SheetRow
            label="Tripped"
            second={data?.seenAt ? 'when it was first seen over the link' : 'before the link was first read'}
            text={data?.seenAt ? when(data.seenAt) : '–'}
          />
          <Note>
            {`A reset clears the trip of ${tag} ${name} over the link, and gives command back at once. It starts nothing: a start contact that is closed has to be opened and closed again. Find the cause first; a motor that is hot or a drive that is shorted trips again.`}
          </Note>
        </>
      ) : (
        <NotTripped live={live} wasReset={reset.isSuccess} />
      )}
      {live && <StillSaid live={live} />}
    </MachineFrame>
  );
}

/** A tripped machine: what happened, what the link still says, and a deliberate reset. */
export const TripScreen = machineScreen(TripSheet);
