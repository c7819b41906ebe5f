import { machineScreen } from '../../machine/machineScreen';
import { stopWrite, useLastWrite, useResumeWrite, useWrite } from '../../data/write';
import type { MachineModel } from '@yare/commissioning';
import { View } from '@tamagui/core';
import { useState } from 'react';
import { factoryValue, storedValue, type Setting } from '@yare/books';
import type { WriteReport as Report } from '@yare/contract';
import { useMachineEdits } from '../../data/edits';
import { useKeep, useReadDrive } from '../../data/drive';
import { useLiveValue } from '../../data/live';
import { useLookAhead } from '../../data/lookAhead';
import { motionFindings } from '@yare/commissioning';
import type { Act } from '../../ui/bar';
import { MachineFrame } from '../../machine/MachineFrame';
import { Segments } from '../../ui/Segments';
import { ActRow, Finding, Note, SectionHead } from '../../ui/sheet';
import { Body, Mono, Second } from '../../ui/text';
import { useWide } from '../../ui/theme';
import { when } from '../../ui/when';
import { DifferenceRow } from './DifferenceRow';
import { WriteProgress, WriteReport } from './WriteReport';
import { go } from '../../ui/go';
import { goOn } from '../../machine/goOn';

type Against = 'in drive' | 'factory' | 'as found';
type Extent = 'changed' | 'chosen' | 'all';

const values = (n: number) => `${n} ${n === 1 ? 'value' : 'values'}`;

/** The other side's value of a setting. */
const valueOf = (model: MachineModel, against: Against, s: Setting): number | undefined =>
  against === 'factory'
    ? factoryValue(s, model.machine.region)
    : (against === 'in drive' ? model.inDriveOf(s.code) : model.asFound?.values[s.code])?.value;

function WriteSheet({ model }: { model: MachineModel }) {
  const { tag } = model.machine;
  const wide = useWide();
  const link = useLiveValue(tag, (s) => s?.link);
  const unkept = useLiveValue(tag, (s) => s?.link === 'up' && s.unkept);
  const edits = useMachineEdits(tag);
  const write = useWrite(tag);
  const resume = useResumeWrite(tag);
  const read = useReadDrive(tag);
  const keep = useKeep(tag);
  const busy = write.isPending || resume.isPending;
  const { data: job } = useLastWrite(tag, busy);
  const [report, setReport] = useState<Report | null>(null);
  const [against, setAgainst] = useState<Against>('in drive');
  const [extent, setExtent] = useState<Extent>('changed');
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const { differing } = model;
  const writable = model.drafted.all.filter((s) => s.access !== 'read');
  const shown =
    against === 'in drive' ? differing : writable.filter((s) => storedValue(s, model.draftOf(s.code).value) !== valueOf(model, against, s));
  const toWrite = extent === 'all' ? writable : extent === 'chosen' ? differing.filter((s) => !left.has(s.code)) : differing;
  const unsent = Object.keys(edits.draft.changes).length > 0;
  const turning = useLiveValue(tag, (s) => s?.state === 'running' || s?.state === 'stopping');
  const spec = model.draftSpec.ok && differing.length > 0 ? model.draftSpec.spec : null;
  const ahead = useLookAhead(spec, null);
  const warnings = spec && ahead.draft ? motionFindings(spec, ahead.draft).filter((f) => f.severity === 'error') : [];
  const wrong = model.findings.filter((f) => f.severity === 'error');
  const broken = !busy && job && (job.state === 'link lost' || job.state === 'interrupted') && job.lines.length > 0 ? job : null;
  const elsewhere = !busy && job?.state === 'writing' ? job : null;
  const going = busy || elsewhere !== null;
  const lines = report?.lines ?? broken?.lines ?? [];
  const start = () => {
    if (going || toWrite.length === 0) return;
    setReport(null);
    write.mutate({ revision: model.draft.revision, codes: toWrite.map((s) => s.code) }, { onSuccess: setReport });
  };
  const goOnWriting = () => {
    setReport(null);
    resume.mutate(undefined, { onSuccess: setReport });
  };
  const count = toWrite.length;
  const acts: Act[] = [
    {
      words: read.isPending ? 'Reading…' : 'Read from drive',
      hotkey: 'r',
      disabled: read.isPending || going,
      onPress: () => read.mutate(),
      testID: 'read-drive',
    },
    going
      ? { words: 'Stop and put back', main: true, atOnce: true, onPress: () => void stopWrite(tag), testID: 'stop-write' }
      : differing.length > 0 || extent === 'all'
        ? {
            words: `Write ${extent === 'all' ? `all ${count}` : values(count)}`,
            main: true,
            hotkey: 'w',
            disabled: unsent || count === 0,
            onPress: start,
            testID: 'write',
          }
        : goOn(tag, 'write', { testID: 'go-turn' }),
  ];
  return (
    <MachineFrame
      model={model}
      stage="write"
      title="Write"
      acts={acts}
      evidenceTitle={lines.length > 0 ? 'What was written' : 'What the settings do'}
      evidenceNote={report ? when(report.at) : broken ? when(broken.at) : ''}
      evidence={lines.length > 0 ? <WriteReport lines={lines} model={model} /> : <HelpOf settings={differing} />}
    >
      {[write.error, resume.error, read.error, keep.error].map((e) => e && <Finding key={e.message} severity="error" sentence={e.message} />)}
      {going && (
        <WriteProgress
          lines={job?.state === 'writing' ? job.lines : []}
          of={job?.state === 'writing' && job.lines.length > 0 ? job.lines.length : count}
        />
      )}
      {elsewhere && <Finding severity="warning" sentence={`${elsewhere.author} is writing to ${tag} at this moment.`} />}
      {report && <Finding severity={report.outcome === 'kept' ? 'good' : 'error'} sentence={report.sentence} />}
      {broken && (
        <Finding
          severity={report ? 'act' : 'error'}
          sentence={`${report ? '' : `${broken.sentence} `}${broken.lines.filter((l) => l.result === 'verified').length} of ${broken.lines.length} were in the drive, not kept. Going on reads each one again first.`}
          act={`Go on with the rest: ${values(broken.lines.filter((l) => l.result !== 'verified').length)}`}
          onAct={goOnWriting}
        />
      )}
      {unkept && !going && (
        <Finding
          severity="warning"
          sentence="The drive holds values in working memory that are gone at power-off."
          act={keep.isPending ? 'Keeping…' : 'Keep them'}
          onAct={() => keep.mutate()}
        />
      )}
      {link === 'down' && (
        <Finding
          severity="warning"
          sentence={`The drive of ${tag} does not answer. What is listed as in drive was last read ${model.inDrive ? when(model.inDrive.at) : 'never'}.`}
        />
      )}
      {turning && differing.length > 0 && (
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
          onAct={() => go(`/m/${tag}/motion`)}
        />
      ))}
      {differing.length > 0 &&
        wrong.map((f) => <Finding key={f.id} severity="error" sentence={f.sentence} act="Go there" onAct={() => go(`/m/${tag}/${f.stage}`)} />)}
      <Segments
        label="The draft against"
        options={(['in drive', 'factory', 'as found'] as const).map((a) => ({
          value: a,
          words: { 'in drive': 'In drive', factory: 'Factory', 'as found': 'As found' }[a],
          testID: `against-${a.replace(' ', '-')}`,
        }))}
        value={against}
        onChoose={setAgainst}
      />
      {!model.inDrive && <Note>The drive was not read yet. As soon as it answers, its settings are listed here against the draft.</Note>}
      <SectionHead right={shown.length > 0 ? `${shown.length} of ${model.drafted.all.length} settings` : undefined}>
        {against !== 'in drive'
          ? `The draft is not as ${against === 'factory' ? 'from the factory' : 'found'}`
          : report
            ? 'Still differing'
            : 'Will change in the drive'}
      </SectionHead>
      {shown.length === 0 && (against !== 'in drive' || model.inDrive) && (
        <Note>
          {against === 'in drive'
            ? `Draft and drive agree in all ${model.drafted.all.length} settings. Nothing to write.`
            : against === 'as found' && !model.asFound
              ? 'The drive was not read yet.'
              : 'No difference.'}
        </Note>
      )}
      {shown.map((s) => (
        <DifferenceRow
          key={s.code}
          model={model}
          setting={s}
          against={{ name: against, value: valueOf(model, against, s) }}
          {...(extent === 'chosen' &&
            against === 'in drive' && {
              chosen: !left.has(s.code),
              onChoose: () =>
                setLeft((was) => {
                  const now = new Set(was);
                  if (!now.delete(s.code)) now.add(s.code);
                  return now;
                }),
            })}
        />
      ))}
      {against === 'in drive' && model.inDrive && (
        <>
          <SectionHead>How much to write</SectionHead>
          <Segments
            label="How much to write"
            options={[
              { value: 'changed', words: 'What differs', second: String(differing.length), testID: 'extent-changed' },
              { value: 'chosen', words: 'Chosen', second: 'one by one', testID: 'extent-chosen' },
              { value: 'all', words: 'All', second: String(writable.length), testID: 'extent-all' },
            ]}
            value={extent}
            onChoose={setExtent}
          />
          <ActRow words="Compare with something else" second="a revision, another machine" onPress={() => go(`/m/${tag}/compare`)} />
        </>
      )}
      {!wide && lines.length > 0 && (
        <>
          <SectionHead>{broken ? 'Where it broke off' : 'Last write'}</SectionHead>
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
            {s.options ? '' : ` Range ${s.min} to ${s.max} ${s.unit}, step ${s.step}.`}
          </Second>
        </View>
      ))}
    </>
  );
}

/** The draft against what is in the drive, from the factory or as found; written, read back, verified, kept. */
export const WriteScreen = machineScreen(WriteSheet);
