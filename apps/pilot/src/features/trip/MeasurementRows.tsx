import { useState } from 'react';
import type { TripDetail } from '@yare/contract';
import type { MachineModel } from '@yare/commissioning';
import { howTo, measurementWords, outcomesOf } from '@yare/commissioning/trips';
import { Switch } from '@yare/core';
import { measurements, type Diagnosis, type MeasurementId } from '@yare/core/trips';
import { say } from '@yare/words/pages/trip';
import { useBench } from '../../data/bench';
import { useAnswerTrip, useReadBench } from '../../data/trip';
import { Refusal } from '../../ui/Answer';
import { Segments } from '../../ui/Segments';
import { ActRow, Note, SectionHead, SheetRow } from '../../ui/sheet';

const stateText = {
  'as it is': say.asTheMachineStands,
  running: say.whileItRuns,
  'live panel': say.atTheLivePanelTake,
  isolated: say.isolateLockOffAndProve,
} as const;

const isMeasurement = (id: string): id is MeasurementId => id in measurementWords;

/** The one measurement that best separates what is left, entered on the spot; the next best ones below it, and what was answered. */
export function MeasurementRows({ model, detail, diagnosis }: { model: MachineModel; detail: TripDetail; diagnosis: Diagnosis }) {
  const { tag, driven } = model.machine;
  const braked = ('brakeShare' in driven && driven.brakeShare !== null) || model.drafted.role('holdingBrake') === Switch.on;
  const kept = { braked, incline: driven.kind === 'hoist' || (driven.kind === 'conveyor' && driven.slope !== 0) };
  const { id, closed } = detail.entry;
  const answer = useAnswerTrip(id);
  const bench = useBench(tag).data === 'there';
  const read = useReadBench(tag);
  const [picked, setPicked] = useState<MeasurementId | null>(null);
  const [best, ...others] = diagnosis.next;
  const next = diagnosis.next.find((n) => n.id === picked) ?? best;
  const given = Object.entries(detail.answers).filter((a): a is [MeasurementId, string] => isMeasurement(a[0]));
  const give = (what: Record<string, string | null>) => {
    setPicked(null);
    answer.mutate(what);
  };
  return (
    <>
      <SectionHead right={next ? say.bitsOfOpen({ gain: next.gain, entropy: diagnosis.entropy }) : undefined}>{say.measureNext}</SectionHead>
      {!next && <Note>{say.nothingAMeterOrA}</Note>}
      {next && !closed && (
        <>
          <SheetRow
            label={measurementWords[next.id].asks}
            second={say.aboutMin({
              howTo: howTo(next.id, kept),
              minutes: measurements[next.id].minutes,
              stateText: stateText[measurements[next.id].state],
            })}
            testID="next-measurement"
          />
          <Segments
            label={measurementWords[next.id].asks}
            value={null as string | null}
            options={outcomesOf(next.id, kept.braked).map((o) => ({
              value: o,
              text: measurementWords[next.id].outcomes[o] ?? o,
              testID: `answer-${o.replace(/[^a-z0-9]+/gi, '-')}`,
            }))}
            onChoose={(o) => give({ [next.id]: o })}
          />
          {bench && (
            <ActRow
              text={read.isPending ? say.reading : say.readItAtTheBench}
              second={say.whatAMeterOrA}
              disabled={read.isPending || answer.isPending}
              onPress={() => read.mutate(next.id, { onSuccess: ({ outcome }) => give({ [next.id]: outcome }) })}
              testID="read-bench"
            />
          )}
        </>
      )}
      <Refusal of={answer.error ?? read.error} />
      {given.map(([m, outcome]) => (
        <SheetRow
          key={m}
          mark="M"
          label={measurementWords[m].asks}
          second={closed ? say.answered : say.answeredTapToTakeIt}
          text={measurementWords[m].outcomes[outcome] ?? outcome}
          {...(!closed && { onPress: () => give({ [m]: null }) })}
          testID={`given-${m}`}
        />
      ))}
      {!closed &&
        others
          .filter((n) => n !== next)
          .slice(0, 2)
          .map((n) => (
            <ActRow
              key={n.id}
              text={measurementWords[n.id].asks}
              second={say.bitsAboutMin({ gain: n.gain, minutes: measurements[n.id].minutes })}
              onPress={() => setPicked(n.id)}
            />
          ))}
    </>
  );
}
