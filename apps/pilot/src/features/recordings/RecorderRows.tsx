import { useState } from 'react';
import type { MachineModel } from '@yare/commissioning';
import { linkChannel, linkChannels, runChannels, triggerText } from '@yare/commissioning/recording';
import type { Arming, RecorderStatus, RecorderTrigger } from '@yare/contract';
import { formatFigure } from '@yare/core';
import { say } from '@yare/words/pages/recordings';
import { useArm, useArmings, useEndRecorder, useRecorder } from '../../data/recorder';
import { Refusal } from '../../ui/Answer';
import { Choices } from '../../ui/entry';
import { EntryRow } from '../../ui/EntryRow';
import type { Entry } from '../../ui/entryStore';
import { go } from '../../ui/go';
import { Segments } from '../../ui/Segments';
import { ActRow, Finding, Fold, Note, SheetRow } from '../../ui/sheet';
import { when } from '../../ui/when';

const usual: Arming = {
  ...{ trigger: { kind: 'trip' }, channels: runChannels.map((c) => c.key), before: 20, after: 10, every: 20, again: false },
};

const kinds: ReadonlyArray<{ value: RecorderTrigger['kind']; label: string; second: string }> = [
  { value: 'now', label: say.atOnce, second: say.asSoonAsItIs },
  { value: 'trip', label: say.theDriveTrips, second: say.withWhatCameBeforeIt },
  { value: 'state', label: say.itChangesState, second: say.startsStopsFallsAsleep },
  { value: 'level', label: say.aFigureReachesALevel, second: say.countsIfItIsThere },
  { value: 'edge', label: say.aFigureGoesThroughA, second: say.upwardsDownwardsOrEitherWay },
];
const states = [
  { value: 'running', label: say.itRuns },
  { value: 'stopping', label: say.itBeginsToStop },
  { value: 'ready', label: say.itIsReady },
  { value: 'asleep', label: say.itFallsAsleep },
  { value: 'held', label: say.itIsHeld },
] as const;
const paces = [20, 50, 100, 500].map((value) => ({ value, label: say.ms({ value }) }));

/** A level to begin with, by the unit of a figure. */
const usualLevel: Readonly<Record<string, number>> = { Hz: 25, A: 10, V: 700, '%': 50, kW: 5, rpm: 700, '°C': 60 };
const levelFor = (channel: string): number => usualLevel[linkChannel(channel)?.unit ?? ''] ?? 0;

/** A trigger of another kind, with the level that was set as far as it has one. */
function changedTo(kind: RecorderTrigger['kind'], now: RecorderTrigger): RecorderTrigger {
  const channel = 'channel' in now ? now.channel : 'busVoltage';
  const value = 'value' in now ? now.value : levelFor(channel);
  switch (kind) {
    case 'level':
      return { kind, channel, side: 'above', value };
    case 'edge':
      return { kind, channel, way: 'rising', value };
    case 'state':
      return { kind, state: 'running' };
    default:
      return { kind };
  }
}

/** How the recorder of a machine is to be armed, with its figures that can be typed. */
export function useArming(tag: string): { arming: Arming; set: (change: Partial<Arming>) => void; entries: Entry[] } {
  const arming = useArmings((s) => s[tag]) ?? usual;
  const set = (change: Partial<Arming>) => useArmings.setState({ [tag]: { ...arming, ...change } });
  const { trigger } = arming;
  const entry = (id: string, label: string, value: number, unit: string, most: [number, number], onSet: (v: number) => void): Entry => ({
    ...{ id: `${tag} recorder ${id}`, label, value, unit, decimals: 1, min: most[0], max: most[1] },
    onSet: (v) => v !== null && onSet(v),
  });
  const entries = [
    entry('before', say.keptFromBefore, arming.before, 's', [0, 600], (before) => set({ before })),
    entry('after', say.recordedAfter, arming.after, 's', [1, 3600], (after) => set({ after })),
    ...('value' in trigger
      ? [
          entry('level', say.level, trigger.value, linkChannel(trigger.channel)?.unit ?? '', [-1e6, 1e6], (value) =>
            set({ trigger: { ...trigger, value } }),
          ),
        ]
      : []),
  ];
  return { arming, set, entries };
}

function TriggerRows({ trigger, level, onSet }: { trigger: RecorderTrigger; level: Entry | undefined; onSet: (t: RecorderTrigger) => void }) {
  const [open, setOpen] = useState<'kind' | 'channel' | 'state' | null>(null);
  const choose = (t: RecorderTrigger) => {
    setOpen(null);
    onSet(t);
  };
  const shut = (x: typeof open) => setOpen(open === x ? null : x);
  return (
    <>
      <SheetRow
        label={say.beginsWhen}
        text={kinds.find((k) => k.value === trigger.kind)?.label ?? ''}
        inHand={open === 'kind'}
        onPress={() => shut('kind')}
        testID="trigger-kind"
      />
      {open === 'kind' && (
        <Choices options={kinds} value={trigger.kind} onChoose={(kind) => choose(changedTo(kind as RecorderTrigger['kind'], trigger))} />
      )}
      {trigger.kind === 'state' && (
        <>
          <SheetRow
            label={say.state}
            text={states.find((s) => s.value === trigger.state)?.label ?? ''}
            inHand={open === 'state'}
            onPress={() => shut('state')}
          />
          {open === 'state' && (
            <Choices
              options={states}
              value={trigger.state}
              onChoose={(state) => choose({ kind: 'state', state: state as (typeof states)[number]['value'] })}
            />
          )}
        </>
      )}
      {'channel' in trigger && (
        <>
          <SheetRow
            label={say.figure}
            text={linkChannel(trigger.channel)?.name ?? trigger.channel}
            inHand={open === 'channel'}
            onPress={() => shut('channel')}
            testID="trigger-channel"
          />
          {open === 'channel' && (
            <Choices
              options={linkChannels.map((c) => ({ value: c.key, label: `${c.name}, ${c.unit}` }))}
              value={trigger.channel}
              onChoose={(channel) => choose({ ...trigger, channel: String(channel), value: levelFor(String(channel)) })}
            />
          )}
        </>
      )}
      {trigger.kind === 'level' && (
        <Segments
          label={say.sideOfTheLevel}
          options={[
            { value: 'above', text: say.orMore },
            { value: 'below', text: say.orLess },
          ]}
          value={trigger.side}
          onChoose={(side) => choose({ ...trigger, side })}
        />
      )}
      {trigger.kind === 'edge' && (
        <Segments
          label={say.wayThroughTheLevel}
          options={[
            { value: 'rising', text: say.upwards },
            { value: 'falling', text: say.downwards },
            { value: 'either', text: say.eitherWay },
          ]}
          value={trigger.way}
          onChoose={(way) => choose({ ...trigger, way })}
        />
      )}
      {level && <EntryRow entry={level} testID="trigger-level" />}
    </>
  );
}

function PaceRow({ every, onSet }: { every: number; onSet: (every: number) => void }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <SheetRow label={say.aSampleEvery} text={say.ms2({ every })} inHand={open} onPress={() => setOpen(!open)} testID="recorder-every" />
      {open && (
        <Choices
          options={paces}
          value={every}
          onChoose={(chosen) => {
            setOpen(false);
            onSet(Number(chosen));
          }}
        />
      )}
    </>
  );
}

/** Which figures are recorded: at least one. */
function ChannelRows({ chosen, onSet }: { chosen: readonly string[]; onSet: (keys: string[]) => void }) {
  return (
    <Fold
      title={say.figuresRecorded}
      right={say.ofText({ chosen: chosen.length, linkChannels: linkChannels.length })}
      open={false}
      testID="recorder-channels"
    >
      {linkChannels.map((c) => {
        const on = chosen.includes(c.key);
        const others = chosen.filter((k) => k !== c.key);
        return (
          <SheetRow
            key={c.key}
            label={c.name}
            second={c.unit}
            text={on ? say.recorded : say.leftOut}
            onPress={() =>
              onSet(on ? (others.length > 0 ? others : [...chosen]) : linkChannels.map((x) => x.key).filter((k) => k === c.key || chosen.includes(k)))
            }
            testID={`record-${c.key}`}
          />
        );
      })}
    </Fold>
  );
}

/** A recorder that is armed: what it waits for, what it holds, how fast its samples come. */
function ArmedRows({ tag, armed }: { tag: string; armed: NonNullable<RecorderStatus['armed']> }) {
  const end = useEndRecorder(tag);
  const { arming, pace, held, made, triggeredAt } = armed;
  const slow = pace !== null && pace > 1.6 * arming.every;
  return (
    <>
      <Finding
        severity="act"
        sentence={
          triggeredAt
            ? say.recordingSinceForS({ when: when(triggeredAt), after: arming.after })
            : say.waitsRecordingBeginsWhen({ triggerText: triggerText(arming.trigger) })
        }
      />
      <SheetRow
        label={say.historyItHolds}
        second={say.ofS({ before: arming.before })}
        figure={formatFigure(Math.min(held, arming.before), 0)}
        unit="s"
        testID="recorder-held"
      />
      <SheetRow
        label={say.aSampleEvery}
        second={say.askedForEveryMs({ every: arming.every })}
        figure={pace === null ? '–' : formatFigure(pace, 0)}
        unit="ms"
        testID="recorder-pace"
      />
      {slow && <Note>{say.theLinkDoesNotAnswer}</Note>}
      <Note>{say.armedByItStaysArmed({ author: armed.author, when: when(armed.at), again: arming.again, made })}</Note>
      <ActRow
        text={end.isPending ? say.ending : triggeredAt ? say.stopAndKeepWhatThere : say.disarm}
        onPress={() => end.mutate()}
        disabled={end.isPending}
        testID="recorder-end"
      />
      <Refusal of={end.error} />
    </>
  );
}

/** The recorder of a machine: how it stands, or how it is armed. It acts on nothing; it asks the drive more often. */
export function RecorderRows({ model, form }: { model: MachineModel; form: ReturnType<typeof useArming> }) {
  const { tag } = model.machine;
  const { data: status, error } = useRecorder(tag);
  const arm = useArm(tag);
  const { arming, set, entries } = form;
  const [before, after, level] = entries;
  if (!status) return error ? <Finding severity="warning" sentence={error.message} /> : <Note>{say.askingForTheRecorder}</Note>;
  const { armed, ended, lastId } = status;
  return (
    <>
      {ended && <Finding severity="warning" sentence={say.theRecorderIsNoLonger({ ended })} />}
      <Fold
        key={armed ? 'armed' : 'not'}
        title={say.recorder}
        right={armed ? (armed.triggeredAt ? 'recording' : 'armed') : say.notArmed}
        open={armed !== null}
        testID="recorder"
      >
        {armed ? (
          <ArmedRows tag={tag} armed={armed} />
        ) : (
          <>
            <TriggerRows trigger={arming.trigger} level={level} onSet={(trigger) => set({ trigger })} />
            {before && arming.trigger.kind !== 'now' && <EntryRow entry={before} second={say.whatLedUpToIt} testID="recorder-before" />}
            {after && <EntryRow entry={after} testID="recorder-after" />}
            <PaceRow every={arming.every} onSet={(every) => set({ every })} />
            <SheetRow
              label={say.afterwards}
              text={arming.again ? say.armedAgain : 'done'}
              second={arming.again ? say.upToRecordings : say.oneRecording}
              onPress={() => set({ again: !arming.again })}
              testID="recorder-again"
            />
            <ChannelRows chosen={arming.channels} onSet={(channels) => set({ channels })} />
            <ActRow
              text={arm.isPending ? say.arming : arming.trigger.kind === 'now' ? say.recordNow : say.armTheRecorder}
              second={say.itOnlyReadsNothingMoves}
              onPress={() => arm.mutate(arming.trigger.kind === 'now' ? { ...arming, before: 0 } : arming)}
              disabled={arm.isPending}
              testID="recorder-arm"
            />
            <Refusal of={arm.error} />
          </>
        )}
        {lastId !== null && (
          <SheetRow
            label={armed?.triggeredAt ? say.itIsBeingMade : say.itsLastRecording}
            text={say.no2({ lastId })}
            onPress={() => go(`/m/${tag}/recordings/${lastId}`)}
            testID="recorder-last"
          />
        )}
      </Fold>
    </>
  );
}
