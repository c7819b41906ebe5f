import { useMemo } from 'react';
import type { MachineModel } from '@yare/commissioning';
import type { TripDetail } from '@yare/contract';
import { duration, measureFirst, measureFirstText } from '@yare/commissioning/trips';
import { formatFigure, largestOf } from '@yare/core';
import type { Diagnosis } from '@yare/core/trips';
import { say } from '@yare/words/pages/trip';
import { dropCase, noteCase, useCaseNotes } from '../../data/caseNotes';
import { useLiveValue } from '../../data/live';
import { useCloseTrip, useDiagnosis, useResetTrip, useTripCase } from '../../data/trip';
import { sentenceOf } from '../../machine/logText';
import { BelongsElsewhere } from '../../machine/BelongsElsewhere';
import { MachineFrame } from '../../machine/MachineFrame';
import { shownSeconds, TrendChart } from '../../machine/TrendChart';
import { Refusal } from '../../ui/Answer';
import type { Act } from '../../ui/bar';
import { go } from '../../ui/go';
import { Finding, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { useWide } from '../../ui/theme';
import { when } from '../../ui/when';
import { CauseRows } from './CauseRows';
import { DrillRows } from './DrillRows';
import { CloseRows } from './CloseRows';
import { MeasurementRows } from './MeasurementRows';
import { MomentRows } from './MomentRows';
import { RemedyRows } from './RemedyRows';

/** What happened in one sentence. */
function whatHappened({ entry, snapshot: s }: TripDetail): string {
  const parts = [
    s.outputFrequency !== null && say.atHz({ outputFrequency: s.outputFrequency }),
    s.motorCurrent !== null && `${formatFigure(s.motorCurrent, 1)} A`,
    s.busVoltage !== null && say.vOnTheBus({ busVoltage: s.busVoltage }),
  ].filter(Boolean);
  const ran = s.since !== null && s.since > 0 ? say.afterItsStart({ duration: duration(s.since) }) : '';
  const where = parts.length > 0 ? ` ${parts.join(', ')}` : '';
  const how = entry.seen ? when(entry.at) : say.itHappenedWhileNobodyListened({ when: when(entry.at) });
  return `${entry.name}${where}${ran}. ${how}.`;
}

/** What was done at the machine before, and who tripped with it. */
function StoryRows({ detail }: { detail: TripDetail }) {
  const { lately, others, repeats, entry } = detail;
  return (
    <>
      <SectionHead right={say.inTheTwoWeeksBefore}>{say.whatWasDoneLately}</SectionHead>
      {lately.length === 0 && <Note>{say.nothingIsOnRecord}</Note>}
      {lately.map((e, i) => (
        <SheetRow key={i} label={sentenceOf({ ...e, id: 0, tag: entry.tag, device: null, address: null })} second={`${e.author}, ${when(e.at)}`} />
      ))}
      <SheetRow
        label={say.theSameTripBefore}
        second={say.inTheMonthBefore}
        text={repeats === 0 ? 'never' : repeats === 1 ? say.once : say.times({ repeats })}
      />
      <SheetRow label={say.otherMachinesInThatMinute} text={others.length === 0 ? 'none' : others.join(', ')} />
    </>
  );
}

/** Hz a cure is looked ahead from: the fastest it is known to have run. */
const fastest = (model: MachineModel, s: TripDetail['snapshot'], top: number): number =>
  Math.round(
    Math.max(top, Math.abs(s.outputFrequency ?? 0), Math.min(model.drafted.parameters().maximumFrequency, model.drafted.parameters().motorFrequency)),
  );

/** What is made of a case: causes, the next measurement, the cure. */
function Findings({
  model,
  detail,
  diagnosis,
  chosen,
  onChoose,
  top,
  cure,
  onTaken,
}: {
  model: MachineModel;
  detail: TripDetail;
  diagnosis: Diagnosis;
  chosen: string | null;
  onChoose: (id: string) => void;
  top: number;
  cure: string;
  onTaken: (what: string) => void;
}) {
  const ranked = diagnosis.ranked.find((r) => r.id === chosen) ?? diagnosis.ranked[0];
  return (
    <>
      <CauseRows diagnosis={diagnosis} chosen={chosen} onChoose={onChoose} />
      <MeasurementRows model={model} detail={detail} diagnosis={diagnosis} />
      {ranked && !detail.entry.closed && (
        <RemedyRows model={model} ranked={ranked} diagnosis={diagnosis} from={fastest(model, detail.snapshot, top)} cure={cure} onTaken={onTaken} />
      )}
    </>
  );
}

/** One trip from what happened to the cure that was seen. */
export function CaseSheet({ model, detail }: { model: MachineModel; detail: TripDetail }) {
  const { tag } = model.machine;
  const { entry } = detail;
  const wide = useWide();
  // whether, not what: figures move ten times a second, and what has happened does not
  const up = useLiveValue(tag, (s) => s?.link === 'up');
  const inForce = useLiveValue(tag, (s) => s?.link === 'up' && s.trip !== null);
  const reset = useResetTrip(tag);
  const close = useCloseTrip(entry.id);
  const { diagnosis, failed, trace, trend } = useDiagnosis(model, detail);
  const notes = useCaseNotes(entry.id);
  const chosen = notes.cause ?? null;
  const cause = chosen ?? diagnosis?.ranked[0]?.id ?? 'unknown';
  const first = inForce && !entry.closed && measureFirst(entry.cause, failed ? null : diagnosis).length > 0;
  const [cure, proof] = [notes.cure.trim(), notes.proof.trim()];
  const complete = cure !== '' && proof !== '';
  const acts: Act[] = [
    { text: say.allTrips, hotkey: 'a', onPress: () => go('/trips') },
    ...(inForce && first
      ? [
          {
            ...{ text: say.measureFirst, main: true, hotkey: 'm', testID: 'measure-first' },
            onPress: () => document.querySelector('[data-testid=next-measurement]')?.scrollIntoView({ block: 'center' }),
          },
        ]
      : []),
    inForce
      ? {
          text: reset.isPending ? say.resetting : say.holdToResetTheTrip,
          main: !first,
          held: true,
          disabled: reset.isPending,
          onPress: () => reset.mutate(),
          testID: 'reset-trip',
        }
      : entry.closed
        ? { text: say.workPlan, main: true, hotkey: 'g', onPress: () => go(`/m/${tag}`) }
        : complete
          ? {
              text: say.closeTheCase,
              main: true,
              hotkey: 'k',
              disabled: close.isPending,
              onPress: () => close.mutate({ cause, cure, proof }, { onSuccess: () => dropCase(entry.id) }),
              testID: 'close-case',
            }
          : { text: say.runItAgain, main: true, hotkey: 't', onPress: () => go(`/m/${tag}/turn`), testID: 'run-again' },
  ];
  const moment = useMemo(() => <MomentRows model={model} detail={detail} trace={trace} trend={trend} />, [model, detail, trace, trend]);
  const top = largestOf((trend?.data.outputFrequency ?? []).map(Math.abs), 0);
  return (
    <MachineFrame
      model={model}
      stage="trip"
      title={entry.name}
      acts={acts}
      evidenceTitle={inForce || !wide ? say.theTrip : say.liveAndTheTrip}
      evidenceNote={say.lastS({ shownSeconds })}
      evidence={
        <>
          {!inForce && <TrendChart tag={tag} model={model} />}
          {moment}
        </>
      }
    >
      <Refusal of={reset.error ?? close.error} />
      {entry.closed ? <Note>{whatHappened(detail)}</Note> : <Finding severity={inForce ? 'error' : 'warning'} sentence={whatHappened(detail)} />}
      {!up && <Note>{say.theDriveDoesNotAnswer}</Note>}
      {first && <Finding severity="error" sentence={measureFirstText(model.machine.driven.kind)} />}
      {inForce && !entry.closed && <Note>{say.findTheCauseBeforeThe({ tag })}</Note>}
      {!diagnosis && !failed && <Note>{say.lookingForTheCause}</Note>}
      {failed && <Finding severity="warning" sentence={say.theCausesCouldNotBe} />}
      {diagnosis && (
        <Findings
          model={model}
          detail={detail}
          diagnosis={diagnosis}
          chosen={chosen}
          onChoose={(id) => noteCase(entry.id, { cause: id })}
          top={top}
          cure={cure}
          onTaken={(what) => cure === '' && noteCase(entry.id, { cure: what })}
        />
      )}
      {diagnosis && <DrillRows tag={tag} detail={detail} diagnosis={diagnosis} notes={notes} cause={cause} />}
      {!wide && moment}
      <StoryRows detail={detail} />
      <CloseRows detail={detail} cause={cause} notes={notes} written={model.differing.length === 0} />
    </MachineFrame>
  );
}

/** A case by its number, once it is there. */
export function CaseOf({ model, id, waiting }: { model: MachineModel; id: number; waiting: (error: string | undefined) => React.ReactNode }) {
  const { data, error } = useTripCase(id);
  if (!data) return <>{waiting(error?.message)}</>;
  const { tag } = data.entry;
  if (tag !== model.machine.tag)
    return <BelongsElsewhere model={model} stage="trip" what={say.trip({ id, name: data.entry.name })} tag={tag} path={`/m/${tag}/trip/${id}`} />;
  return <CaseSheet key={id} model={model} detail={data} />;
}
