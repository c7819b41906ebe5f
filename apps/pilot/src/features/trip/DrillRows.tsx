import { useCallback, useEffect, useState } from 'react';
import { causeWords, drillCauses, duration, factText, measurementWords, weightText } from '@yare/commissioning/trips';
import type { TripDetail } from '@yare/contract';
import type { Diagnosis } from '@yare/core/trips';
import { say } from '@yare/words/pages/trip';
import { useBenchAct, useBenchPart } from '../../data/bench';
import { noteCase, type CaseNotes } from '../../data/caseNotes';
import { live } from '../../data/live';
import { Refusal } from '../../ui/Answer';
import { ActRow, Finding, Note, SectionHead, SheetRow } from '../../ui/sheet';

/** Facts shown as what decided a drill. */
const most = 3;

/** s since a trip by the server's clock, told anew every second. */
function useClock(tag: string, from: string, runs: boolean): number {
  const now = useCallback(() => Math.max(0, ((live.samples.get(tag)?.at ?? Date.now()) - Date.parse(from)) / 1000), [tag, from]);
  const [seconds, setSeconds] = useState(now);
  useEffect(() => {
    if (!runs) return;
    const timer = setInterval(() => setSeconds(now()), 1000);
    return () => clearInterval(timer);
  }, [runs, now]);
  return seconds;
}

/** What a drill was, how long it took to say so, what decided it, and what would have been measured next. */
function Told({
  drill,
  diagnosis,
  fault,
}: {
  drill: NonNullable<CaseNotes['drill']>;
  diagnosis: Diagnosis;
  fault: { name: string; what: string } | undefined;
}) {
  const right = drillCauses[drill.was ?? ''] ?? [];
  const found = right.includes(drill.said);
  const ranked = diagnosis.ranked.find((r) => right.includes(r.id));
  const place = ranked ? diagnosis.ranked.indexOf(ranked) + 1 : 0;
  const [next] = diagnosis.next;
  return (
    <>
      <SectionHead right={found ? 'found' : say.notFound}>{say.theDrillIsOver}</SectionHead>
      <Finding
        severity={found ? 'good' : 'warning'}
        sentence={say.itWasYouSaidAfter({
          name: fault?.name ?? drill.was ?? say.aFaultNobodyKnows,
          what: fault?.what ?? '',
          name2: causeWords[drill.said]?.name ?? drill.said,
          duration: duration(drill.seconds),
        })}
      />
      {ranked && (
        <>
          <Note>{say.whatDecidedItByIts({ name: causeWords[ranked.id]?.name ?? ranked.id, place })}</Note>
          {ranked.evidence
            .filter((e) => e.bits > 0)
            .slice(0, most)
            .map((e) => (
              <SheetRow key={e.id} mark="+" label={factText(e.id, e.seen)} second={weightText(e)} />
            ))}
        </>
      )}
      <Note>{next ? say.measuredNext({ asks: measurementWords[next.id].asks }) : say.nothingThatCanBeMeasured}</Note>
    </>
  );
}

/** A drill in the case of its trip: the clock, the cause that is named, and afterwards what it was. */
export function DrillRows({
  tag,
  detail,
  diagnosis,
  notes,
  cause,
}: {
  tag: string;
  detail: TripDetail;
  diagnosis: Diagnosis;
  notes: CaseNotes;
  cause: string;
}) {
  const drill = useBenchPart(tag, (v) => v.drill);
  const faults = useBenchPart(tag, (v) => v.faults);
  const act = useBenchAct(tag);
  const on = drill?.on === true && !notes.drill && !detail.entry.closed;
  const seconds = useClock(tag, detail.entry.at, on);
  if (notes.drill) return <Told drill={notes.drill} diagnosis={diagnosis} fault={faults?.find((f) => f.id === notes.drill?.was)} />;
  if (!on) return null;
  const tell = () =>
    act.mutate(
      { drill: 'end' },
      { onSuccess: (view) => noteCase(detail.entry.id, { drill: { said: cause, seconds: Math.round(seconds), was: view.drill?.was ?? null } }) },
    );
  return (
    <>
      <SectionHead right={say.sinceTheTrip({ duration: duration(seconds) })}>{say.drill}</SectionHead>
      <Note>{say.measureWhatYouNeedWhen}</Note>
      <ActRow
        text={say.itIs({ name: causeWords[cause]?.name ?? cause })}
        second={say.endsTheDrillPutsIt}
        disabled={act.isPending}
        onPress={tell}
        testID="drill-say"
      />
      <Refusal of={act.error} />
    </>
  );
}
