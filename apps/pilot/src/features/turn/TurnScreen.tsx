import { View } from '@tamagui/core';
import { router, useLocalSearchParams } from 'expo-router';
import { useMemo, useState } from 'react';
import { Pressable } from 'react-native';
import { driveParameters, settingFor } from '@yare/books';
import { clampReference, formatFigure } from '@yare/core';
import { useConnected, useLive, useRun } from '../../data/live';
import { useMachineModel, type MachineModel } from '../../data/machineModel';
import { openEntry, useEntryStore, type Entry } from '../../ui/entry';
import { MachineFrame } from '../../ui/MachineFrame';
import { Finding, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { ProofShape } from '../../ui/shapes';
import { Second, Strong } from '../../ui/text';
import { useWide } from '../../ui/theme';
import { shownSeconds, TrendChart } from '../../ui/TrendChart';
import { WithModel } from '../../ui/Waiting';
import { HoldButton } from './HoldButton';

/** Hold to run at a chosen frequency, watched live and recorded. */
export function TurnScreen() {
  const { tag } = useLocalSearchParams<{ tag: string }>();
  return <WithModel state={useMachineModel(tag)}>{(model) => <TurnSheet key={tag} model={model} />}</WithModel>;
}

function TurnSheet({ model }: { model: MachineModel }) {
  const { tag, name, size } = model.machine;
  const wide = useWide();
  const live = useLive([tag])(tag);
  const connected = useConnected();
  const run = useRun(tag);
  const [frequency, setFrequency] = useState(10);
  const [clear, setClear] = useState(false);
  const drive = useMemo(() => {
    if (!model.inDrive) return null;
    return driveParameters(model.book, size, Object.fromEntries(model.settings.map((s) => [s.code, model.inDriveOf(s.code)?.value ?? s.factory50])));
  }, [model, size]);
  const reached = drive ? clampReference(drive, frequency) : frequency;
  const entry: Entry = {
    id: `${tag} turn frequency`,
    label: 'Frequency to run at',
    value: frequency,
    unit: 'Hz',
    decimals: 1,
    min: -100,
    max: 100,
    onSet: (v) => setFrequency(v ?? 0),
  };
  const inHand = useEntryStore((s) => s.id === entry.id);
  const turning = live?.state === 'running' || live?.state === 'stopping';
  const mine = run !== undefined && run.mine && ['asking', 'taken', 'running', 'stopping'].includes(run.phase);
  const blocked = !connected
    ? 'No server: nothing can be started'
    : !live || live.link === 'down'
      ? 'No link to the drive'
      : live.state === 'tripped'
        ? `Tripped: ${live.trip?.name ?? 'no code'}`
        : live.state === 'held'
          ? 'Held: a permissive is missing'
          : turning && !mine
            ? `Turning already: ${live.command}`
            : reached === 0
              ? 'It would not turn: see the frequency'
              : !clear
                ? 'First confirm that it may turn'
                : null;

  return (
    <MachineFrame
      model={model}
      stage="turn"
      title="Turn it"
      entry={inHand ? entry : null}
      acts={[]}
      foot={<HoldButton tag={tag} frequency={reached} blocked={blocked} turning={turning && mine} />}
      evidenceTitle="Live"
      evidenceNote={`last ${shownSeconds} s`}
      evidence={<TrendChart tag={tag} model={model} />}
    >
      {run?.phase === 'refused' && <Finding severity="error" sentence={run.sentence ?? 'Refused.'} />}
      {run && (run.phase === 'stopping' || run.phase === 'ended') && run.sentence && run.sentence !== 'let go' && run.mine && (
        <Finding severity="warning" sentence={`It was stopped: ${run.sentence}.`} />
      )}
      {run?.phase === 'ended' && run.recordingId !== null && (
        <Finding
          severity="good"
          sentence={`The run is kept as recording ${run.recordingId}.`}
          act="Open the recording"
          onAct={() => router.navigate(`/m/${tag}/recordings/${run.recordingId}` as '/')}
        />
      )}
      <SectionHead>Before it turns</SectionHead>
      <SheetRow
        label="Frequency"
        second={
          drive
            ? `drive allows ${formatFigure(drive.minimumFrequency, 1)} to ${formatFigure(drive.maximumFrequency, 1)} Hz${drive.reversePermit ? ', minus is reverse' : ', forward only'}`
            : 'the drive was not read yet'
        }
        figure={formatFigure(frequency, 1)}
        unit="Hz"
        mark="C"
        inHand={inHand}
        onPress={() => openEntry(entry)}
        testID="turn-frequency"
      />
      {drive && reached !== frequency && (
        <Finding
          severity="warning"
          sentence={
            reached === 0
              ? frequency === 0
                ? 'At 0 Hz nothing turns. Choose a frequency.'
                : `Reverse is forbidden in the drive: at ${formatFigure(frequency, 1)} Hz it stands still.`
              : `The drive will run at ${formatFigure(reached, 1)} Hz: its ${Math.abs(reached) > Math.abs(frequency) ? 'minimum' : 'maximum'} frequency.`
          }
        />
      )}
      <Pressable role="checkbox" aria-checked={clear} onPress={() => setClear(!clear)} testID="clear">
        <View flexDirection="row" minHeight={64} borderBottomWidth={1} borderColor="$rule" backgroundColor={clear ? '$greenGround' : '$blueGround'}>
          <View width={42} alignItems="center" justifyContent="center" borderRightWidth={1} borderColor="$plum">
            <ProofShape proof={clear ? 'proved' : 'act'} />
          </View>
          <View flex={1} justifyContent="center" paddingHorizontal={10} paddingVertical={8}>
            <Strong>{clear ? 'May turn' : 'Nobody is at the shaft and it may turn'}</Strong>
            <Second color="$ink">
              {tag} {name} will turn while you hold. Touch to {clear ? 'take this back' : 'confirm'}.
            </Second>
          </View>
        </View>
      </Pressable>
      {model.differing.length > 0 && !(turning && mine) && (
        <Finding
          severity="warning"
          sentence={`It runs by what is in the drive: ${model.differing.length} draft ${model.differing.length === 1 ? 'setting is' : 'settings are'} not written.`}
          act="Go to Write"
          onAct={() => router.navigate(`/m/${tag}/write`)}
        />
      )}
      {!wide && (
        <>
          <SectionHead right={`last ${shownSeconds} s`}>Live</SectionHead>
          <TrendChart tag={tag} model={model} />
        </>
      )}
      <SectionHead>Drive</SectionHead>
      <SheetRow label="Torque" figure={formatFigure(live?.link === 'up' ? live.torque : null, 1)} unit="%" second="of rated" />
      <SheetRow label="Input power" figure={formatFigure(live?.link === 'up' ? live.power : null, 2)} unit="kW" second="at the motor" />
      <SheetRow
        label="Motor heat"
        figure={formatFigure(live?.link === 'up' ? live.motorHeat : null, 1)}
        unit="%"
        second="of the overload's trip point"
      />
      {drive && (
        <SheetRow
          label="Link time-out"
          figure={formatFigure(drive.linkTimeout, 1)}
          unit="s"
          second={`${settingFor(model.book, size, 'linkTimeout').code} · without the link the drive stops by itself after this`}
        />
      )}
      <Note>
        While you hold, command is yours. Letting go, hiding or closing this page, or one second without the link stops the motor, and command goes
        back to the terminals.
      </Note>
    </MachineFrame>
  );
}
