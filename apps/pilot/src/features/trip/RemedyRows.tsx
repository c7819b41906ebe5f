import { useMemo } from 'react';
import { specOf, type MachineModel } from '@yare/commissioning';
import { causeWords, remedyOf } from '@yare/commissioning/trips';
import { formatFigure } from '@yare/core';
import type { RankedCause } from '@yare/core/trips';
import { useShortestStop, useStop } from '../../data/trip';
import { takeChanges } from '../../machine/takeChanges';
import { go } from '../../ui/go';
import { Finding, Note, SectionHead } from '../../ui/sheet';

/** V below the trip level within which a stop that is looked ahead to is no safe one: what the model itself may be off by. */
const near = 25;

/** What to do about a cause: settings that are taken into the draft with what the model makes of them, or words for the machine. */
export function RemedyRows({
  model,
  ranked,
  from,
  onTaken,
}: {
  model: MachineModel;
  ranked: RankedCause;
  from: number;
  onTaken: (what: string) => void;
}) {
  const { drafted, plate, machine, draftSpec } = model;
  const spec = draftSpec.ok ? draftSpec.spec : null;
  const wantsStop = ranked.remedy === 'longer stop';
  const shortest = useShortestStop(wantsStop ? spec : null, from);
  const remedy = useMemo(
    () => (spec ? remedyOf(ranked.remedy, { settings: drafted, plate, supply: spec.supply, trip: ranked.trip, shortest }) : null),
    [ranked, drafted, plate, spec, shortest],
  );
  const cured = useMemo(() => {
    if (!remedy?.stop) return null;
    const values = { ...drafted.values, ...Object.fromEntries(remedy.changes.map((c) => [c.code, c.value])) };
    const made = specOf(machine, plate, drafted.with(values));
    return made.ok ? made.spec : null;
  }, [remedy, drafted, machine, plate]);
  const ahead = useStop(cured, from);
  const level = drafted.levels.overvoltageTrip;
  const words = causeWords[ranked.id];
  return (
    <>
      <SectionHead right={remedy ? 'settings' : 'at the machine'}>Cure</SectionHead>
      <Note>{words?.cure ?? 'Find what it is, put it right, and say so below.'}</Note>
      {remedy && (
        <Finding
          severity="act"
          sentence={`${remedy.label}.${
            remedy.stop
              ? ahead
                ? ` The bus then peaks at about ${formatFigure(ahead.peakBus, 0)} V on a stop from ${formatFigure(from, 0)} Hz (estimated); it trips at ${formatFigure(level, 0)} V.${ahead.peakBus > level - near ? ' That is too near: stop more slowly still, or fit a resistor.' : ''}`
                : ' Looking ahead…'
              : ''
          }`}
          act="Take it into the draft"
          onAct={() => {
            takeChanges(model, remedy.changes);
            onTaken(remedy.label);
          }}
        />
      )}
      {!remedy && wantsStop && shortest === null && <Note>Working out the shortest stop…</Note>}
      {model.differing.length > 0 && (
        <Finding
          severity="act"
          sentence={`${model.differing.length} ${model.differing.length === 1 ? 'setting differs' : 'settings differ'} from the drive.`}
          act="Go to Write"
          onAct={() => go(`/m/${machine.tag}/write`)}
        />
      )}
    </>
  );
}
