import { useEffect, useState } from 'react';
import { tuneRows, type MachineModel } from '@yare/commissioning';
import { say } from '@yare/words/pages/tune';
import { useKeep, useReadDrive } from '../../data/drive';
import { live, useLiveValue, type TuneKind } from '../../data/live';
import { useAfterRun } from '../../machine/MayTurn';
import { useMayRun } from '../../data/mayRun';
import { useProve } from '../../data/proofs';
import { takeChanges } from '../../machine/takeChanges';
import type { Act } from '../../ui/bar';

export type Coupled = 'coupled' | 'free';

/** What is asked of the person before anything is measured. */
export interface Answers {
  coupled: Coupled | null;
  kind: TuneKind;
  /** nobody is where current or shaft could hurt */
  clear: boolean;
}

/** Figures of the plate that the drive has otherwise: it would measure against another motor. */
function notOfPlate(model: MachineModel): { count: number; inDraft: boolean } {
  const wrong = model.drafted.plate(model.plate).filter((p) => p.source === 'plate' && model.inDriveOf(p.code)?.value !== p.value);
  return { count: wrong.length, inDraft: wrong.every((p) => model.draftOf(p.code).value === p.exact) };
}

/** Why nothing can be measured yet; null when it can. */
function whyNot(blocked: string | null, { coupled, clear }: Answers, plateWrong: boolean): string | null {
  if (blocked) return blocked;
  if (coupled === null) return say.firstSayWhetherItIs;
  if (plateWrong) return say.firstWriteThePlateTo;
  return clear ? null : say.firstConfirmThatItMay;
}

/** Measuring the motor: how it stands, and what was measured on its way to drive and draft. */
export function useTuning(model: MachineModel) {
  const { tag } = model.machine;
  const { mine, turning, run, blocked } = useMayRun(tag);
  const [answers, setAnswers] = useState<Answers>({ coupled: null, kind: 'standstill', clear: false });
  useAfterRun(tag, () => setAnswers((a) => ({ ...a, clear: false })));
  const tune = run?.tune ?? null;
  const done = tune?.state === 'done' && run?.phase === 'ended';
  const busy = mine && tune !== null;
  const plate = notOfPlate(model);
  const result = useResult(model, done && run ? run.run : null, busy);
  useEffect(() => () => live.letGo(say.thePageWasLeft), []);
  return {
    run,
    tune,
    busy,
    turning: turning && mine,
    answers,
    answer: (change: Partial<Answers>) => setAnswers((a) => ({ ...a, clear: false, ...change })),
    plate,
    why: whyNot(blocked, answers, plate.count > 0),
    rotating: answers.kind === 'rotating' && answers.coupled === 'free',
    ...result,
  };
}
export type Tuning = ReturnType<typeof useTuning>;

/** What the drive has measured: read from it, kept, copied to the draft and proved in one act. */
function useResult(model: MachineModel, measuredRun: number | null, busy: boolean) {
  const { tag } = model.machine;
  const prove = useProve(model);
  const keep = useKeep(tag);
  const read = useReadDrive(tag);
  const [taken, setTaken] = useState<number | null>(null);
  const { mutate: readNow } = read;
  useEffect(() => {
    // what it measured stands in the drive: read it before anything is said of it
    if (measuredRun) readNow();
  }, [measuredRun, readNow]);
  const rows = tuneRows(model);
  const measured = rows.flatMap((r) => (r.measured === null ? [] : [{ ...r, measured: r.measured }]));
  const copy = measured.filter((r) => model.draftOf(r.code).value !== r.measured);
  const inMemory = useLiveValue(tag, (s) => s?.link === 'up' && s.unkept);
  const done = measuredRun !== null;
  const keepAndCopy = () =>
    keep.mutate(undefined, {
      onSuccess: ({ kept }) => {
        if (!kept) return;
        takeChanges(
          model,
          copy.map((r) => ({ code: r.code, value: r.measured, source: 'measured' })),
        );
        const constants = measured.map(({ role, measured: value, unit, decimals }) => ({ role, value, unit, decimals }));
        prove.mutate({ stage: 'tune', item: 'tune', outcome: 'passed', facts: { kind: 'tune', constants } });
        setTaken(measuredRun);
      },
    });
  return {
    rows,
    keep,
    /** measured, and not yet where it belongs */
    open: (done && taken !== measuredRun) || (!busy && copy.length > 0 && inMemory === true),
    // what it measured has to be read before it can be copied
    mayKeep: !keep.isPending && !read.isPending && (!done || read.isSuccess),
    keepAndCopy,
  };
}

/** The one act there is at this moment. */
export function tuneAct(t: Tuning, start: () => void): Act {
  if (t.open)
    return {
      text: t.keep.isPending ? say.keeping : say.keepItAndCopyIt,
      main: true,
      hotkey: 'k',
      disabled: !t.mayKeep,
      onPress: t.keepAndCopy,
      testID: 'keep-tune',
    };
  if (t.busy)
    return {
      text: say.stopMeasuring,
      main: true,
      atOnce: true,
      hotkey: 'escape',
      onPress: () => live.letGo(say.stoppedByHand),
      testID: 'stop-tune',
    };
  return { text: t.why ?? say.measureAtStandstill, main: true, disabled: t.why !== null, onPress: start, testID: 'start-tune' };
}
