import { useState } from 'react';
import type { MachineModel } from '@yare/commissioning';
import { linkChannel, linkChannels, runChannels, triggerText } from '@yare/commissioning/recording';
import type { Arming, RecorderStatus, RecorderTrigger } from '@yare/contract';
import { formatFigure } from '@yare/core';
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
  { value: 'now', label: 'At once', second: 'as soon as it is armed' },
  { value: 'trip', label: 'The drive trips', second: 'with what came before it' },
  { value: 'state', label: 'It changes state', second: 'starts, stops, falls asleep' },
  { value: 'level', label: 'A figure reaches a level', second: 'counts if it is there already' },
  { value: 'edge', label: 'A figure goes through a level', second: 'upwards, downwards or either way' },
];
const states = [
  { value: 'running', label: 'It runs' },
  { value: 'stopping', label: 'It begins to stop' },
  { value: 'ready', label: 'It is ready' },
  { value: 'asleep', label: 'It falls asleep' },
  { value: 'held', label: 'It is held' },
] as const;
const paces = [20, 50, 100, 500].map((value) => ({ value, label: `${value} ms` }));

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
    entry('before', 'Kept from before', arming.before, 's', [0, 600], (before) => set({ before })),
    entry('after', 'Recorded after', arming.after, 's', [1, 3600], (after) => set({ after })),
    ...('value' in trigger
      ? [
          entry('level', 'Level', trigger.value, linkChannel(trigger.channel)?.unit ?? '', [-1e6, 1e6], (value) =>
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
        label="Begins when"
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
            label="State"
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
            label="Figure"
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
          label="Side of the level"
          options={[
            { value: 'above', text: 'or more' },
            { value: 'below', text: 'or less' },
          ]}
          value={trigger.side}
          onChoose={(side) => choose({ ...trigger, side })}
        />
      )}
      {trigger.kind === 'edge' && (
        <Segments
          label="Way through the level"
          options={[
            { value: 'rising', text: 'upwards' },
            { value: 'falling', text: 'downwards' },
            { value: 'either', text: 'either way' },
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
      <SheetRow label="A sample every" text={`${every} ms`} inHand={open} onPress={() => setOpen(!open)} testID="recorder-every" />
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
    <Fold title="Figures recorded" right={`${chosen.length} of ${linkChannels.length}`} open={false} testID="recorder-channels">
      {linkChannels.map((c) => {
        const on = chosen.includes(c.key);
        const others = chosen.filter((k) => k !== c.key);
        return (
          <SheetRow
            key={c.key}
            label={c.name}
            second={c.unit}
            text={on ? 'recorded' : 'left out'}
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
            ? `Recording since ${when(triggeredAt)}, for ${formatFigure(arming.after, 0)} s.`
            : `Waits. Recording begins when ${triggerText(arming.trigger)}.`
        }
      />
      <SheetRow
        label="History it holds"
        second={`of ${formatFigure(arming.before, 0)} s`}
        figure={formatFigure(Math.min(held, arming.before), 0)}
        unit="s"
        testID="recorder-held"
      />
      <SheetRow
        label="A sample every"
        second={`asked for every ${arming.every} ms`}
        figure={pace === null ? '–' : formatFigure(pace, 0)}
        unit="ms"
        testID="recorder-pace"
      />
      {slow && <Note>The link does not answer faster. What comes is recorded with its own time.</Note>}
      <Note>{`Armed by ${armed.author}, ${when(armed.at)}${arming.again ? `; made ${made} so far and arms itself again` : ''}. It stays armed when this page is left.`}</Note>
      <ActRow
        text={end.isPending ? 'Ending…' : triggeredAt ? 'Stop and keep what there is' : 'Disarm'}
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
  if (!status) return error ? <Finding severity="warning" sentence={error.message} /> : <Note>Asking for the recorder…</Note>;
  const { armed, ended, lastId } = status;
  return (
    <>
      {ended && <Finding severity="warning" sentence={`The recorder is no longer armed. ${ended}`} />}
      <Fold
        key={armed ? 'armed' : 'not'}
        title="Recorder"
        right={armed ? (armed.triggeredAt ? 'recording' : 'armed') : 'not armed'}
        open={armed !== null}
        testID="recorder"
      >
        {armed ? (
          <ArmedRows tag={tag} armed={armed} />
        ) : (
          <>
            <TriggerRows trigger={arming.trigger} level={level} onSet={(trigger) => set({ trigger })} />
            {before && arming.trigger.kind !== 'now' && <EntryRow entry={before} second="what led up to it" testID="recorder-before" />}
            {after && <EntryRow entry={after} testID="recorder-after" />}
            <PaceRow every={arming.every} onSet={(every) => set({ every })} />
            <SheetRow
              label="Afterwards"
              text={arming.again ? 'armed again' : 'done'}
              second={arming.again ? 'up to 50 recordings' : 'one recording'}
              onPress={() => set({ again: !arming.again })}
              testID="recorder-again"
            />
            <ChannelRows chosen={arming.channels} onSet={(channels) => set({ channels })} />
            <ActRow
              text={arm.isPending ? 'Arming…' : arming.trigger.kind === 'now' ? 'Record now' : 'Arm the recorder'}
              second="it only reads; nothing moves"
              onPress={() => arm.mutate(arming.trigger.kind === 'now' ? { ...arming, before: 0 } : arming)}
              disabled={arm.isPending}
              testID="recorder-arm"
            />
            <Refusal of={arm.error} />
          </>
        )}
        {lastId !== null && (
          <SheetRow
            label={armed?.triggeredAt ? 'It is being made' : 'Its last recording'}
            text={`No ${lastId}`}
            onPress={() => go(`/m/${tag}/recordings/${lastId}`)}
            testID="recorder-last"
          />
        )}
      </Fold>
    </>
  );
}
