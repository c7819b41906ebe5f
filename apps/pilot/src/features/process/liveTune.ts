import { useEffect, useState } from 'react';
import { decode, type MachineModel } from '@yare/commissioning';
import { textOf, type Setting } from '@yare/books';
import type { SettingRole } from '@yare/core';
import { say } from '@yare/words/pages/process';
import { editDraft, useEdits, useMachineEdits } from '../../data/edits';
import { useLive } from '../../data/live';
import { keepGood, markChange, useGood, type GoodValues } from '../../data/liveTuning';
import { useWrite } from '../../data/write';
import type { Act } from '../../ui/bar';

/** What is changed while a loop runs. */
export const tunedRoles: readonly SettingRole[] = ['proportionalGain', 'integralTime', 'derivativeTime'];

/** Steps a value is moved by, to either side. */
export const moves = { proportionalGain: 1.25, integralTime: 1.5 } as const;

export interface LiveTuneState {
  open: boolean;
  setOpen: (open: boolean) => void;
  /** the loop has the speed, by the drive's own word */
  running: boolean;
  settings: Setting[];
  good: GoodValues | null;
  /** values of the draft that are not in the drive yet */
  unwritten: Setting[];
  busy: boolean;
  error: Error | null;
  /** what the drive made of the last write, where it did not take it */
  trouble: string | null;
  /** takes what is in the drive now for good */
  remember: (() => void) | null;
  /** moves a value of the draft by a factor */
  move: (role: keyof typeof moves, times: number) => void;
  acts: Act[];
}

/** What a write of some settings changes, as a person reads it. */
const changesText = (model: MachineModel, codes: readonly string[]): string =>
  model.drafted.all
    .filter((s) => codes.includes(s.code))
    .map((s) => `${s.name.toLowerCase()} ${textOf(s, model.inDriveOf(s.code)?.value ?? NaN)} → ${textOf(s, model.draftOf(s.code).value)}`)
    .join(', ');

/**
 * Writes settings as soon as the server has their draft. A draft that does not get through ends it: nothing is written later, when nobody stands there
 * any more.
 */
function useWriteSoon(model: MachineModel) {
  const { tag } = model.machine;
  const write = useWrite(tag);
  const { draft } = useMachineEdits(tag);
  const offline = useEdits((e) => e.offline);
  const [waiting, setWaiting] = useState<string[] | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const unsent = Object.keys(draft.changes).length > 0;
  const stuck = offline || draft.conflict !== null || draft.refused !== null;
  const { revision } = model.draft;
  useEffect(() => {
    if (!waiting || write.isPending) return;
    if (stuck) {
      setWaiting(null);
      setTrouble(say.theDraftDidNotGet);
    }
    if (stuck || unsent) return;
    setWaiting(null);
    const codes = waiting.filter((code) => model.inDriveOf(code)?.value !== model.draftOf(code).value);
    if (codes.length === 0) return;
    const label = changesText(model, codes);
    setTrouble(null);
    write.mutate(
      { revision, codes },
      {
        onSuccess: ({ outcome, sentence }) => {
          if (outcome === 'kept') markChange(tag, { time: Date.now() / 1000, label });
          else setTrouble(sentence);
        },
      },
    );
  }, [waiting, unsent, stuck, write, revision, model, tag]);
  return { start: setWaiting, busy: waiting !== null || write.isPending, error: write.error, trouble };
}

/** Controller values changed while the loop runs: written at once, and taken back by one touch. */
export function useLiveTune(model: MachineModel): LiveTuneState {
  const { tag } = model.machine;
  const [open, setOpen] = useState(false);
  const live = useLive([tag])(tag);
  const writing = useWriteSoon(model);
  const good = useGood(tag);
  const settings = model.drafted.having(tunedRoles);
  const told = live?.link === 'up' && model.held ? decode(model.held, live).told : null;
  const running = live?.link === 'up' && live.state === 'running' && told?.speed === 'process';
  const inDrive = Object.fromEntries(settings.flatMap((s) => (model.held ? [[s.code, model.held.value(s)]] : [])));
  const known = Object.keys(inDrive).length > 0;
  const unwritten = settings.filter((s) => model.differing.includes(s));
  const changedSince =
    good !== null && settings.some((s) => good.values[s.code] !== undefined && good.values[s.code] !== model.draftOf(s.code).value);
  const takeBack = () => {
    if (!good) return;
    const codes = settings.map((s) => s.code).filter((code) => good.values[code] !== undefined);
    const before = Object.fromEntries(codes.map((code) => [code, model.draftOf(code)]));
    editDraft(tag, Object.fromEntries(codes.map((code) => [code, { value: good.values[code] ?? 0, source: 'chosen' as const }])), before);
    writing.start(codes);
  };
  const show = (to: boolean) => {
    // what it runs with when one begins is what one comes back to
    if (to && known && good === null) keepGood(tag, inDrive);
    setOpen(to);
  };
  const text = valuesText(unwritten, Object.fromEntries(unwritten.map((s) => [s.code, model.draftOf(s.code).value])));
  const back: Act = { text: say.backToLastGood, hotkey: 'b', disabled: !changedSince || writing.busy, onPress: takeBack, testID: 'back-to-good' };
  const write: Act = {
    text: writing.busy ? say.writing : unwritten.length > 0 ? say.holdToWrite({ text }) : say.nothingToWrite,
    main: true,
    held: true,
    disabled: writing.busy || unwritten.length === 0,
    onPress: () => writing.start(unwritten.map((s) => s.code)),
    testID: 'write-now',
  };
  return {
    ...{ open, setOpen: show, running, settings, good, unwritten, busy: writing.busy, error: writing.error, trouble: writing.trouble },
    remember: known && unwritten.length === 0 ? () => keepGood(tag, inDrive) : null,
    move: (role, times) => {
      const now = model.drafted.role(role);
      const [change] = now === null ? [] : model.drafted.change(role, now * times, 'chosen');
      if (change) editDraft(tag, { [change.code]: { value: change.value, source: 'chosen' } }, { [change.code]: model.draftOf(change.code) });
    },
    acts: open ? [back, write] : [],
  };
}

/** Values by code as a person reads them. */
export const valuesText = (settings: readonly Setting[], values: Record<string, number>): string =>
  settings
    .flatMap((s) => {
      const v = values[s.code];
      return v === undefined ? [] : [`${s.name.toLowerCase()} ${textOf(s, v)}${s.unit && ` ${s.unit}`}`];
    })
    .join(', ');
