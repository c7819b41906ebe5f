import { View } from '@tamagui/core';
import type { Setting } from '@yare/books';
import { stageAfter, stages, type MachineModel } from '@yare/commissioning';
import { say } from '@yare/words/pages/write';
import { stopWrite } from '../../data/write';
import { goOn } from '../../machine/goOn';
import { MachineFrame } from '../../machine/MachineFrame';
import { machineScreen } from '../../machine/machineScreen';
import { Refusal } from '../../ui/Answer';
import type { Act } from '../../ui/bar';
import { go } from '../../ui/go';
import { useGoing } from '../../ui/going';
import { SectionHead } from '../../ui/sheet';
import { Body, Mono, Second } from '../../ui/text';
import { useWide } from '../../ui/theme';
import { when } from '../../ui/when';
import { Differences, useExtent } from './Differences';
import { values, WriteFindings } from './WriteFindings';
import { WriteProgress, WriteReport } from './WriteReport';
import { useWriting, type Writing } from './writing';

/** The way back to the stage or case that asked for the write; null where the order of the job leads on anyway. */
function backToWhoAsked(tag: string): Act | null {
  const { before } = useGoing.getState();
  const [, path] = new RegExp(`^/m/${tag}/([a-z-]+)`).exec(before) ?? [];
  const stage = stages.find((s) => s.path === path);
  if (!stage || stage.path === 'write' || stageAfter(stage.path)?.path === 'write') return null;
  return { text: say.backTo({ name: stage.name }), main: true, hotkey: 'g', onPress: () => go(before), testID: 'back-to-asked' };
}

/** Reading the drive, and the one act that is in order now: stop, write, or go on. */
function writeActs(model: MachineModel, writing: Writing, { extent, toWrite }: ReturnType<typeof useExtent>): Act[] {
  const { tag } = model.machine;
  const { read, going } = writing;
  const count = toWrite.length;
  const write: Act = {
    text: say.holdToWrite({ extent, count, values: values(count) }),
    main: true,
    held: true,
    disabled: writing.unsent || count === 0,
    onPress: () => {
      if (!going && count > 0) writing.start(toWrite.map((s) => s.code));
    },
    testID: 'write',
  };
  const rest: Act | null = writing.rest && {
    text: say.holdToWriteTheRest({ values: values(writing.rest.length) }),
    main: true,
    held: true,
    onPress: writing.goOn,
    testID: 'go-on',
  };
  const stop: Act = { text: say.stopAndPutBack, main: true, atOnce: true, onPress: () => void stopWrite(tag), testID: 'stop-write' };
  return [
    {
      text: read.isPending ? say.reading : say.readFromDrive,
      hotkey: 'r',
      disabled: read.isPending || going,
      onPress: () => read.mutate(),
      testID: 'read-drive',
    },
    going
      ? stop
      : (rest ?? (model.differing.length > 0 || extent === 'all' ? write : (backToWhoAsked(tag) ?? goOn(tag, 'write', { testID: 'go-turn' })))),
  ];
}

function WriteSheet({ model }: { model: MachineModel }) {
  const wide = useWide();
  const writing = useWriting(model);
  const extents = useExtent(model);
  const { job, report, broken, going, lines } = writing;
  const under = job?.state === 'writing' ? job.lines : [];
  return (
    <MachineFrame
      model={model}
      stage="write"
      title={say.write}
      acts={writeActs(model, writing, extents)}
      evidenceTitle={lines.length > 0 ? say.whatWasWritten : say.whatTheSettingsDo}
      evidenceNote={report ? when(report.at) : broken ? when(broken.at) : ''}
      evidence={lines.length > 0 ? <WriteReport lines={lines} model={model} /> : <HelpOf settings={model.differing} />}
    >
      {writing.errors.map((e) => (
        <Refusal key={e.message} of={e} />
      ))}
      {going && <WriteProgress lines={under} of={under.length > 0 ? under.length : extents.toWrite.length} />}
      <WriteFindings model={model} writing={writing} />
      <Differences model={model} reported={report !== null} extents={extents} />
      {!wide && lines.length > 0 && (
        <>
          <SectionHead>{broken ? say.whereItBrokeOff : say.lastWrite}</SectionHead>
          <WriteReport lines={lines} model={model} />
        </>
      )}
    </MachineFrame>
  );
}

function HelpOf({ settings }: { settings: readonly Setting[] }) {
  return (
    <>
      {settings.map((s) => (
        <View key={s.code} padding={12} paddingHorizontal={16} borderBottomWidth={1} borderColor="$rule">
          <Body>
            <Mono fontFamily="$monoBold" fontSize={15}>
              {s.code}
            </Mono>{' '}
            {s.name}
          </Body>
          <Second>
            {s.help}
            {s.options ? '' : say.rangeToStep({ min: s.min, max: s.max, unit: s.unit && ` ${s.unit}`, step: s.step })}
          </Second>
        </View>
      ))}
    </>
  );
}

/** The draft against what is in the drive, from the factory or as found; written, read back, verified, kept. */
export const WriteScreen = machineScreen(WriteSheet);
