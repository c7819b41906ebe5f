import { View } from '@tamagui/core';
import { changedText, type MachineModel, type TuneRow } from '@yare/commissioning';
import { formatFigure } from '@yare/core';
import { proofText } from '@yare/words';
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
      {keep.data?.kept === false && (
        <Finding severity="error" sentence="The drive did not keep it: what it measured is gone at power-off. Try again." />
      )}
      {run?.phase === 'refused' && <Finding severity="error" sentence={run.sentence ?? 'Refused.'} />}
      {busy && tune && <Progress kind={tune.kind} share={tune.progress} phase={run?.phase ?? ''} />}
      {tune && !busy && tune.state !== 'done' && run?.phase === 'ended' && (
        <Finding
          severity="error"
          sentence={
            // a drive that has failed because its link was lost gives no reason of its own
            tune.state === 'failed' && run.cause === 'not measured'
              ? `It could not be measured. ${run.sentence ?? ''}`
              : `Stopped before it had finished (${run.sentence ?? 'it was let go'}). Nothing was changed in the drive.`
          }
        />
      )}
      {open && (
        <Finding
          severity="act"
          sentence="The drive has measured its motor and holds it in working memory only: gone at power-off, and the draft does not know it. Keep it, and copy it back."
        />
      )}
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
        <Finding severity="good" sentence={`Measured, kept and in the draft: ${newest.author}, ${when(newest.at)}. ${proofText(newest)}.`} />
      )}
      {standing.state === 'stale' && (
        <Finding
          severity="warning"
          sentence={`Measured ${when(newest.at)}, but ${changedText(model, standing.changed)} changed in the drive since. Measure again.`}
        />
      )}
    </>
  );
}

function Progress({ kind, share, phase }: { kind: TuneKind; share: number; phase: string }) {
  return (
    <View backgroundColor="$hand" borderBottomWidth={1} borderColor="$rule2" padding={14} paddingLeft={measure.margin + 10} gap={8} role="status">
      <View flexDirection="row" justifyContent="space-between">
        <Strong>{phase === 'stopping' ? 'Finishing' : kind === 'rotating' ? 'Measuring, turning' : 'Measuring at standstill'}</Strong>
        <Mono fontFamily="$monoBold" fontSize={17} testID="tune-progress">
          {formatFigure(share, 0)} %
        </Mono>
      </View>
      <View height={14} borderWidth={1} borderColor="$ink" role="progressbar" aria-valuenow={Math.round(share)} aria-valuemin={0} aria-valuemax={100}>
        <View height={12} width={`${Math.max(1, share)}%`} backgroundColor="$plumFill" />
      </View>
      <Second>Stay on this page: leaving it, hiding it or losing the link stops the measurement.</Second>
    </View>
  );
}

/** One constant of the motor, as measured against the estimate. */
export function ResultRow({ row, inDraft }: { row: TuneRow; inDraft: boolean }) {
  const text = (x: number) => `${formatFigure(x, row.decimals)} ${row.unit}`;
  const off = row.measured !== null && row.estimate !== null ? row.measured / row.estimate - 1 : null;
  const estimate = row.estimate === null ? 'no estimate' : `estimate ${text(row.estimate)}`;
  return (
    <SheetRow
      label={row.name}
      second={
        off === null
          ? `${row.code} · not measured yet`
          : `${row.code} · ${estimate}, ${off >= 0 ? '+' : '−'}${formatFigure(Math.abs(off) * 100, 0)} %${inDraft ? '' : ' · not in the draft'}`
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
