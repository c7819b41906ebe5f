import { View } from '@tamagui/core';
import { changedText, type MachineModel, type TuneRow } from '@yare/commissioning';
import { formatFigure } from '@yare/core';
import { proofText } from '@yare/words';
import { say } from '@yare/words/pages/tune';
import type { TuneKind } from '../../data/live';
import { useProofs } from '../../data/proofs';
import { measure } from '../../ui/palette';
import { Finding, SheetRow } from '../../ui/sheet';
import { Mono, Second, Strong } from '../../ui/text';
import { when } from '../../ui/when';
import type { Tuning } from './tuning';
import { Refusal } from '../../ui/Answer';

/** How measuring goes, and what came of it. */
export function TuneOutcome({ t }: { t: Tuning }) {
  const { keep, run, tune, busy, open } = t;
  return (
    <>
      <Refusal of={keep.error} />
      {keep.data?.kept === false && <Finding severity="error" sentence={say.theDriveDidNotKeep} />}
      {run?.phase === 'refused' && <Finding severity="error" sentence={run.sentence ?? say.refused} />}
      {busy && tune && <Progress kind={tune.kind} share={tune.progress} phase={run?.phase ?? ''} />}
      {tune && !busy && tune.state !== 'done' && run?.phase === 'ended' && (
        <Finding
          severity="error"
          sentence={
            // a drive that has failed because its link was lost gives no reason of its own
            tune.state === 'failed' && run.cause === 'not measured'
              ? say.itCouldNotBeMeasured({ sentence: run.sentence ?? '' })
              : say.stoppedBeforeItHadFinished({ sentence: run.sentence ?? say.itWasLetGo })
          }
        />
      )}
      {open && <Finding severity="act" sentence={say.theDriveHasMeasuredIts} />}
    </>
  );
}

/** Whether it was measured before, and whether that still counts. */
export function TuneProof({ model, t }: { model: MachineModel; t: Tuning }) {
  const { newest, standing } = useProofs(model)('tune', 'tune');
  if (!newest) return null;
  return (
    <>
      {!t.open && standing.state === 'passed' && !t.busy && (
        <Finding
          severity="good"
          sentence={say.measuredKeptAndInThe({ author: newest.author, when: when(newest.at), proofText: proofText(newest) })}
        />
      )}
      {standing.state === 'stale' && (
        <Finding
          severity="warning"
          sentence={say.measuredButChangedInThe({ when: when(newest.at), changedText: changedText(model, standing.changed) })}
        />
      )}
    </>
  );
}

function Progress({ kind, share, phase }: { kind: TuneKind; share: number; phase: string }) {
  return (
    <View backgroundColor="$hand" borderBottomWidth={1} borderColor="$rule2" padding={14} paddingLeft={measure.margin + 10} gap={8} role="status">
      <View flexDirection="row" justifyContent="space-between">
        <Strong>{phase === 'stopping' ? say.finishing : kind === 'rotating' ? say.measuringTurning : say.measuringAtStandstill}</Strong>
        <Mono fontFamily="$monoBold" fontSize={17} testID="tune-progress">
          {formatFigure(share, 0)} %
        </Mono>
      </View>
      <View height={14} borderWidth={1} borderColor="$ink" role="progressbar" aria-valuenow={Math.round(share)} aria-valuemin={0} aria-valuemax={100}>
        <View height={12} width={`${Math.max(1, share)}%`} backgroundColor="$plumFill" />
      </View>
      <Second>{say.stayOnThisPageLeaving}</Second>
    </View>
  );
}

/** One constant of the motor, as measured against the estimate. */
export function ResultRow({ row, inDraft }: { row: TuneRow; inDraft: boolean }) {
  const text = (x: number) => `${formatFigure(x, row.decimals)} ${row.unit}`;
  const off = row.measured !== null && row.estimate !== null ? row.measured / row.estimate - 1 : null;
  const estimate = row.estimate === null ? say.noEstimate : say.estimate({ text: text(row.estimate) });
  return (
    <SheetRow
      label={row.name}
      second={
        off === null
          ? say.notMeasuredYet({ code: row.code })
          : say.text({ code: row.code, estimate, off: off >= 0, abs: Math.abs(off) * 100, inDraft })
      }
      figure={formatFigure(row.measured ?? row.estimate, row.decimals)}
      unit={row.unit}
      mark={row.measured === null ? 'W' : 'M'}
      estimate={row.measured === null}
      changed={row.measured !== null && !inDraft}
      testID={`tuned-${row.code}`}
    />
  );
}
