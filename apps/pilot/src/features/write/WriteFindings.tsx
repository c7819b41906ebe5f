import type { MachineModel } from '@yare/commissioning';
import { useAnotherDrive, useLiveValue } from '../../data/live';
import { go } from '../../ui/go';
import { Finding } from '../../ui/sheet';
import { when } from '../../ui/when';
import { useDraftWarnings, type Writing } from './writing';

export const values = (n: number) => `${n} ${n === 1 ? 'value' : 'values'}`;

/** What came of the write, and what is in the way of the next one. */
export function WriteFindings({ model, writing }: { model: MachineModel; writing: Writing }) {
  const { report, broken } = writing;
  const { tag } = model.machine;
  const unkept = useLiveValue(tag, (s) => s?.link === 'up' && s.unkept);
  return (
    <>
      {writing.elsewhere && <Finding severity="warning" sentence={`${writing.elsewhere.author} is writing to ${tag} at this moment.`} />}
      {report && <Finding severity={report.outcome === 'kept' ? 'good' : 'error'} sentence={report.sentence} />}
      {broken && (
        <Finding
          severity={report ? 'act' : 'error'}
          sentence={`${report ? '' : `${broken.sentence} `}${broken.lines.filter((l) => l.result === 'verified').length} of ${broken.lines.length} were in the drive, not kept. ${writing.rest ? 'Writing the rest reads each one again first.' : 'The next write begins afresh.'}`}
          {...(writing.rest && { act: 'Begin afresh instead', onAct: writing.beginAfresh })}
        />
      )}
      {unkept && !writing.going && (
        <Finding
          severity="warning"
          sentence="The drive holds values in working memory that are gone at power-off."
          act={writing.keep.isPending ? 'Keeping…' : 'Keep them'}
          onAct={() => writing.keep.mutate()}
        />
      )}
      <InTheWay model={model} />
    </>
  );
}

/** The link, a turning motor, what the look-ahead says, and what is wrong with the draft. */
function InTheWay({ model }: { model: MachineModel }) {
  const { tag } = model.machine;
  const link = useLiveValue(tag, (s) => s?.link);
  const turning = useLiveValue(tag, (s) => s?.state === 'running' || s?.state === 'stopping');
  const another = useAnotherDrive(tag);
  const warnings = useDraftWarnings(model);
  const differs = model.differing.length > 0;
  return (
    <>
      {link === 'down' && (
        <Finding
          severity="warning"
          sentence={`${another ? `${another.family} ${another.size} answers instead of the drive on record: take it on the Drive stage, or check the Modbus address.` : `The drive of ${tag} does not answer.`} ${model.inDrive ? `What is listed as in drive was read ${when(model.inDrive.at)}.` : 'It was never read.'}`}
        />
      )}
      {turning && differs && (
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
      {differs &&
        model.findings
          .filter((f) => f.severity === 'error')
          .map((f) => <Finding key={f.id} severity="error" sentence={f.sentence} act="Go there" onAct={() => go(`/m/${tag}/${f.stage}`)} />)}
    </>
  );
}
