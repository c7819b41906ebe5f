import { View } from '@tamagui/core';
import { router, useLocalSearchParams } from 'expo-router';
import { Fragment, useState } from 'react';
import { storedValue, wordsOf, type Setting } from '@yare/books';
import type { WriteLine, WriteReport } from '@yare/contract';
import { formatFigure } from '@yare/core';
import { useLive } from '../../data/live';
import { useMachineEdits } from '../../data/edits';
import { useMachineModel, type MachineModel } from '../../data/machineModel';
import { useLookAhead } from '../../data/lookAhead';
import { motionFindings } from '../../data/motionFindings';
import { useReadDrive, useWrite } from '../../data/queries';
import type { Act } from '../../ui/bar';
import { MachineFrame } from '../../ui/MachineFrame';
import { ProofShape, WarningShape } from '../../ui/shapes';
import { Finding, Note, SectionHead, SheetRow, sourceMark } from '../../ui/sheet';
import { when } from '../../ui/when';
import { Body, Figure, Mono, Second, Strong } from '../../ui/text';
import { useLook, useWide } from '../../ui/theme';
import { WithModel } from '../../ui/Waiting';

/** The draft against what is in the drive: what will change, written, read back, verified, kept. */
export function WriteScreen() {
  const { tag } = useLocalSearchParams<{ tag: string }>();
  return <WithModel state={useMachineModel(tag)}>{(model) => <WriteSheet model={model} />}</WithModel>;
}

function WriteSheet({ model }: { model: MachineModel }) {
  const { tag } = model.machine;
  const wide = useWide();
  const live = useLive([tag])(tag);
  const edits = useMachineEdits(tag);
  const write = useWrite(tag);
  const read = useReadDrive(tag);
  const [report, setReport] = useState<WriteReport | null>(null);
  const { differing } = model;
  const unsent = Object.keys(edits.draft.changes).length > 0;
  const turning = live?.state === 'running' || live?.state === 'stopping';
  const count = differing.length;
  const spec = model.draftSpec.ok && count > 0 ? model.draftSpec.spec : null;
  const ahead = useLookAhead(spec, null);
  const warnings = spec && ahead.draft ? motionFindings(spec, ahead.draft).filter((f) => f.severity === 'error') : [];
  const busy = write.isPending;
  const start = () => {
    if (busy) return;
    setReport(null);
    write.mutate({ revision: model.draft.revision, codes: differing.map((s) => s.code) }, { onSuccess: setReport });
  };
  const acts: Act[] = [
    {
      words: read.isPending ? 'Reading…' : 'Read from drive',
      hotkey: 'r',
      disabled: read.isPending || busy,
      onPress: () => read.mutate(),
      testID: 'read-drive',
    },
    count > 0
      ? {
          words: busy ? 'Writing…' : `Write ${count} ${count === 1 ? 'value' : 'values'}`,
          main: true,
          hotkey: 'w',
          disabled: busy || unsent,
          onPress: start,
          testID: 'write',
        }
      : { words: 'Go on to Turn it', main: true, hotkey: 'g', onPress: () => router.navigate(`/m/${tag}/turn`), testID: 'go-turn' },
  ];
  return (
    <MachineFrame
      model={model}
      stage="write"
      title="Write"
      acts={acts}
      evidenceTitle={report ? 'What was written' : 'What the drive will store'}
      evidenceNote={report ? when(report.at) : ''}
      evidence={report ? <Report report={report} model={model} /> : <HelpOf settings={differing} />}
    >
      {write.error && <Finding severity="error" sentence={write.error.message} />}
      {read.error && <Finding severity="error" sentence={read.error.message} />}
      {report && <Finding severity={report.outcome === 'kept' ? 'good' : 'error'} sentence={report.sentence} />}
      {live?.link === 'up' && live.unkept && (
        <Finding severity="warning" sentence="The drive holds values in working memory that are gone at power-off. Write again to keep them." />
      )}
      {live?.link === 'down' && (
        <Finding
          severity="warning"
          sentence={`The drive of ${tag} does not answer. What is listed as in drive was last read ${model.inDrive ? when(model.inDrive.at) : 'never'}.`}
        />
      )}
      {turning && count > 0 && (
        <Finding
          severity="warning"
          sentence={`${tag} is turning. Settings locked while running will be refused and nothing will be changed; let it stand first.`}
        />
      )}
      {warnings.map((f) => (
        <Finding
          key={f.sentence}
          severity="error"
          sentence={`Looked ahead with this draft: ${f.sentence}`}
          act="Go to Motion"
          onAct={() => router.navigate(`/m/${tag}/motion`)}
        />
      ))}
      {!model.inDrive && <Note>The drive was not read yet. As soon as it answers, its settings are listed here against the draft.</Note>}
      <SectionHead right={count > 0 ? `${count} of ${model.settings.length} settings` : undefined}>
        {report ? 'Still differing' : 'Will change in the drive'}
      </SectionHead>
      {count === 0 && model.inDrive && <Note>{`Draft and drive agree in all ${model.settings.length} settings. Nothing to write.`}</Note>}
      {differing.map((s) => (
        <DifferenceRow key={s.code} model={model} setting={s} />
      ))}
      {!wide && report && report.lines.length > 0 && (
        <>
          <SectionHead>Last write</SectionHead>
          <Report report={report} model={model} />
        </>
      )}
    </MachineFrame>
  );
}

/** A rounding below this is shown by the figure alone, %. */
const worthTelling = 0.5;

/** One difference: in drive, draft, and what the drive will store after its rounding. */
function DifferenceRow({ model, setting }: { model: MachineModel; setting: Setting }) {
  const now = model.draftOf(setting.code);
  const inDrive = model.inDriveOf(setting.code)!;
  const stored = storedValue(setting, now.value);
  const off = now.value === 0 ? 0 : Math.abs(stored / now.value - 1) * 100;
  const standstill = setting.access === 'stopped' ? ' · only at standstill' : '';
  return (
    <Fragment>
      <View flexDirection="row" minHeight={64} borderBottomWidth={1} borderColor="$rule" backgroundColor="$sheet" testID={`diff-${setting.code}`}>
        <View width={42} alignItems="center" justifyContent="center" borderRightWidth={1} borderColor="$plum">
          <Mono fontFamily="$monoBold" color="$plum">
            {sourceMark[now.source]}
          </Mono>
        </View>
        <View flex={1} minWidth={0} justifyContent="center" paddingLeft={10} paddingVertical={8}>
          <Body>
            <Mono color="$soft" fontSize={15}>
              {setting.code}
            </Mono>{' '}
            {setting.name}
          </Body>
          <Second>
            in drive {[wordsOf(setting, inDrive.value), setting.unit].filter(Boolean).join(' ')}
            {standstill}
          </Second>
        </View>
        {setting.options ? (
          <View justifyContent="center" paddingRight={16} maxWidth="42%">
            <Strong fontSize={18} color="$plum" textAlign="right">
              {wordsOf(setting, stored)}
            </Strong>
          </View>
        ) : (
          <View flexDirection="row" alignItems="center">
            <Figure color="$plum">{wordsOf(setting, stored)}</Figure>
            <View width={56} paddingLeft={6}>
              <Second>{setting.unit}</Second>
            </View>
          </View>
        )}
      </View>
      {off > worthTelling && (
        <Finding
          severity={off > 5 && setting.role === 'overloadCurrent' ? 'error' : 'warning'}
          sentence={`The draft says ${now.value} ${setting.unit}; this drive holds steps of ${setting.step} and will store ${wordsOf(setting, stored)} ${setting.unit}, ${formatFigure(off, 1)} % off.`}
        />
      )}
    </Fragment>
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
            {s.options ? '' : ` Range ${s.min} to ${s.max} ${s.unit}, step ${s.step}.`}
          </Second>
        </View>
      ))}
    </>
  );
}

const resultWords: Record<WriteLine['result'], string> = {
  verified: 'read back the same',
  refused: 'refused',
  'put back': 'put back as it was',
  'not reached': 'not written',
  unknown: 'not known: read the drive',
};

function Report({ report, model }: { report: WriteReport; model: MachineModel }) {
  const look = useLook();
  return (
    <>
      {report.lines.map((l) => {
        const s = model.settings.find((x) => x.code === l.code)!;
        return (
          <SheetRow
            key={l.code}
            testID={`line-${l.code}`}
            label={l.name}
            second={`${resultWords[l.result]}${l.sentence ? `: ${l.sentence}` : ''} · was ${wordsOf(s, l.before)} ${l.unit}`}
            mark={
              l.result === 'verified' ? (
                <ProofShape proof="proved" />
              ) : l.result === 'not reached' ? (
                <ProofShape proof="not yet" />
              ) : (
                <WarningShape colour={l.result === 'refused' ? look.red : look.yellow} />
              )
            }
            {...(s.options ? { words: wordsOf(s, l.readBack ?? l.before) } : { figure: wordsOf(s, l.readBack ?? l.before), unit: l.unit })}
          />
        );
      })}
    </>
  );
}
