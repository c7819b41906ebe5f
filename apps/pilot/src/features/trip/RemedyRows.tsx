import { useMemo } from 'react';
import { lookAheadBand, safeStop, specOf, type MachineModel } from '@yare/commissioning';
import { causeWords, remediesOf, type TripRemedy } from '@yare/commissioning/trips';
import type { Diagnosis, RankedCause } from '@yare/core/trips';
import { say } from '@yare/words/pages/trip';
import { useShortestStop, useStop } from '../../data/trip';
import { takeChanges } from '../../machine/takeChanges';
import { go } from '../../ui/go';
import { Finding, Note, SectionHead } from '../../ui/sheet';

/** What a stop with a remedy comes to, at its worst: the model may be off by as much as its band says. */
function useStopText(model: MachineModel, remedy: TripRemedy | null, from: number): string {
  const { drafted, plate, machine } = model;
  const cured = useMemo(() => {
    if (!remedy?.stop) return null;
    const values = { ...drafted.values, ...Object.fromEntries(remedy.changes.map((c) => [c.code, c.value])) };
    const made = specOf(machine, plate, drafted.with(values));
    return made.ok ? made.spec : null;
  }, [remedy, drafted, machine, plate]);
  const ahead = useStop(cured, from);
  if (!remedy?.stop) return '';
  if (!ahead) return say.lookingAhead;
  const level = drafted.levels.overvoltageTrip;
  const band = lookAheadBand(machine.driven.kind, Boolean(machine.learned?.values), 'peak bus') ?? 0;
  const worst = ahead.peakBus * (1 + band);
  const near = worst >= level ? say.thatMayStillBeToo : '';
  return say.stoppingFromHzTheBus({ from, peakBus: ahead.peakBus, max: Math.max(ahead.peakBus, worst), level, near });
}

/** One way to set it, taken into the draft by a touch. */
function Way({ model, remedy, from, onTaken }: { model: MachineModel; remedy: TripRemedy; from: number; onTaken: (what: string) => void }) {
  const ahead = useStopText(model, remedy, from);
  return (
    <Finding
      severity="act"
      sentence={`${remedy.label}.${ahead}`}
      act={say.takeItIntoTheDraft}
      onAct={() => {
        takeChanges(model, remedy.changes);
        onTaken(remedy.label);
      }}
    />
  );
}

/** What to do about a cause: settings that are taken into the draft with what the model makes of them, or words for the machine. */
export function RemedyRows({
  model,
  ranked,
  diagnosis,
  from,
  cure,
  onTaken,
}: {
  model: MachineModel;
  ranked: RankedCause;
  diagnosis: Diagnosis;
  from: number;
  /** what was done already, as it is noted */
  cure: string;
  onTaken: (what: string) => void;
}) {
  const { drafted, plate, machine, draftSpec, plateCircuit } = model;
  const spec = draftSpec.ok ? draftSpec.spec : null;
  const wantsStop = ranked.remedy === 'longer stop';
  // the same stop that Motion offers: from full speed, lengthened by what the model may be off by
  const looked = useShortestStop(wantsStop ? spec : null, spec?.drive.maximumFrequency ?? 0);
  const shortest = looked === null ? null : safeStop(machine.driven.kind, Boolean(machine.learned?.values), looked);
  const signalType = diagnosis.seen.signalType?.outcome;
  const remedies = useMemo(
    () =>
      spec
        ? remediesOf(ranked.remedy, {
            ...{ settings: drafted, plate, supply: spec.supply, trip: ranked.trip, shortest, circuit: plateCircuit },
            ...(signalType !== undefined && { signalType }),
          })
        : [],
    [ranked, drafted, plate, spec, shortest, plateCircuit, signalType],
  );
  const words = causeWords[ranked.id];
  const written = model.differing.length === 0;
  return (
    <>
      <SectionHead right={remedies.length > 0 ? 'settings' : 'at the machine'}>{say.cure}</SectionHead>
      <Note>{words?.cure ?? say.findWhatItIsPut}</Note>
      {remedies.map((r) => (
        <Way key={r.label} model={model} remedy={r} from={from} onTaken={onTaken} />
      ))}
      {wantsStop && shortest === null && <Note>{say.workingOutTheShortestStop}</Note>}
      {!written && (
        <Finding
          severity="act"
          sentence={say.settingDiffersFromTheDrive({ differing: model.differing.length })}
          act={say.goToWrite}
          onAct={() => go(`/m/${machine.tag}/write`)}
        />
      )}
      {written && cure !== '' && ranked.remedy !== 'at the machine' && (
        <Finding severity="act" sentence={say.isInTheDriveNow({ cure })} act={say.goToTestRun} onAct={() => go(`/m/${machine.tag}/turn`)} />
      )}
    </>
  );
}
