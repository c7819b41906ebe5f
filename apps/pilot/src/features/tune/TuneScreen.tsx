import { machineScreen } from '../../machine/machineScreen';
import { takeChanges } from '../../machine/takeChanges';
import { type MachineModel, changedWords, tuneRows, type TuneRow } from '@yare/commissioning';
import { View } from '@tamagui/core';
import { useEffect, useState } from 'react';

import { formatFigure } from '@yare/core';
import { useKeep, useReadDrive } from '../../data/drive';
import { live, useLiveValue, type TuneKind } from '../../data/live';
import { useMayRun } from '../../data/mayRun';
import { useProofs, useProve } from '../../data/proofs';
import type { Act } from '../../ui/bar';
import { HoldButton } from '../../machine/HoldButton';
import { measure } from '../../ui/palette';
import { MachineFrame } from '../../machine/MachineFrame';
import { MayTurn } from '../../machine/MayTurn';
import { Segments } from '../../ui/Segments';
import { Finding, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { Mono, Second, Strong } from '../../ui/text';
import { shownSeconds, TrendChart } from '../../machine/TrendChart';
import { useWide } from '../../ui/theme';
import { when } from '../../ui/when';
import { go } from '../../ui/go';

/** A family that cannot measure: the estimate stays, and a recorded run teaches what can be learned. */
function NoTune({ model }: { model: MachineModel }) {
  const { tag } = model.machine;
  return (
    <MachineFrame
      model={model}
      stage="tune"
      title="Tune"
      acts={[{ words: 'Go to Turn it', main: true, hotkey: 'g', onPress: () => go(`/m/${tag}/turn`) }]}
    >
      <Finding
        severity="warning"
        sentence={`${model.drafted.book.family} cannot measure its motor. The figures stay an estimate from the plate.`}
        act="Learn from a recorded run instead"
        onAct={() => go(`/m/${tag}/recordings`)}
      />
      <Note>Hold to run at full speed and let go; the recording of it teaches inertia, friction and the motor’s own constants.</Note>
    </MachineFrame>
  );
}

type Coupled = 'coupled' | 'free';

function TuneSheet({ model }: { model: MachineModel }) {
  const { tag, name } = model.machine;
  const wide = useWide();
  const { mine, turning, run, blocked } = useMayRun(tag);
  const proofOf = useProofs(model);
  const prove = useProve(model);
  const keep = useKeep(tag);
  const read = useReadDrive(tag);
  const [coupled, setCoupled] = useState<Coupled | null>(null);
  const [kind, setKind] = useState<TuneKind>('standstill');
  const [clear, setClear] = useState(false);
  const [taken, setTaken] = useState<number | null>(null);
  const { newest, standing } = proofOf('tune', 'tune');
  const rows = tuneRows(model);
  const tune = run?.tune ?? null;
  const busy = mine && tune !== null;
  const done = tune !== null && tune.state === 'done' && run?.phase === 'ended';
  const measuredRun = done ? run.run : null;
  const { mutate: readNow } = read;
  useEffect(() => {
    // what it measured stands in the drive: read it before anything is said of it
    if (measuredRun) readNow();
  }, [measuredRun, readNow]);
  useEffect(() => () => live.letGo('the page was left'), []);
  const plateWrong = model.drafted.plate(model.plate).filter((p) => p.source === 'plate' && model.inDriveOf(p.code)?.value !== p.value);
  const inDraft = plateWrong.every((p) => model.draftOf(p.code).value === p.exact);
  const why =
    blocked ??
    (coupled === null
      ? 'First say whether it is coupled'
      : plateWrong.length > 0
        ? 'First write the plate to the drive'
        : !clear
          ? 'First confirm that it may be measured'
          : null);
  const start = () => live.hold(tag, 0, kind);
  const copy = rows.filter((r) => r.measured !== null && model.draftOf(r.code).value !== r.measured);
  const keepAndCopy = () =>
    keep.mutate(undefined, {
      onSuccess: ({ kept }) => {
        if (!kept) return;
        takeChanges(
          model,
          copy.flatMap((r) => (r.measured === null ? [] : [{ code: r.code, value: r.measured, source: 'measured' as const }])),
        );
        prove.mutate({
          stage: 'tune',
          item: 'tune',
          outcome: 'passed',
          expected: 'measured by the drive, kept, in the draft',
          measured: rows
            .filter((r) => r.measured !== null)
            .map((r) => `${r.name} ${formatFigure(r.measured!, r.decimals)} ${r.unit}`)
            .join(', '),
        });
        setTaken(measuredRun);
      },
    });
  const standsInMemory = useLiveValue(tag, (s) => s?.link === 'up' && s.unkept);
  const open = (done && taken !== measuredRun) || (!busy && copy.length > 0 && standsInMemory);
  const acts: Act[] = open
    ? [
        {
          words: keep.isPending ? 'Keeping…' : 'Keep it and copy it to the draft',
          main: true,
          hotkey: 'k',
          // what it measured has to be read before it can be copied
          disabled: keep.isPending || read.isPending || (done && !read.isSuccess),
          onPress: keepAndCopy,
          testID: 'keep-tune',
        },
      ]
    : busy
      ? [{ words: 'Stop measuring', main: true, atOnce: true, hotkey: 'escape', onPress: () => live.letGo('stopped by hand'), testID: 'stop-tune' }]
      : [
          {
            words: why ?? 'Measure at standstill',
            main: true,
            disabled: why !== null,
            onPress: start,
            testID: 'start-tune',
          },
        ];
  const rotating = kind === 'rotating' && coupled === 'free';
  return (
    <MachineFrame
      model={model}
      stage="tune"
      title="Tune"
      acts={acts}
      foot={rotating && !open ? <HoldButton tag={tag} frequency={0} tune="rotating" blocked={why} turning={turning && mine} /> : undefined}
      evidenceTitle="Live"
      evidenceNote={`last ${shownSeconds} s`}
      evidence={<TrendChart tag={tag} model={model} />}
    >
      {keep.error && <Finding severity="error" sentence={keep.error.message} />}
      {keep.data?.kept === false && (
        <Finding severity="error" sentence="The drive did not keep it: what it measured is gone at power-off. Try again." />
      )}
      {run?.phase === 'refused' && <Finding severity="error" sentence={run.sentence ?? 'Refused.'} />}
      {busy && <Progress kind={tune.kind} share={tune.progress} phase={run!.phase} />}
      {tune && !busy && tune.state !== 'done' && run?.phase === 'ended' && (
        <Finding
          severity="error"
          sentence={
            tune.state === 'failed'
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
      {!open && standing.state === 'passed' && !busy && (
        <Finding severity="good" sentence={`Measured, kept and in the draft: ${newest!.author}, ${when(newest!.at)}. ${newest!.measured}.`} />
      )}
      {standing.state === 'stale' && (
        <Finding
          severity="warning"
          sentence={`Measured ${when(newest!.at)}, but ${changedWords(model, standing.changed)} changed in the drive since. Measure again.`}
        />
      )}
      <SectionHead>First of all</SectionHead>
      <Segments
        label="Is something coupled to the motor?"
        options={[
          { value: 'coupled', words: 'Coupled', second: 'the machine hangs on it', testID: 'coupled' },
          { value: 'free', words: 'Free', second: 'coupling or belt is off', testID: 'free' },
        ]}
        value={coupled}
        disabled={busy}
        onChoose={(v) => {
          setCoupled(v);
          setClear(false);
          if (v === 'coupled') setKind('standstill');
        }}
      />
      {coupled === null && (
        <Note>
          A motor that turns to be measured must be free, or the load is measured with it and may be thrown about. Nothing is offered until this is
          said.
        </Note>
      )}
      {coupled !== null && (
        <Segments
          label="How to measure"
          options={[
            { value: 'standstill', words: 'At standstill', second: 'some seconds', testID: 'tune-standstill' },
            {
              value: 'rotating',
              words: 'Turning',
              second: coupled === 'free' ? 'longer, with ramps' : 'only when free',
              disabled: coupled !== 'free',
              testID: 'tune-rotating',
            },
          ]}
          value={kind}
          disabled={busy}
          onChoose={(v) => {
            setKind(v);
            setClear(false);
          }}
        />
      )}
      {coupled === 'coupled' && (
        <Note>Coupled: only at standstill. It measures resistances and leakage; the no-load current stays an estimate. The shaft may twitch.</Note>
      )}
      {rotating && (
        <Finding
          severity="warning"
          sentence={`The motor turns by itself up to 80 % of rated speed. Hold the button for the whole time: letting go stops it and changes nothing.`}
        />
      )}
      {plateWrong.length > 0 && (
        <Finding
          severity="warning"
          sentence={`${plateWrong.length} ${plateWrong.length === 1 ? 'figure of the plate is' : 'figures of the plate are'} not in the drive: it would measure against another motor.`}
          act={inDraft ? 'Go to Write' : 'Go to Plate and copy them'}
          onAct={() => go(`/m/${tag}/${inDraft ? 'write' : 'plate'}`)}
        />
      )}
      {coupled !== null && (
        <MayTurn
          words={rotating ? 'The motor is free, nobody at the shaft, it may turn' : 'Nobody at shaft or terminals, current may flow'}
          sentence={
            rotating ? `The motor of ${tag} ${name} will turn.` : `Current flows through the motor of ${tag} ${name}; the shaft stands, or twitches.`
          }
          clear={clear}
          onClear={setClear}
        />
      )}
      <SectionHead right="estimate against measured">The motor</SectionHead>
      {rows.map((r) => (
        <ResultRow key={r.code} row={r} inDraft={model.draftOf(r.code).value === r.measured} />
      ))}
      {!wide && (
        <>
          <SectionHead right={`last ${shownSeconds} s`}>Live</SectionHead>
          <TrendChart tag={tag} model={model} />
        </>
      )}
    </MachineFrame>
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

function ResultRow({ row, inDraft }: { row: TuneRow; inDraft: boolean }) {
  const words = (x: number) => `${formatFigure(x, row.decimals)} ${row.unit}`;
  const off = row.measured !== null && row.estimate !== null ? row.measured / row.estimate - 1 : null;
  const estimate = row.estimate === null ? 'no estimate' : `estimate ${words(row.estimate)}`;
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

/** The drive measures its motor: coupled or free asked first, progress, results against the estimate, kept and copied back. */
export const TuneScreen = machineScreen(function MayTune({ model }: { model: MachineModel }) {
  return model.drafted.book.words.tune ? <TuneSheet model={model} /> : <NoTune model={model} />;
});
